import { useEffect, useRef } from "react";
import { plain } from "../../../core";
import { linear, ticks } from "./scale";

const WIDTH = 660;
const HEIGHT = 470;
const M = { left: 62, right: 30, top: 14, bottom: 48 };
const CELLS = 60;
const LEVELS = 9;

export interface PlaneValue {
  value: number;
  /** Whether the value is told apart from zero; undefined where that is no question. */
  sure?: boolean;
}

interface Props {
  xName: string;
  yName: string;
  what: string;
  xRange: [number, number];
  yRange: [number, number];
  at: (x: number, y: number) => PlaneValue;
  people: { x: ArrayLike<number>; y: ArrayLike<number> } | null;
  /** Values of y where something changes, drawn across. */
  edges?: number[];
}

/** A quantity over two variables: tints in steps, contour lines with their values, hatching where nothing is sure, and the people. */
export function PlaneMap({ xName, yName, what, xRange, yRange, at, people, edges = [] }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const x = linear(xRange, [M.left, WIDTH - M.right]);
  const y = linear(yRange, [HEIGHT - M.bottom, M.top]);
  const grid = Array.from({ length: CELLS + 1 }, (_, i) =>
    Array.from({ length: CELLS + 1 }, (__, j) =>
      at(xRange[0] + ((xRange[1] - xRange[0]) * i) / CELLS, yRange[0] + ((yRange[1] - yRange[0]) * j) / CELLS),
    ),
  );
  const all = grid.flat().map((g) => g.value);
  const [min, max] = [Math.min(...all), Math.max(...all)];
  const levels = ticks([min, max], LEVELS);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (canvas.current && context) draw(context, canvas.current, grid, people, x, y);
  });
  return (
    <div className="lever-plot" style={{ width: WIDTH, height: HEIGHT }}>
      <canvas ref={canvas} className="plane" style={{ width: WIDTH, height: HEIGHT }} aria-hidden />
      <svg
        width={WIDTH}
        height={HEIGHT}
        role="img"
        aria-label={`${what} over ${xName} and ${yName}, from ${plain(min, 2)} to ${plain(max, 2)}`}
      >
        {levels.map((level) => (
          <Contour
            key={level}
            level={level}
            grid={grid.map((row) => row.map((g) => g.value))}
            x={(i) => x(xRange[0] + ((xRange[1] - xRange[0]) * i) / CELLS)}
            y={(j) => y(yRange[0] + ((yRange[1] - yRange[0]) * j) / CELLS)}
          />
        ))}
        {edges.map((edge) => (
          <g key={edge} className="strip-edge">
            <path d={`M${M.left} ${y(edge)}H${WIDTH - M.right}`} />
            <text x={WIDTH - M.right - 4} y={y(edge) - 5} textAnchor="end">
              {plain(edge, 2)}
            </text>
          </g>
        ))}
        <g className="axes">
          {ticks(xRange, 7).map((v) => (
            <text key={v} x={x(v)} y={HEIGHT - M.bottom + 18} textAnchor="middle">
              {plain(v, 1).replace(/\.0$/, "")}
            </text>
          ))}
          {ticks(yRange, 6).map((v) => (
            <text key={v} x={M.left - 8} y={y(v) + 4} textAnchor="end">
              {plain(v, 1).replace(/\.0$/, "")}
            </text>
          ))}
          <text className="axis-name" x={(M.left + WIDTH - M.right) / 2} y={HEIGHT - 8} textAnchor="middle">
            {xName}
          </text>
          <text className="axis-name" transform={`translate(16 ${(M.top + HEIGHT - M.bottom) / 2}) rotate(-90)`} textAnchor="middle">
            {yName}
          </text>
        </g>
      </svg>
    </div>
  );
}

type Scale = (value: number) => number;

/** Tints in steps, pale and hatched where nothing is sure, and the people on top. */
function draw(
  context: CanvasRenderingContext2D,
  canvas: HTMLCanvasElement,
  grid: PlaneValue[][],
  people: Props["people"],
  x: Scale,
  y: Scale,
): void {
  const ratio = devicePixelRatio || 1;
  canvas.width = WIDTH * ratio;
  canvas.height = HEIGHT * ratio;
  context.scale(ratio, ratio);
  const style = getComputedStyle(canvas);
  const [more, less] = [style.getPropertyValue("--petrol"), style.getPropertyValue("--rust")];
  const all = grid.flat().map((g) => g.value);
  const [min, max] = [Math.min(...all), Math.max(...all)];
  const signed = min < 0 && max > 0;
  const [w, h] = [(WIDTH - M.left - M.right) / CELLS, (HEIGHT - M.top - M.bottom) / CELLS];
  for (let i = 0; i < CELLS; i++) {
    for (let j = 0; j < CELLS; j++) {
      const { value, sure } = grid[i]![j]!;
      const share = signed ? Math.abs(value) / Math.max(-min, max) : (value - min) / (max - min || 1);
      context.globalAlpha = (0.06 + 0.62 * (Math.round(share * LEVELS) / LEVELS)) * (sure === false ? 0.35 : 1);
      context.fillStyle = signed && value < 0 ? less : more;
      const [left, right] = [Math.round(M.left + i * w), Math.round(M.left + (i + 1) * w)];
      const [top, bottom] = [Math.round(HEIGHT - M.bottom - (j + 1) * h), Math.round(HEIGHT - M.bottom - j * h)];
      context.fillRect(left, top, right - left, bottom - top);
      if (sure === false && (i + j) % 4 === 0) {
        context.globalAlpha = 0.35;
        context.fillStyle = style.color;
        context.fillRect(left, top, right - left, 1);
      }
    }
  }
  context.globalAlpha = 0.5;
  context.fillStyle = style.color;
  for (let i = 0; i < (people?.x.length ?? 0); i++) {
    context.beginPath();
    context.arc(x(people!.x[i]!), y(people!.y[i]!), 2, 0, 7);
    context.fill();
  }
}

interface ContourProps {
  level: number;
  grid: number[][];
  x: (i: number) => number;
  y: (j: number) => number;
}

/** Where the quantity has one value: crossings of cell edges, joined within each cell, and the value written once. */
function Contour({ level, grid, x, y }: ContourProps) {
  const parts: string[] = [];
  let label: { x: number; y: number } | null = null;
  for (let i = 0; i + 1 < grid.length; i++) {
    for (let j = 0; j + 1 < grid[i]!.length; j++) {
      const corners = [
        [i, j],
        [i + 1, j],
        [i + 1, j + 1],
        [i, j + 1],
      ] as const;
      const cuts = corners.flatMap(([a, b], k) => {
        const [c, d] = corners[(k + 1) % 4]!;
        const [u, v] = [grid[a]![b]! - level, grid[c]![d]! - level];
        if (u * v > 0 || u === v) return [];
        const t = u / (u - v);
        return [{ x: x(a + (c - a) * t), y: y(b + (d - b) * t) }];
      });
      if (cuts.length < 2) continue;
      parts.push(`M${cuts[0]!.x.toFixed(1)} ${cuts[0]!.y.toFixed(1)}L${cuts[1]!.x.toFixed(1)} ${cuts[1]!.y.toFixed(1)}`);
      if (i === Math.floor(grid.length * 0.72)) label = cuts[0]!;
    }
  }
  return (
    <g className="contour">
      <path d={parts.join("")} />
      {label && (
        <text x={label.x} y={label.y + 4} textAnchor="middle">
          {plain(level, 2)}
        </text>
      )}
    </g>
  );
}
