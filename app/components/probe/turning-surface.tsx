import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { plain } from "../../../core";
import { Segments } from "../segments";

const WIDTH = 660;
const HEIGHT = 470;
const CELLS = 22;
const SIZE = 215;
const LIFT = 150;

interface Props {
  xName: string;
  yName: string;
  what: string;
  xRange: [number, number];
  yRange: [number, number];
  at: (x: number, y: number) => number;
}

type View = "corner" | "front" | "side" | "above";
const VIEWS: Record<View, [number, number]> = {
  corner: [-0.75, 0.5],
  front: [0, 0.12],
  side: [-Math.PI / 2, 0.12],
  above: [0, Math.PI / 2],
};

/** The predicted outcome as a surface that is turned by mouse, touch or arrow keys. */
export function TurningSurface({ xName, yName, what, xRange, yRange, at }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [[turn, tilt], setAngles] = useState(VIEWS.corner);
  const set = (dTurn: number, dTilt: number): void => setAngles(([a, b]) => [a + dTurn, Math.min(Math.PI / 2, Math.max(0, b + dTilt))]);
  const chosen = (Object.keys(VIEWS) as View[]).find((v) => VIEWS[v][0] === turn && VIEWS[v][1] === tilt);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!canvas.current || !context) return;
    const ratio = devicePixelRatio || 1;
    canvas.current.width = WIDTH * ratio;
    canvas.current.height = HEIGHT * ratio;
    context.scale(ratio, ratio);
    drawSurface(context, getComputedStyle(canvas.current), { xName, yName, xRange, yRange, at }, turn, tilt);
  });
  const onKey = (event: KeyboardEvent): void => {
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [-0.08, 0],
      ArrowRight: [0.08, 0],
      ArrowUp: [0, 0.08],
      ArrowDown: [0, -0.08],
    };
    const move = moves[event.key];
    if (!move) return;
    event.preventDefault();
    set(...move);
  };
  const onMove = (event: PointerEvent): void => {
    if (event.buttons > 0) set(event.movementX * 0.01, event.movementY * 0.01);
  };
  return (
    <div>
      <Segments
        label="View of the surface"
        value={chosen ?? ("turned" as View)}
        choices={[
          ["corner", "from a corner"],
          ["front", `along ${yName}`],
          ["side", `along ${xName}`],
          ["above", "from above"],
        ]}
        choose={(view) => setAngles(VIEWS[view])}
      />
      <div
        className="surface"
        role="slider"
        tabIndex={0}
        aria-label={`${what} as a surface; arrow keys turn and tilt it`}
        aria-valuenow={Math.round((turn * 180) / Math.PI)}
        aria-valuetext={`turned ${plain((turn * 180) / Math.PI, 0)} degrees, tilted ${plain((tilt * 180) / Math.PI, 0)}`}
        onKeyDown={onKey}
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={onMove}
      >
        <canvas ref={canvas} style={{ width: WIDTH, height: HEIGHT }} aria-hidden />
      </div>
    </div>
  );
}

type Shape = Pick<Props, "xName" | "yName" | "xRange" | "yRange" | "at">;

/** Draws far cells first; height is told by the tint and by the shape. */
function drawSurface(context: CanvasRenderingContext2D, style: CSSStyleDeclaration, shape: Shape, turn: number, tilt: number): void {
  const { xName, yName, xRange, yRange, at } = shape;
  const value = (i: number, j: number): number =>
    at(xRange[0] + ((xRange[1] - xRange[0]) * i) / CELLS, yRange[0] + ((yRange[1] - yRange[0]) * j) / CELLS);
  const grid = Array.from({ length: CELLS + 1 }, (_, i) => Array.from({ length: CELLS + 1 }, (__, j) => value(i, j)));
  const all = grid.flat();
  const [min, max] = [Math.min(...all), Math.max(...all)];
  const height = (v: number): number => (max > min ? (v - min) / (max - min) - 0.5 : 0);
  const project = (u: number, v: number, h: number): { x: number; y: number; depth: number } => {
    const [a, b] = [u * Math.cos(turn) - v * Math.sin(turn), u * Math.sin(turn) + v * Math.cos(turn)];
    return { x: WIDTH / 2 + a * SIZE, y: HEIGHT / 2 - b * SIZE * Math.sin(tilt) - h * LIFT * Math.cos(tilt), depth: b };
  };
  const unit = (k: number): number => (2 * k) / CELLS - 1;
  const cells = Array.from({ length: CELLS * CELLS }, (_, k) => {
    const [i, j] = [Math.floor(k / CELLS), k % CELLS];
    const corners = [
      [i, j],
      [i + 1, j],
      [i + 1, j + 1],
      [i, j + 1],
    ].map(([a, b]) => project(unit(a!), unit(b!), height(grid[a!]![b!]!)));
    return { corners, depth: corners.reduce((sum, c) => sum + c.depth, 0), share: height(grid[i]![j]!) + 0.5 };
  }).sort((a, b) => b.depth - a.depth);
  context.clearRect(0, 0, WIDTH, HEIGHT);
  for (const { corners, share } of cells) {
    const path = new Path2D(`M${corners.map((c) => `${c.x} ${c.y}`).join("L")}Z`);
    context.globalAlpha = 1;
    context.fillStyle = style.getPropertyValue("--sheet");
    context.fill(path);
    context.globalAlpha = 0.12 + 0.66 * share;
    context.fillStyle = style.getPropertyValue("--petrol");
    context.fill(path);
    context.globalAlpha = 0.35;
    context.strokeStyle = style.color;
    context.lineWidth = 0.7;
    context.stroke(path);
  }
  context.globalAlpha = 1;
  context.fillStyle = style.color;
  context.font = `14px ${style.fontFamily}`;
  context.textAlign = "center";
  const write = (text: string, u: number, v: number): void => {
    const p = project(u, v, -0.62);
    context.fillText(text, p.x, p.y + 14);
  };
  write(`${xName} →`, 0, -1.14);
  write(`${yName} →`, 1.16, 0);
}
