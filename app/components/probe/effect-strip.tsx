import { useId, useRef, type KeyboardEvent, type PointerEvent } from "react";
import { plain } from "../../../core";
import { linear, padded, labelledTicks, type LinearScale } from "../../../formats/figures";
import { AxisName } from "../figure/axis-name";
import { PICTURE_WIDTH, usePictureWidth } from "./pictures";
import styles from "./probe.module.css";

const HEIGHT = 236;
const M = { left: 62, right: 58, top: 30, bottom: 56 };
const BARS = 24;

export interface StripRegion {
  from: number;
  to: number;
  /** How the region is drawn: a positive or negative effect, or an unclear one. */
  look: "more" | "less" | "unclear";
  words: string;
  percent: number;
}

interface Props {
  over: string;
  /** What a case is called, in the plural. */
  unit: string;
  effectName: string;
  /** The moderator's values that the curve is drawn at, and the effect with its limits there. */
  grid: number[];
  estimate: number[];
  lower: (number | null)[];
  upper: (number | null)[];
  regions: StripRegion[];
  /** Values of the moderator in the data. */
  values: Float64Array | null;
  marks: { value: number; label: string }[];
  value: number;
  /** What the handle's place means, for screen readers. */
  valueWords: string;
  show: (value: number) => number;
  change: (value: number) => void;
}

/**
 * The effect against the moderator with its band, the regions in pattern and words, the people
 * beneath, and the handle.
 */
export function EffectStrip(props: Props) {
  const { over, grid, estimate, lower, upper, value, valueWords, show, change } = props;
  const svg = useRef<SVGSVGElement>(null);
  const width = usePictureWidth();
  const range: [number, number] = [grid[0]!, grid.at(-1)!];
  const x = linear(range, [M.left, width - M.right]);
  const known = [...lower, ...upper].filter((v): v is number => v !== null);
  const y = linear(padded([...estimate, ...known, 0], 0.06), [HEIGHT - M.bottom, M.top]);
  const bottom = HEIGHT - M.bottom;
  const set = (next: number): void => change(Math.min(range[1], Math.max(range[0], next)));
  const drag = (event: PointerEvent): void => {
    const box = svg.current!.getBoundingClientRect();
    set(x.invert(((event.clientX - box.left) / box.width) * width));
  };
  const onKey = (event: KeyboardEvent): void => {
    const step = (range[1] - range[0]) / 100;
    const steps: Record<string, number> = {
      ArrowRight: step,
      ArrowUp: step,
      ArrowLeft: -step,
      ArrowDown: -step,
      PageUp: 10 * step,
      PageDown: -10 * step,
    };
    if (event.key in steps) set(value + steps[event.key]! * (event.shiftKey ? 5 : 1));
    else if (event.key === "Home") set(range[0]);
    else if (event.key === "End") set(range[1]);
    else return;
    event.preventDefault();
  };
  return (
    <div
      className={styles.strip}
      role="slider"
      tabIndex={0}
      aria-label={`Value of ${over}`}
      aria-valuemin={range[0]}
      aria-valuemax={range[1]}
      aria-valuenow={value}
      aria-valuetext={valueWords}
      onKeyDown={onKey}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drag(e);
      }}
      onPointerMove={(e) => e.buttons > 0 && drag(e)}
    >
      <svg ref={svg} width={width} height={HEIGHT} aria-hidden>
        <StripMarks {...props} x={x} y={y} width={width} bottom={bottom} />
        <Handle
          x={x(value)}
          y={y(interpolate(grid, estimate, value))}
          bottom={bottom}
          text={plain(show(value), 2)}
        />
      </svg>
    </div>
  );
}

type MarksProps = Props & { x: LinearScale; y: LinearScale; width: number; bottom: number };

/** Everything of the strip that does not move with the handle. */
function StripMarks({
  over,
  unit,
  effectName,
  grid,
  estimate,
  lower,
  upper,
  regions,
  values,
  marks,
  show,
  x,
  y,
  width,
  bottom,
}: MarksProps) {
  const pattern = useId();
  const range: [number, number] = [grid[0]!, grid.at(-1)!];
  const shown = linear([show(range[0]), show(range[1])], [M.left, width - M.right]);
  const path = (list: (number | null)[]): string =>
    list
      .flatMap((v, i) => (v === null ? [] : [`${x(grid[i]!).toFixed(1)} ${y(v).toFixed(1)}`]))
      .join("L");
  return (
    <>
      <defs>
        <pattern
          id={pattern}
          width={7}
          height={7}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path className={styles.stripHatch} d="M0 0V7" />
        </pattern>
      </defs>
      {regions.map((r) => (
        <g key={r.from} className={`${styles.stripRegion} ${styles[r.look]}`}>
          <rect
            x={x(r.from)}
            y={M.top}
            width={Math.max(0, x(r.to) - x(r.from))}
            height={bottom - M.top}
          />
          {r.look === "unclear" && (
            <rect
              fill={`url(#${pattern})`}
              x={x(r.from)}
              y={M.top}
              width={Math.max(0, x(r.to) - x(r.from))}
              height={bottom - M.top}
              style={{ fill: `url(#${pattern})` }}
            />
          )}
          <RegionWords unit={unit} region={r} left={x(r.from)} width={x(r.to) - x(r.from)} />
        </g>
      ))}
      {values && <People values={values} range={range} bottom={bottom} x={x} />}
      {labelledTicks(y.domain, 4).map(([v, text]) => (
        <text key={v} x={M.left - 8} y={y(v) + 4} textAnchor="end" className={styles.stripTick}>
          {text}
        </text>
      ))}
      <path className={styles.stripZero} d={`M${M.left} ${y(0)}H${width - M.right}`} />
      {lower.some((v) => v !== null) && (
        <path className={styles.leverBand} d={`M${path(upper)}L${reversed(grid, lower, x, y)}Z`} />
      )}
      <path className={styles.stripCurve} d={`M${path(estimate)}`} />
      {regions.slice(1).map((r) => (
        <g key={r.from} className={styles.stripEdge}>
          <path d={`M${x(r.from)} ${M.top - 8}V${bottom}`} />
          <text x={x(r.from)} y={M.top - 12} textAnchor="middle">
            {plain(show(r.from), 2)}
          </text>
        </g>
      ))}
      {labelledTicks([show(range[0]), show(range[1])], width < PICTURE_WIDTH ? 4 : 6).map(
        ([v, text]) => (
          <text
            key={v}
            x={shown(v)}
            y={bottom + 17}
            textAnchor="middle"
            className={styles.stripTick}
          >
            {text}
          </text>
        ),
      )}
      {marks.map((m) => (
        <path key={m.label} className={styles.stripMark} d={`M${x(m.value)} ${bottom}v-7`}>
          <title>{m.label}</title>
        </path>
      ))}
      <AxisName
        className={styles.axisName}
        text={over}
        room={shown(show(range[1])) - M.left}
        x={M.left}
        y={HEIGHT - 6}
      />
      <AxisName
        className={styles.axisName}
        text={effectName}
        room={bottom - M.top}
        transform={`translate(16 ${(M.top + bottom) / 2}) rotate(-90)`}
        textAnchor="middle"
      />
    </>
  );
}

function Handle({ x, y, bottom, text }: { x: number; y: number; bottom: number; text: string }) {
  return (
    <g className={styles.stripHandle}>
      {/* It begins beneath the words of the regions. */}
      <path className={styles.stripStem} d={`M${x} ${M.top + 22}V${bottom}`} />
      <circle cx={x} cy={y} r={5.5} />
      <path className={styles.fulcrum} d={`M${x} ${bottom}l11 19h-22z`} />
      <text x={x} y={bottom + 34} textAnchor="middle">
        {text}
      </text>
    </g>
  );
}

const reversed = (
  grid: number[],
  limit: (number | null)[],
  x: (v: number) => number,
  y: (v: number) => number,
): string =>
  limit
    .map((v, i) => (v === null ? null : `${x(grid[i]!).toFixed(1)} ${y(v).toFixed(1)}`))
    .filter((t) => t !== null)
    .reverse()
    .join("L");

/** Between two points of a grid. */
export function interpolate(grid: number[], values: (number | null)[], at: number): number {
  const step = grid[1]! - grid[0]!;
  const i = Math.min(grid.length - 2, Math.max(0, Math.floor((at - grid[0]!) / step)));
  const [a, b] = [values[i], values[i + 1]];
  return a == null || b == null ? NaN : a + ((b - a) * (at - grid[i]!)) / step;
}

/** Words in a region, as far as it has room for them. */
function RegionWords({
  unit,
  region,
  left,
  width,
}: {
  unit: string;
  region: StripRegion;
  left: number;
  width: number;
}) {
  const percent = `${Math.round(region.percent)} %`;
  const full = `${region.words} · ${percent} of ${unit}`;
  const brief = `${region.look === "unclear" ? "n.s." : region.look} · ${percent}`;
  const text =
    width > full.length * 6.4
      ? full
      : width > brief.length * 6.4
        ? brief
        : width > 34
          ? percent
          : "";
  return (
    <text x={left + width / 2} y={M.top + 15} textAnchor="middle">
      {text}
      <title>{full}</title>
    </text>
  );
}

interface PeopleProps {
  values: Float64Array;
  range: [number, number];
  bottom: number;
  x: (v: number) => number;
}

/** How many people are where along the moderator. */
function People({ values, range, bottom, x }: PeopleProps) {
  const counts = new Array<number>(BARS).fill(0);
  const width = (range[1] - range[0]) / BARS;
  for (const v of values) {
    const at = Math.min(BARS - 1, Math.max(0, Math.floor((v - range[0]) / width)));
    counts[at] = counts[at]! + 1;
  }
  const most = Math.max(...counts);
  return (
    <g className={styles.stripPeople}>
      {counts.map((count, i) => {
        const height = (36 * count) / most;
        const left = x(range[0] + i * width);
        return (
          <rect
            key={i}
            x={left + 0.5}
            y={bottom - height}
            width={Math.max(0.5, x(range[0] + (i + 1) * width) - left - 1)}
            height={height}
          />
        );
      })}
    </g>
  );
}
