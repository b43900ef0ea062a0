import type { ModerationEvidence } from "../../../core";
import { Drawing } from "../figure/drawing";
import type { LinearScale } from "../../../formats/figures";
import type { Place, Units } from "./lever-model";
import type { Points } from "./use-points";
import styles from "./probe.module.css";

export type ShownPoints = "none" | "near" | "all";

/**
 * Nearness of a person to the handle, in standard deviations of the moderator, that counts as near.
 */
const NEAR = 0.5;

interface Props {
  points: Points | null;
  moderation: ModerationEvidence;
  place: Place;
  shown: ShownPoints;
  units: Units;
  x: LinearScale;
  y: LinearScale;
  width: number;
  height: number;
  radius: number;
}

/**
 * Yes and no would lie on top of each other: they are strewn from their line towards the middle, in
 * pixels, always alike.
 */
const aside = (answer: number, i: number): number => ((i * 7) % 16) * (answer === 1 ? 1 : -1);

/** The people behind the lever, those near its place in full colour. */
export function PeopleLayer({
  points,
  moderation,
  place,
  shown,
  units,
  x,
  y,
  width,
  height,
  radius,
}: Props) {
  return (
    <Drawing
      className={styles.leverPoints}
      width={width}
      height={height}
      draw={(pen, style) => {
        if (!points || shown === "none") return;
        const keys = moderation.moderators.flatMap((m) => m.columns);
        const sds = keys.map((key) => moderation.model.columns.find((c) => c.key === key)?.sd || 1);
        const values = keys.map((key) => points.columns[key]!);
        const goals = keys.map((key) => place.get(key) ?? 0);
        const scattered = points.y.every((v) => v === 0 || v === 1);
        const xs = points.columns[moderation.focal]!;
        const ink = { fill: style.color, opacity: 0.75 };
        const pale = { fill: style.color, opacity: 0.16 };
        for (let i = 0; i < xs.length; i++) {
          let near = true;
          for (let k = 0; k < keys.length && near; k++)
            near = Math.abs(values[k]![i]! - goals[k]!) <= NEAR * sds[k]!;
          pen.circle(
            x(units.x(xs[i]!)),
            y(units.y(points.y[i]!)) + (scattered ? aside(points.y[i]!, i) : 0),
            radius,
            near || shown === "all" ? ink : pale,
          );
        }
      }}
    />
  );
}
