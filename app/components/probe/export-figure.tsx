import Papa from "papaparse";
import type { Evidence, ModerationEvidence } from "../../../core";
import { neutralise } from "../../../formats";
import { download, fileName } from "../download";

const STYLES = [
  "fill",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "opacity",
  "fill-opacity",
  "font-size",
  "font-family",
  "font-weight",
  "font-style",
] as const;
const CAPTION = 30;

interface Props {
  /** Id of the element that holds the pictures, one beneath the other. */
  target: string;
  name: string;
  moderation: ModerationEvidence;
  evidence: Evidence;
}

/** The pictures as they stand, with a caption, and the numbers behind them. */
export function ExportButtons({ target, name, moderation, evidence }: Props) {
  const caption = `${moderation.focalLabel} and ${moderation.outcome} at values of ${moderation.moderators.map((m) => m.name).join(" and ")}; ${evidence.sample.n} ${evidence.unit}, other predictors at their means.`;
  return (
    <div className="lever-exports">
      <button
        type="button"
        className="button"
        onClick={() => download(fileName(name, ".svg"), figureOf(target, caption).text, "image/svg+xml")}
      >
        SVG
      </button>
      <button type="button" className="button" onClick={() => void asPng(target, caption, fileName(name, ".png"))}>
        PNG
      </button>
      <button
        type="button"
        className="button"
        onClick={() => download(fileName(name, ".csv"), slopesCsv(moderation, evidence), "text/csv")}
      >
        Numbers as CSV
      </button>
    </div>
  );
}

/** One picture of all in the element: every style written out, canvases as images. */
function figureOf(target: string, caption: string): { text: string; width: number; height: number } {
  const holder = document.getElementById(target)!;
  const frame = holder.getBoundingClientRect();
  const parts: string[] = [];
  for (const canvas of holder.querySelectorAll("canvas")) {
    const box = canvas.getBoundingClientRect();
    parts.push(
      `<image href="${canvas.toDataURL()}" x="${box.x - frame.x}" y="${box.y - frame.y}" width="${box.width}" height="${box.height}"/>`,
    );
  }
  for (const svg of holder.querySelectorAll("svg")) {
    const box = svg.getBoundingClientRect();
    parts.push(`<g transform="translate(${box.x - frame.x} ${box.y - frame.y})">${styled(svg).innerHTML}</g>`);
  }
  const { color, backgroundColor } = getComputedStyle(document.body);
  const height = frame.height + CAPTION;
  const text = `<svg xmlns="http://www.w3.org/2000/svg" width="${frame.width}" height="${height}" font-family="sans-serif"><rect width="100%" height="100%" fill="${backgroundColor}"/>${parts.join("")}<text x="8" y="${height - 10}" font-size="12" fill="${color}">${escaped(caption)}</text></svg>`;
  return { text, width: frame.width, height };
}

const escaped = (text: string): string => text.replace(/&/g, "&amp;").replace(/</g, "&lt;");

/** A copy in which every mark carries its own look. */
function styled(svg: SVGSVGElement): SVGSVGElement {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const originals = svg.querySelectorAll("*");
  copy.querySelectorAll("*").forEach((element, i) => {
    const computed = getComputedStyle(originals[i]!);
    const style = STYLES.map((name) => `${name}:${computed.getPropertyValue(name)}`).join(";");
    element.setAttribute("style", style.replaceAll('"', "'"));
    element.removeAttribute("class");
  });
  return copy;
}

async function asPng(target: string, caption: string, name: string): Promise<void> {
  const { text, width, height } = figureOf(target, caption);
  const image = new Image();
  const url = URL.createObjectURL(new Blob([text], { type: "image/svg+xml" }));
  image.src = url;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = 2 * width;
  canvas.height = 2 * height;
  canvas.getContext("2d")!.drawImage(image, 0, 0, canvas.width, canvas.height);
  URL.revokeObjectURL(url);
  canvas.toBlob((blob) => blob && download(name, blob, "image/png"));
}

/** The slopes and the ends of the lines, at full precision. */
function slopesCsv({ slopes, lines, focal }: ModerationEvidence, { settings }: Evidence): string {
  const number = (value: number | undefined): string => (value === undefined ? "" : String(value));
  const rows = slopes.map(({ words, estimate, errors }) => {
    const test = errors[settings.errors];
    return [words, String(estimate), number(test?.se), number(test?.t), number(test?.p), number(test?.lower), number(test?.upper)];
  });
  const ends = lines.flatMap(({ words, points }) =>
    points.map((p) => [
      words,
      String(p.at[focal]),
      String(p.predicted),
      number(p.errors[settings.errors]?.lower),
      number(p.errors[settings.errors]?.upper),
    ]),
  );
  const table = [
    ["at", "slope", "SE", "t", "p", "CI lower", "CI upper"],
    ...rows,
    [],
    ["at", focal, "predicted", "CI lower", "CI upper"],
    ...ends,
  ];
  return `${Papa.unparse(table.map((row) => row.map(neutralise)))}\r\n`;
}
