import { useId, useMemo } from "react";
import { scaleWords, type ModerationEvidence } from "../../../core";
import { lineHere, type Place, type Units } from "./lever-model";
import { apart } from "../figure/apart";
import { linear, padded, labelledTicks, type LinearScale } from "../../../formats/figures";
import { PeopleLayer, type ShownPoints } from "./people-layer";
import type { Points } from "./use-points";
import { AxisName } from "../figure/axis-name";
import { PICTURE_WIDTH, usePictureWidth } from "./pictures";
import styles from "./probe.module.css";

const HEIGHT = 372;
const M = { left: 62, right: 58, top: 14, bottom: 44 };

export interface Pinned {
  /** The probe it belongs to. */
  probe: string;
  label: string;
  place: Place;
}

interface Props {
  moderation: ModerationEvidence;
  points: Points | null;
  place: Place;
  /** Two-sided critical value of the band. */
  critical: number;
  pinned: Pinned[];
  shown: ShownPoints;
  units: Units;
  /** What stands at the end of the moving line. */
  label: string;
  width?: number;
  height?: number;
}

/**
 * Predictor against outcome: the people, the line that tilts about the mean like a lever, its band,
 * and pinned lines.
 */
export function LeverPlot({
  moderation,
  points,
  place,
  critical,
  pinned,
  shown,
  units,
  label,
  width: asked,
  height = HEIGHT,
}: Props) {
  const room = usePictureWidth();
  const width = asked ?? room;
  const { focal, outcome, model } = moderation;
  const raw = points?.columns[focal];
  const column = model.columns.find((c) => c.key === focal)!;
  const reach = useMemo<[number, number]>(() => {
    return padded(raw ?? [column.mean - 2 * column.sd, column.mean + 2 * column.sd], 0);
  }, [raw, column]);
  const line = lineHere(moderation, place, endsOf(moderation, points, place, reach));
  // A straight line needs its ends only, a curve points between them.
  const steps = moderation.model.link === "identity" || !units.response ? 1 : 24;
  const others = pinned.map((p, i) => ({
    ...p,
    dash: DASHES[i % DASHES.length],
    ends: lineHere(moderation, p.place, endsOf(moderation, points, p.place, reach), steps),
  }));
  const yDomain = useMemo(() => {
    const predicted = lineHere(moderation, place, reach).map((p) => units.mean(p.reading.estimate));
    // Cases have no place on the scale of a linear predictor.
    const cases = units.response ? (points?.y ?? []) : [];
    const shares = isShare(moderation) && units.response ? [0, 1] : [];
    return padded([...cases, ...predicted, ...shares].map(units.y));
    // The frame stays still while the lever moves.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [points, moderation, units, reach]);
  const x = linear(padded(reach.map(units.x), 0.03), [M.left, width - M.right]);
  const y = linear(yDomain, [height - M.bottom, M.top]);
  const at = (
    p: { x: number; reading: { estimate: number; se: number | null } },
    shift: number,
  ): string =>
    `${x(units.x(p.x)).toFixed(1)} ${y(units.y(units.mean(p.reading.estimate + shift * critical * (p.reading.se ?? 0)))).toFixed(1)}`;
  const heightOf = (reading: { estimate: number }): number =>
    y(units.y(units.mean(reading.estimate)));
  const band = `M${line.map((p) => at(p, 1)).join("L")}L${[...line]
    .reverse()
    .map((p) => at(p, -1))
    .join("L")}Z`;
  const middle = lineHere(moderation, place, [column.mean, column.mean], 1)[0]!;
  const last = line.at(-1)!;
  const scale = scaleWords(model.link, outcome);
  const words = units.response ? scale.response : scale.predictor;
  const frame = useId();
  // The line that moves lies on its own pin.
  const pins = others.filter((o) => o.label !== label);
  const ends = [...pins.map((o) => o.ends.at(-1)!), last];
  const heights = ends.map((p) => -heightOf(p.reading));
  const named = apart(heights, WORD).map((h) => 4 - h);
  const beside = Math.max(...ends.map((p) => x(units.x(p.x)))) + 5;
  return (
    <div className={styles.leverPlot} style={{ width, height }}>
      <PeopleLayer
        {...{ points, moderation, place, units, x, y, width, height }}
        shown={units.response ? shown : "none"}
        radius={width < PICTURE_WIDTH ? 2 : 2.7}
      />
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`${words} against ${focal}, with the fitted line at ${label}`}
      >
        <Axes
          x={x}
          y={y}
          width={width}
          height={height}
          xLabel={axisLabel(focal, units)}
          yLabel={axisLabel(words, units)}
        />
        <clipPath id={frame}>
          <rect
            x={M.left}
            y={M.top}
            width={width - M.left - M.right}
            height={height - M.top - M.bottom}
          />
        </clipPath>
        <path className={styles.leverBand} d={band} clipPath={`url(#${frame})`} />
        {pins.map(({ label: name, ends: own, dash }, i) => (
          <g key={name} className={styles.leverPin}>
            <path d={`M${own.map((p) => at(p, 0)).join("L")}`} strokeDasharray={dash} />
            <text x={beside} y={named[i]}>
              {name}
            </text>
          </g>
        ))}
        <path className={styles.leverLine} d={`M${line.map((p) => at(p, 0)).join("L")}`} />
        <path
          className={styles.fulcrum}
          d={fulcrum(x(units.x(column.mean)), heightOf(middle.reading))}
        />
        <text className={styles.leverEnd} x={beside} y={named.at(-1)}>
          {label}
        </text>
      </svg>
    </div>
  );
}

const DASHES = ["6 4", "none", "2 3"];

/** Room of one line of words, in pixels. */
const WORD = 14;

/** Is what is drawn a probability? */
const isShare = ({ model }: ModerationEvidence): boolean =>
  model.link === "logit" || model.link === "probit";

/**
 * The range of the predictor in the group that a place stands for: a line says nothing where a
 * group has no data.
 */
function endsOf(
  { moderators, focal }: ModerationEvidence,
  points: Points | null,
  place: Place,
  ends: [number, number],
): [number, number] {
  const codes = moderators.filter((m) => m.kind !== "numeric").flatMap((m) => m.columns);
  const xs = points?.columns[focal];
  if (!xs || codes.length === 0) return ends;
  const own = Array.from(xs).filter((_, i) =>
    codes.every((key) => Math.abs(points.columns[key]![i]! - (place.get(key) ?? 0)) < SAME_CODE),
  );
  return own.length > 1 ? padded(own, 0) : ends;
}

const SAME_CODE = 1e-9;

const axisLabel = (name: string, units: Units): string =>
  units.standardised ? `${name} (SDs from the mean)` : name;

/** The triangle on which the lever turns, its tip on the line. */
const fulcrum = (x: number, y: number): string => `M${x} ${y + 2}L${x + 11} ${y + 21}H${x - 11}Z`;

interface AxesProps {
  x: LinearScale;
  y: LinearScale;
  width: number;
  height: number;
  xLabel: string;
  yLabel: string;
}

function Axes({ x, y, width, height, xLabel, yLabel }: AxesProps) {
  const bottom = height - M.bottom;
  return (
    <g className={styles.axes}>
      {labelledTicks(y.domain, 5).map(([v, text]) => (
        <g key={v}>
          <path d={`M${M.left} ${y(v)}H${width - M.right}`} />
          <text x={M.left - 8} y={y(v) + 4} textAnchor="end">
            {text}
          </text>
        </g>
      ))}
      {labelledTicks(x.domain, width < PICTURE_WIDTH ? 4 : 7).map(([v, text]) => (
        <text key={v} x={x(v)} y={bottom + 18} textAnchor="middle">
          {text}
        </text>
      ))}
      <AxisName
        className={styles.axisName}
        text={xLabel}
        room={width - M.left}
        x={(M.left + width - M.right) / 2}
        y={height - 6}
        textAnchor="middle"
      />
      <AxisName
        className={styles.axisName}
        text={yLabel}
        room={bottom - M.top}
        transform={`translate(16 ${(M.top + bottom) / 2}) rotate(-90)`}
        textAnchor="middle"
      />
    </g>
  );
}
