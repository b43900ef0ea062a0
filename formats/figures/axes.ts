import { textWidth } from "./fitted";
import { labelledTicks, linear, type LinearScale } from "./scale";
import { type Pen } from "./svg";

/** Where a plot stands in its figure, and what its axes are called. */
export interface PlotFrame {
  left: number;
  right: number;
  top: number;
  bottom: number;
  x: LinearScale;
  y: LinearScale;
}

interface AxisWords {
  x: string;
  y: string;
  /** A number as the style writes it. */
  write: (text: string) => string;
}

/** Draws two axes with their ticks and names, and returns where numbers fall. */
export function drawAxes(
  pen: Pen,
  size: { width: number; height: number; top: number },
  domain: { x: [number, number]; y: [number, number] },
  words: AxisWords,
): PlotFrame {
  const f = pen.size;
  const yTicks = labelledTicks(domain.y, 6).map(([v, t]) => [v, words.write(t)] as const);
  const widest = Math.max(...yTicks.map(([, t]) => textWidth(t, f)));
  const left = widest + 2.9 * f;
  const right = size.width - f;
  const bottom = size.height - 3.4 * f;
  const x = linear(domain.x, [left, right]);
  const y = linear(domain.y, [bottom, size.top]);
  pen.line(left, bottom, right, bottom);
  pen.line(left, bottom, left, size.top);
  const room = Math.max(2, Math.floor((right - left) / (4.5 * f)));
  for (const [value, text] of labelledTicks(domain.x, room)) {
    pen.line(x(value), bottom, x(value), bottom + f * 0.35);
    pen.text(x(value), bottom + f * 1.45, words.write(text), { anchor: "middle" });
  }
  for (const [value, text] of yTicks) {
    pen.line(left - f * 0.35, y(value), left, y(value));
    pen.text(left - f * 0.6, y(value) + f * 0.34, text, { anchor: "end" });
  }
  pen.text((left + right) / 2, bottom + f * 2.9, words.x, {
    anchor: "middle",
    most: right - left,
  });
  const middle = (size.top + bottom) / 2;
  pen.text(f, middle, words.y, { anchor: "middle", rotate: -90, most: bottom - size.top });
  return { left, right, top: size.top, bottom, x, y };
}
