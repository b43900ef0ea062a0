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
  const step = [1, 2, 5, 10].map((m) => m * unit).find((s) => s >= raw) ?? raw;
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
