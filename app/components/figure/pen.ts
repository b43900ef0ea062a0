import { escapedMarkup } from "../../../formats/markup";

/** How a mark looks; colours as the browser writes them. */
export interface Ink {
  fill?: string;
  stroke?: string;
  width?: number;
  opacity?: number;
  /** Lengths of dash and gap. */
  dash?: [number, number];
}

export type Point = readonly [x: number, y: number];

export interface Writing {
  fill: string;
  size: number;
  align?: "start" | "middle" | "end";
  weight?: number;
}

/**
 * What pictures are drawn with: the same drawing goes to a canvas on the screen and to SVG in a
 * file.
 */
export interface Pen {
  circle(x: number, y: number, radius: number, ink: Ink): void;
  /** A line through points; closed, a polygon. */
  shape(points: readonly Point[], closed: boolean, ink: Ink): void;
  text(x: number, y: number, words: string, writing: Writing): void;
}

export function canvasPen(context: CanvasRenderingContext2D, font: string): Pen {
  const apply = ({ fill, stroke, width = 1, opacity = 1, dash }: Ink): void => {
    context.globalAlpha = opacity;
    if (fill) {
      context.fillStyle = fill;
      context.fill();
    }
    if (stroke) {
      context.strokeStyle = stroke;
      context.lineWidth = width;
      context.setLineDash(dash ?? []);
      context.stroke();
    }
  };
  return {
    circle(x, y, radius, ink) {
      context.beginPath();
      context.arc(x, y, radius, 0, 7);
      apply(ink);
    },
    shape(points, closed, ink) {
      context.beginPath();
      for (const [x, y] of points) context.lineTo(x, y);
      if (closed) context.closePath();
      apply(ink);
    },
    text(x, y, words, { fill, size, align = "start", weight = 400 }) {
      context.globalAlpha = 1;
      context.fillStyle = fill;
      context.font = `${weight} ${size}px ${font}`;
      context.textAlign = align === "middle" ? "center" : align;
      context.fillText(words, x, y);
    },
  };
}

/** Coordinates in files: a hundredth of a pixel is plenty. */
const short = (value: number): string => String(Number(value.toFixed(2)));

/** A pen that writes SVG; `markup` is what has been drawn so far. */
export function svgPen(): Pen & { markup: () => string } {
  const parts: string[] = [];
  const look = ({ fill, stroke, width = 1, opacity = 1, dash }: Ink): string =>
    `fill="${fill ?? "none"}"${stroke ? ` stroke="${stroke}" stroke-width="${width}"` : ""}${opacity < 1 ? ` opacity="${short(opacity)}"` : ""}${dash ? ` stroke-dasharray="${dash.join(" ")}"` : ""}`;
  return {
    circle: (x, y, radius, ink) =>
      parts.push(`<circle cx="${short(x)}" cy="${short(y)}" r="${short(radius)}" ${look(ink)}/>`),
    shape: (points, closed, ink) =>
      parts.push(
        `<path d="M${points.map(([x, y]) => `${short(x)} ${short(y)}`).join("L")}${closed ? "Z" : ""}" ${look(ink)}/>`,
      ),
    text: (x, y, words, { fill, size, align = "start", weight = 400 }) =>
      parts.push(
        `<text x="${short(x)}" y="${short(y)}" fill="${fill}" font-size="${size}" font-weight="${weight}" text-anchor="${align}">${escapedMarkup(words)}</text>`,
      ),
    markup: () => parts.join(""),
  };
}
