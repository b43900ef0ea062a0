import { escapedMarkup, oneLine } from "../markup";
import { textWidth } from "./fitted";

/** How a figure for print is made. Lengths inside are points. */
export interface FigureStyle {
  /** Of the figure on paper: one column of a journal is about 85, both about 175. */
  widthMm: number;
  /** Of its text. */
  fontPt: number;
  decimal: "." | ",";
  /** A font as a data URL, so that the file looks the same everywhere; none where null. */
  fontUrl: string | null;
}

export const DEFAULT_FIGURE: FigureStyle = {
  widthMm: 120,
  fontPt: 8,
  decimal: ".",
  fontUrl: null,
};

/** A figure as text, and its size on paper. */
export interface DrawnFigure {
  svg: string;
  widthMm: number;
  heightMm: number;
}

export const POINTS_PER_MM = 72 / 25.4;
const FAMILY = "Hebel Figure";
/**
 * White around letters where lines pass, as a share of the font size: enough to close the gap above
 * a decimal point.
 */
const HALO = 0.55;

/** On one line, as attributes and text of a figure need it. */
export const escapedXml = (text: string): string => escapedMarkup(oneLine(text));

const n = (value: number): string => String(Number(value.toFixed(2)));

interface TextLook {
  anchor?: "start" | "middle" | "end";
  italic?: boolean;
  /** Narrowed to this width where it is wider. */
  most?: number;
  rotate?: number;
  /** White behind the letters, where lines pass. */
  halo?: boolean;
}

/** Marks of one figure, in the order in which they lie on each other. */
export class Pen {
  private readonly marks: string[] = [];

  constructor(readonly size: number) {}

  text(x: number, y: number, text: string, look: TextLook = {}, size = this.size): void {
    const { anchor = "start", italic, most, rotate, halo } = look;
    const squeezed =
      most !== undefined && textWidth(text, size) > most
        ? ` textLength="${n(most)}" lengthAdjust="spacingAndGlyphs"`
        : "";
    const turned = rotate === undefined ? "" : ` transform="rotate(${rotate} ${n(x)} ${n(y)})"`;
    const behind = halo
      ? ` stroke="#fff" stroke-width="${n(size * HALO)}" stroke-linejoin="round" paint-order="stroke"`
      : "";
    this.marks.push(
      `<text x="${n(x)}" y="${n(y)}" font-size="${n(size)}" text-anchor="${anchor}"${italic ? ' font-style="italic"' : ""}${squeezed}${turned}${behind}>${escapedXml(text)}</text>`,
    );
  }

  /** White over what lies beneath. */
  cover(x: number, y: number, width: number, height: number): void {
    this.marks.push(
      `<rect x="${n(x)}" y="${n(y)}" width="${n(width)}" height="${n(height)}" fill="#fff"/>`,
    );
  }

  line(x1: number, y1: number, x2: number, y2: number, width = 0.6, dash = ""): void {
    this.marks.push(
      `<line x1="${n(x1)}" y1="${n(y1)}" x2="${n(x2)}" y2="${n(y2)}" stroke="#000" stroke-width="${width}"${dashed(dash)}/>`,
    );
  }

  path(d: string, width = 0.8, dash = "", fill = "none"): void {
    this.marks.push(
      `<path d="${d}" fill="${fill}" stroke="#000" stroke-width="${width}"${dashed(dash)}/>`,
    );
  }

  polyline(points: readonly (readonly [number, number])[], width = 1, dash = ""): void {
    this.path(pathOf(points), width, dash);
  }

  /** Without an edge. */
  area(points: readonly (readonly [number, number])[], fill: string): void {
    if (points.length > 0)
      this.marks.push(`<path d="${pathOf(points)}Z" fill="${fill}" stroke="none"/>`);
  }

  rect(
    x: number,
    y: number,
    width: number,
    height: number,
    look: { fill?: string; edge?: number } = {},
  ): void {
    const { fill = "#fff", edge = 0.8 } = look;
    this.marks.push(
      `<rect x="${n(x)}" y="${n(y)}" width="${n(width)}" height="${n(height)}" fill="${fill}"${edge > 0 ? ` stroke="#000" stroke-width="${edge}"` : ""}/>`,
    );
  }

  ellipse(x: number, y: number, rx: number, ry: number, edge: number): void {
    this.marks.push(
      `<ellipse cx="${n(x)}" cy="${n(y)}" rx="${n(rx)}" ry="${n(ry)}" fill="#fff" stroke="#000" stroke-width="${edge}"/>`,
    );
  }

  circle(x: number, y: number, r: number, fill = "#000"): void {
    this.marks.push(
      `<circle cx="${n(x)}" cy="${n(y)}" r="${n(r)}" fill="${fill}" stroke="#000" stroke-width="0.8"/>`,
    );
  }

  /** The head of an arrow. @param angle of the arrow, in radians */
  arrowhead(x: number, y: number, angle: number, length: number): void {
    const [along, across] = [length, length * 0.38];
    const at = (dx: number, dy: number): string =>
      `${n(x + dx * Math.cos(angle) - dy * Math.sin(angle))} ${n(y + dx * Math.sin(angle) + dy * Math.cos(angle))}`;
    this.marks.push(
      `<path d="M${at(0, 0)}L${at(-along, -across)}L${at(-along, across)}Z" fill="#000"/>`,
    );
  }

  /** Everything so far, in coordinates of its own. */
  scaled(factor: number): string {
    return `<g transform="scale(${Number(factor.toFixed(5))})">${this.marks.join("")}</g>`;
  }

  get body(): string {
    return this.marks.join("");
  }
}

const dashed = (dash: string): string => (dash === "" ? "" : ` stroke-dasharray="${dash}"`);

const pathOf = (points: readonly (readonly [number, number])[]): string =>
  points.map(([x, y], i) => `${i === 0 ? "M" : "L"}${n(x)} ${n(y)}`).join("");

/** Marks on a white ground as a file. @param title read aloud in place of the picture */
export function figureFile(
  body: string,
  heightPt: number,
  title: string,
  { widthMm, fontPt, fontUrl }: FigureStyle,
): DrawnFigure {
  const width = widthMm * POINTS_PER_MM;
  const heightMm = heightPt / POINTS_PER_MM;
  const font = fontUrl
    ? `<style>@font-face{font-family:"${FAMILY}";src:url(${fontUrl}) format("woff2");font-weight:200 900}</style>`
    : "";
  const family = `${fontUrl ? `'${FAMILY}', ` : ""}'Source Sans 3 Variable', 'Source Sans 3', Arial, Helvetica, sans-serif`;
  return {
    widthMm,
    heightMm,
    svg: `<svg xmlns="http://www.w3.org/2000/svg" width="${n(widthMm)}mm" height="${n(heightMm)}mm" viewBox="0 0 ${n(width)} ${n(heightPt)}" font-family="${family}" font-size="${fontPt}" role="img" aria-label="${escapedXml(title)}"><title>${escapedXml(title)}</title>${font}<rect width="${n(width)}" height="${n(heightPt)}" fill="#fff"/>${body}</svg>`,
  };
}
