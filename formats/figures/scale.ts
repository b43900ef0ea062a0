import { minus, plain } from "../../core";

/** Maps numbers to pixels. */
export interface LinearScale {
  (value: number): number;
  invert: (pixel: number) => number;
  domain: [number, number];
}

export function linear(domain: [number, number], range: [number, number]): LinearScale {
  const [a, b] = domain;
  const [p, q] = range;
  const scale = ((value: number) => p + ((value - a) / (b - a || 1)) * (q - p)) as LinearScale;
  scale.invert = (pixel) => a + ((pixel - p) / (q - p || 1)) * (b - a);
  scale.domain = domain;
  return scale;
}

/** About so many round values within a domain. */
export function ticks([min, max]: [number, number], wanted: number): number[] {
  const raw = (max - min) / wanted;
  const unit = 10 ** Math.floor(Math.log10(raw || 1));
  const steps = [1, 2, 5, 10].map((m) => m * unit);
  // A step wider than the domain may leap over it, as from 2 to 5 where two are wanted within 4.02.
  const step =
    steps.find((s) => s >= raw && s <= (max - min || Infinity)) ??
    steps.findLast((s) => s < raw) ??
    raw;
  const first = Math.ceil(min / step - 1e-9) * step;
  const found: number[] = [];
  for (let v = first; v <= max + step * 1e-9; v += step) found.push(Number(v.toPrecision(12)));
  return found;
}

/** The smallest and largest of several lists, with a little room. */
export function padded(values: Iterable<number>, share = 0.04): [number, number] {
  let min = Infinity;
  let max = -Infinity;
  for (const v of values) {
    if (!Number.isFinite(v)) continue;
    min = Math.min(min, v);
    max = Math.max(max, v);
  }
  const room = (max - min || 1) * share;
  return [min - room, max + room];
}

/**
 * Names of large numbers, as axes of newspapers and journals write them: thousands of millions are
 * billions.
 */
const LARGE: readonly [unit: number, name: string][] = [
  [1e12, " tn"],
  [1e9, " bn"],
  [1e6, " M"],
];

/**
 * Round values as text, all with the same number of decimals: 5, 10, 15, or 0.5, 1.0, 1.5; from a
 * million on in millions: 100 M, 200 M.
 * @param values as `ticks` gives them
 */
function tickTexts(values: readonly number[]): string[] {
  const largest = Math.max(0, ...values.map(Math.abs));
  const large = largest < 1e15 ? LARGE.find(([unit]) => largest >= unit) : undefined;
  const shown = large ? values.map((v) => Number((v / large[0]).toPrecision(12))) : values;
  const places = Math.max(0, ...shown.map((v) => /\.(\d+)$/.exec(String(v))?.[1]?.length ?? 0));
  return shown.map((v) => {
    if (v === 0 && largest >= 1e6) return "0";
    return largest >= 1e15 || places > 6 ? plain(v) : minus(v.toFixed(places)) + (large?.[1] ?? "");
  });
}

/** About so many round values within a domain, each with its text. */
export function labelledTicks(
  domain: [number, number],
  wanted: number,
): [value: number, text: string][] {
  const values = ticks(domain, wanted);
  const texts = tickTexts(values);
  return values.map((v, i) => [v, texts[i]!]);
}
