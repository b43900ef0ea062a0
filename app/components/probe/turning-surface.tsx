import { useState, type KeyboardEvent, type PointerEvent, type RefObject } from "react";
import { plain } from "../../../core";
import { Drawing } from "../figure/drawing";
import { Segments } from "../ui/segments";
import { PLANE } from "./plane-map";
import { drawSurface, type Surface } from "./surface-drawing";
import styles from "./probe.module.css";
import { Check } from "../ui/check";
import { Controls } from "./layout";

type Side = "corner" | "front" | "side" | "above";
const SIDES: Record<Side, [number, number]> = {
  corner: [-0.75, 0.5],
  front: [0, 0.12],
  side: [-Math.PI / 2, 0.12],
  above: [0, Math.PI / 2],
};
const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-0.08, 0],
  ArrowRight: [0.08, 0],
  ArrowUp: [0, 0.08],
  ArrowDown: [0, -0.08],
};

interface Props {
  surface: Surface;
  what: string;
  /** Gets the element that holds the picture alone. */
  picture: RefObject<HTMLDivElement | null>;
}

/** The predicted outcome as a surface that is turned by mouse, touch or arrow keys. */
export function TurningSurface({ surface, what, picture }: Props) {
  const [[turn, tilt], setAngles] = useState(SIDES.corner);
  const [withPeople, setWithPeople] = useState(false);
  const set = (dTurn: number, dTilt: number): void =>
    setAngles(([a, b]) => [a + dTurn, Math.min(Math.PI / 2, Math.max(0, b + dTilt))]);
  const chosen = (Object.keys(SIDES) as Side[]).find(
    (v) => SIDES[v][0] === turn && SIDES[v][1] === tilt,
  );
  const onKey = (event: KeyboardEvent): void => {
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    set(...step);
  };
  const onMove = (event: PointerEvent): void => {
    if (event.buttons > 0) set(event.movementX * 0.01, event.movementY * 0.01);
  };
  return (
    <>
      <div
        ref={picture}
        className={styles.surface}
        role="slider"
        tabIndex={0}
        aria-label={`${what} as a surface; arrow keys turn and tilt it`}
        aria-valuenow={Math.round((turn * 180) / Math.PI)}
        aria-valuetext={`turned ${plain((turn * 180) / Math.PI, 0)} degrees, tilted ${plain((tilt * 180) / Math.PI, 0)}`}
        onKeyDown={onKey}
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={onMove}
      >
        <Drawing
          {...PLANE}
          draw={(pen, style) =>
            drawSurface(pen, style, withPeople ? surface : { ...surface, people: null }, turn, tilt)
          }
        />
      </div>
      <Controls>
        <Segments
          label="View of the surface"
          value={chosen ?? ("turned" as Side)}
          choices={[
            ["corner", "from a corner"],
            ["front", `along ${surface.yName}`],
            ["side", `along ${surface.xName}`],
            ["above", "from above"],
          ]}
          choose={(side) => setAngles(SIDES[side])}
        />
        <Check label="the cases" checked={withPeople} onChange={setWithPeople} />
      </Controls>
    </>
  );
}
