import { download, fileName } from "../download";
import { fontFaces } from "./font-faces";
import { markupOf } from "./drawing";
import { escapedMarkup } from "../../../formats/markup";

const STYLES = [
  "fill",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "stroke-opacity",
  "opacity",
  "fill-opacity",
  "font-size",
  "font-family",
  "font-weight",
  "font-style",
  "paint-order",
] as const;
const LINE = 17;
const MARGIN = 10;
/** Rough width of a letter of the caption. */
const LETTER = 6.8;

interface Picture {
  text: string;
  width: number;
  height: number;
}

/**
 * One SVG of all pictures in an element, black on white whatever the screen looks like, with the
 * caption beneath; what is empty above and below is cut off.
 * @param fonts the faces it is set in, as a style sheet with their data
 */
export function pictureOf(holder: HTMLElement, caption: string, fonts = ""): Picture {
  holder.dataset.look = "print";
  try {
    const frame = holder.getBoundingClientRect();
    const at = (element: Element): string => {
      const box = element.getBoundingClientRect();
      return `translate(${box.x - frame.x + MARGIN} ${box.y - frame.y + MARGIN})`;
    };
    // In document order, so that what lies on top on the screen does so in the file.
    const parts = [...holder.querySelectorAll("canvas, svg, [data-figure-text]")].map((element) => {
      if (element instanceof HTMLCanvasElement)
        return `<g transform="${at(element)}">${markupOf(element)}</g>`;
      if (element instanceof SVGSVGElement)
        return `<g transform="${at(element)}">${styled(element).innerHTML}</g>`;
      return textOf(element as HTMLElement, at(element));
    });
    const width = Math.ceil(frame.width) + 2 * MARGIN;
    const lines = wrapped(caption, Math.floor((width - 2 * MARGIN) / LETTER));
    const filled = filledPart(holder, frame);
    const top = Math.ceil(filled.bottom - filled.top) + 2 * MARGIN;
    const height = top + lines.length * LINE + MARGIN;
    const words = lines
      .map(
        (line, i) =>
          `<text x="${MARGIN}" y="${top + (i + 1) * LINE - 4}">${escapedMarkup(line)}</text>`,
      )
      .join("");
    const { color, fontFamily } = getComputedStyle(holder);
    const font = fontFamily.replaceAll('"', "'");
    return {
      width,
      height,
      text: `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" font-family="${font}"><style>${fonts}</style><rect width="100%" height="100%" fill="#ffffff"/><g transform="translate(0 ${-filled.top})">${parts.join("")}</g><g font-size="12.5" fill="${color}">${words}</g></svg>`,
    };
  } finally {
    delete holder.dataset.look;
  }
}

/** From the highest to the lowest mark; all of it where a canvas fills its place. */
function filledPart(holder: HTMLElement, frame: DOMRect): { top: number; bottom: number } {
  const drawings = [...holder.querySelectorAll("svg")];
  if (drawings.length === 0 || holder.querySelector("canvas, [data-figure-text]"))
    return { top: 0, bottom: frame.height };
  const marks = drawings
    .flatMap((svg) => [
      ...svg.querySelectorAll<SVGGraphicsElement>("path, rect, text, line, circle"),
    ])
    .map((mark) => mark.getBoundingClientRect())
    .filter((box) => box.width > 0 || box.height > 0);
  return {
    top: Math.max(0, Math.min(...marks.map((box) => box.top)) - frame.top),
    bottom: Math.min(frame.height, Math.max(...marks.map((box) => box.bottom)) - frame.top),
  };
}

/** Words of the page that belong to the picture: the head of a panel, a line of a legend. */
function textOf(element: HTMLElement, place: string): string {
  const { fontSize, fontWeight, color } = getComputedStyle(element);
  return `<text transform="${place}" y="${parseFloat(fontSize)}" font-size="${parseFloat(fontSize)}" font-weight="${fontWeight}" fill="${color}">${escapedMarkup(element.innerText)}</text>`;
}

/** Lines of at most so many letters, broken between words. */
export function wrapped(text: string, most: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(" ")) {
    const line = lines.at(-1);
    if (line !== undefined && line.length + 1 + word.length <= most)
      lines[lines.length - 1] = `${line} ${word}`;
    else lines.push(word);
  }
  return lines;
}

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

/** With its faces inside, so that it looks the same wherever it is opened. */
export async function saveSvg(holder: HTMLElement, caption: string, name: string): Promise<void> {
  const { text } = pictureOf(holder, caption, await fontFaces());
  download(fileName(name, ".svg"), text, "image/svg+xml");
}

/** Twice the size on the screen, so that print is sharp. */
export async function savePng(holder: HTMLElement, caption: string, name: string): Promise<void> {
  const { text, width, height } = pictureOf(holder, caption, await fontFaces());
  const image = new Image();
  const url = URL.createObjectURL(new Blob([text], { type: "image/svg+xml" }));
  image.src = url;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = 2 * width;
  canvas.height = 2 * height;
  canvas.getContext("2d")!.drawImage(image, 0, 0, canvas.width, canvas.height);
  URL.revokeObjectURL(url);
  canvas.toBlob((blob) => blob && download(fileName(name, ".png"), blob, "image/png"));
}
