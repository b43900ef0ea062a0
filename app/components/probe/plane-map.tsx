import { plain } from "../../../core";
import { bandPolygons, contourLines, valueBetween } from "../figure/bands";
import { mixed } from "../figure/colour";
import { Drawing } from "../figure/drawing";
import type { Pen, Point } from "../figure/pen";
import { linear, labelledTicks, ticks } from "../../../formats/figures";
import { AxisName } from "../figure/axis-name";
import styles from "./probe.module.css";

export const PLANE = { width: 556, height: 430 };
const M = { left: 54, right: 22, top: 10, bottom: 46 };
const CELLS = 48;
const LEVELS = 9;
/** Spacing of hatching, in pixels, and how closely a line of it is followed. */
const HATCH = 9;
const STEP = 3;

export interface PlaneValue {
  value: number;
  /**
   * Above zero where the value is told apart from zero, below where it is not; undefined where that
   * is no question.
   */
  sure?: number;
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

type Grid = number[][];

/**
 * A quantity over two variables: tints between contour lines, hatching where nothing is sure, and
 * the people.
 */
export function PlaneMap({ xName, yName, what, xRange, yRange, at, people, edges = [] }: Props) {
  const { width, height } = PLANE;
  const x = linear(xRange, [M.left, width - M.right]);
  const y = linear(yRange, [height - M.bottom, M.top]);
  const along = ([min, max]: [number, number]): number[] =>
    Array.from({ length: CELLS + 1 }, (_, i) => min + ((max - min) * i) / CELLS);
  const cells = along(xRange).map((a) => along(yRange).map((b) => at(a, b)));
  const values = cells.map((column) => column.map((c) => c.value));
  const sure =
    cells[0]![0]!.sure === undefined ? null : cells.map((column) => column.map((c) => c.sure!));
  const all = values.flat();
  const [min, max] = [Math.min(...all), Math.max(...all)];
  const levels = ticks([min, max], LEVELS);
  const place = ([i, j]: Point): Point => [
    x(xRange[0] + ((xRange[1] - xRange[0]) * i) / CELLS),
    y(yRange[0] + ((yRange[1] - yRange[0]) * j) / CELLS),
  ];
  return (
    <div className={styles.leverPlot} style={PLANE}>
      <Drawing
        className={styles.plane}
        {...PLANE}
        draw={(pen, style) => {
          tint(pen, style, values, levels, place);
          if (sure) hatch(pen, style, sure, place);
          for (let i = 0; i < (people?.x.length ?? 0); i++)
            pen.circle(x(people!.x[i]!), y(people!.y[i]!), 2, { fill: style.color, opacity: 0.5 });
        }}
      />
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`${what} over ${xName} and ${yName}, from ${plain(min, 2)} to ${plain(max, 2)}`}
      >
        <Contours levels={levels} grid={values} place={place} />
        {sure && <path className={styles.sureEdge} d={pathOf(contourLines(sure, 0), place)} />}
        {edges.map((edge) => (
          <g key={edge} className={styles.stripEdge}>
            <path d={`M${M.left} ${y(edge)}H${width - M.right}`} />
            <text x={width - M.right - 4} y={y(edge) - 5} textAnchor="end">
              {plain(edge, 2)}
            </text>
          </g>
        ))}
        <g className={styles.axes}>
          {labelledTicks(xRange, 7).map(([v, text]) => (
            <text key={v} x={x(v)} y={height - M.bottom + 18} textAnchor="middle">
              {text}
            </text>
          ))}
          {labelledTicks(yRange, 6).map(([v, text]) => (
            <text key={v} x={M.left - 8} y={y(v) + 4} textAnchor="end">
              {text}
            </text>
          ))}
          <AxisName
            className={styles.axisName}
            text={xName}
            room={width - M.left}
            x={(M.left + width - M.right) / 2}
            y={height - 8}
            textAnchor="middle"
          />
          <AxisName
            className={styles.axisName}
            text={yName}
            room={height - M.bottom - M.top}
            transform={`translate(14 ${(M.top + height - M.bottom) / 2}) rotate(-90)`}
            textAnchor="middle"
          />
        </g>
      </svg>
    </div>
  );
}

type PlaceOf = (point: Point) => Point;

/** One tint for each band between levels: petrol above zero, rust below where both signs occur. */
function tint(
  pen: Pen,
  style: CSSStyleDeclaration,
  grid: Grid,
  levels: number[],
  place: PlaceOf,
): void {
  const colour = (name: string): string => style.getPropertyValue(name);
  const all = grid.flat();
  const [min, max] = [Math.min(...all), Math.max(...all)];
  const signed = min < 0 && max > 0;
  const cuts = [min, ...levels.filter((l) => l > min && l < max), max];
  cuts.slice(1).forEach((high, i) => {
    const low = cuts[i]!;
    const middle = (low + high) / 2;
    const share = signed
      ? Math.abs(middle) / Math.max(-min, max)
      : (middle - min) / (max - min || 1);
    const fill = mixed(
      colour("--paper"),
      colour(signed && middle < 0 ? "--rust" : "--petrol"),
      0.06 + 0.6 * share,
    );
    // A hair of the same colour closes the seam to the neighbour.
    for (const polygon of bandPolygons(grid, low, high))
      pen.shape(polygon.map(place), true, { fill, stroke: fill, width: 0.7 });
  });
}

/** Pale and hatched where the value cannot be told from zero. */
function hatch(pen: Pen, style: CSSStyleDeclaration, sure: Grid, place: PlaceOf): void {
  const paper = style.getPropertyValue("--paper");
  for (const polygon of bandPolygons(sure, -Infinity, 0))
    pen.shape(polygon.map(place), true, { fill: paper, opacity: 0.6 });
  const [left, bottom] = place([0, 0]);
  const [right, top] = place([CELLS, CELLS]);
  const inside = (px: number, py: number): boolean =>
    valueBetween(
      sure,
      ((px - left) / (right - left)) * CELLS,
      ((bottom - py) / (bottom - top)) * CELLS,
    ) < 0;
  for (let start = left - (bottom - top); start < right; start += HATCH) {
    let run: Point[] = [];
    const end = (): void => {
      if (run.length > 1)
        pen.shape([run[0]!, run.at(-1)!], false, {
          stroke: style.color,
          width: 0.8,
          opacity: 0.35,
        });
      run = [];
    };
    for (let t = 0; t <= bottom - top; t += STEP) {
      const [px, py] = [start + t, bottom - t];
      if (px >= left && px <= right && inside(px, py)) run.push([px, py]);
      else end();
    }
    end();
  }
}

const pathOf = (lines: [Point, Point][], place: PlaceOf): string =>
  lines
    .map((line) =>
      line
        .map(place)
        .map(([px, py], i) => `${i === 0 ? "M" : "L"}${px.toFixed(1)} ${py.toFixed(1)}`)
        .join(""),
    )
    .join("");

/** How far apart the numbers on lines stand, in pixels across and down. */
const APART = { x: 40, y: 14 };
/** Numbers stand in one column where their lines reach it. */
const COLUMN = CELLS * 0.72;

/**
 * Where the quantity has one value, and the value written once: in one column where lines reach it,
 * else where a line comes nearest to it and no other number stands.
 */
function Contours({ levels, grid, place }: { levels: number[]; grid: Grid; place: PlaceOf }) {
  const taken: Point[] = [];
  return levels.map((level) => {
    const lines = contourLines(grid, level);
    const at = lines
      .map(([start]) => start)
      .sort(([a], [b]) => Math.abs(a - COLUMN) - Math.abs(b - COLUMN))
      .map(place)
      .find(([px, py]) =>
        taken.every(([tx, ty]) => Math.abs(px - tx) > APART.x || Math.abs(py - ty) > APART.y),
      );
    if (at) taken.push(at);
    return (
      <g key={level} className={styles.contour}>
        <path d={pathOf(lines, place)} />
        {at && (
          <text x={at[0]} y={at[1] + 4} textAnchor="middle">
            {plain(level, 2)}
          </text>
        )}
      </g>
    );
  });
}
