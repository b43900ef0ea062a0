import { pathEffects, plain, pValue, type EffectEvidence, type Evidence } from "../../core";
import { layoutDiagram, type DiagramLayout } from "./layout";
import { explainedWords, INSET, itemNumber, measuredAs } from "./measured";
import { placeItems } from "./place-items";
import { textWidth } from "./fitted";
import type { Box } from "./shapes";
import { figureFile, Pen, POINTS_PER_MM, type DrawnFigure, type FigureStyle } from "./svg";

export interface PathChoices {
  /** Nothing: a conceptual diagram. */
  estimates: "none" | "raw" | "standardised";
  /** What stands under an estimate. */
  beside: "interval" | "p" | "nothing";
  /** Constructs with their items. */
  items: boolean;
}

const CARD = 52;
/** Of a digit among its points and commas, as a share of the font size. */
const FIGURES = 0.47;
/**
 * The layout's own units: so many to the size of the text, and how many a column of cards with its
 * arrows needs.
 */
const UNITS = 15;
const COLUMN = 245;
const WIDEST = 1100;
/**
 * Where cards leave no more room than that for their names, the text is made smaller, down to a
 * size that can still be read.
 */
const LARGEST = 20;
const LEAST_PT = 6;
/** From this size on arrows have room for one line. */
const ONE_LINE = 18.5;

/** Said on a figure that has no room for what its caption promises. */
const NO_ROOM = { interval: "Intervals", p: "p values", nothing: "" };
const NO_ROOM_WHY = "have no room at this width; they stand in the table of effects.";

/**
 * The plain convention of textbooks: ellipses for factors, double lines for composites, rectangles
 * for observed variables.
 */
export function pathFigure(
  evidence: Evidence,
  choices: PathChoices,
  title: string,
  style: FigureStyle,
): DrawnFigure {
  const width = style.widthMm * POINTS_PER_MM;
  const columns = columnsOf(evidence);
  const inner = Math.min(WIDEST, Math.max(columns * COLUMN, (width / style.fontPt) * UNITS));
  const factor = width / inner;
  // Two lines of numbers ask for somewhat smaller letters, as long as they can be read.
  const largest = choices.beside === "nothing" ? LARGEST : ONE_LINE;
  const size = Math.max(Math.min(style.fontPt / factor, largest), LEAST_PT / factor);
  const noRoom = choices.estimates !== "none" && choices.beside !== "nothing" && size > ONE_LINE;
  const beside = noRoom ? "nothing" : choices.beside;
  const unfolded = choices.items ? evidence.latent : [];
  const layout = layoutDiagram(
    evidence,
    inner,
    inner * (unfolded.length > 0 ? 0.62 : 0.45),
    new Set(unfolded.map((l) => l.name)),
  );
  const pen = new Pen(size);
  const edge = Number((0.8 / factor).toFixed(2));
  for (const { d } of layout.arrows) pen.path(d, edge);
  for (const { d, tip, angle } of layout.moderators) {
    pen.path(d, edge);
    pen.arrowhead(tip.x, tip.y, angle + Math.PI, size * 0.6);
  }
  for (const box of layout.boxes) {
    const factorItems = unfolded.find((l) => l.name === box.name)?.items;
    if (factorItems) drawItems(pen, box, factorItems, evidence, style, choices);
    drawCard(pen, box, evidence, edge);
    pen.text(box.x + box.width / 2, box.y + box.height / 2 + size * 0.34, box.name, {
      anchor: "middle",
      most: box.width - 10,
    });
    if (choices.estimates !== "none" && !factorItems)
      drawExplained(
        pen,
        box,
        explainedWords(evidence, box.name, (v) => written(v, style)),
      );
  }
  if (choices.estimates !== "none")
    for (const { from, to, label } of layout.arrows)
      drawNumbers(pen, label, pathEffects(evidence, from, to, choices.estimates), beside, style);
  // Over the numbers, so that short arrows keep their direction.
  for (const { tip } of layout.arrows) pen.arrowhead(tip.x, tip.y, tip.angle, size * 0.75);
  const { top, bottom: lowest } = extentOf(layout, size);
  const bottom = noRoom ? lowest + size * 1.4 : lowest;
  if (noRoom)
    pen.text(0, bottom - size * 0.4, `${NO_ROOM[choices.beside]} ${NO_ROOM_WHY}`, { italic: true });
  return figureFile(
    `<g transform="translate(0 ${(-top * factor).toFixed(2)})">${pen.scaled(factor)}</g>`,
    (bottom - top) * factor,
    title,
    style,
  );
}

/** Columns of cards that the model has where there is room for all. */
function columnsOf(evidence: Evidence): number {
  const onPaths = new Set(evidence.paths.flatMap((p) => [p.from, p.to]));
  const boxes = layoutDiagram(evidence, 4 * WIDEST, WIDEST).boxes;
  return new Set(boxes.filter((b) => onPaths.has(b.name)).map((b) => Math.round(b.x))).size;
}

/** From the highest to the lowest mark: cards, arrows that bend around them, and numbers. */
function extentOf({ boxes, arrows }: DiagramLayout, size: number): { top: number; bottom: number } {
  const heights = arrows.flatMap(({ d, label }) => [
    ...[...d.matchAll(/-?\d+(?:\.\d+)?[ ,](-?\d+(?:\.\d+)?)/g)].map((pair) => Number(pair[1])),
    label.y - size,
    label.y + size,
  ]);
  return {
    top: Math.min(...heights, ...boxes.map((b) => b.y)) - size,
    bottom: Math.max(...heights, ...boxes.map((b) => b.y + b.height)) + size,
  };
}

function drawCard(pen: Pen, box: Box, evidence: Evidence, edge: number): void {
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  const measured = measuredAs(evidence, box.name);
  if (measured === "factor") {
    pen.ellipse(middle.x, middle.y, box.width / 2, CARD / 2, edge);
    return;
  }
  const top = middle.y - CARD / 2;
  pen.rect(box.x, top, box.width, CARD, { edge });
  if (measured === "composite")
    pen.rect(box.x + INSET, top + INSET, box.width - 2 * INSET, CARD - 2 * INSET, {
      edge: edge / 2,
    });
}

/** Above the right end of its card, smaller, where arrows seldom pass. */
function drawExplained(pen: Pen, box: Box, words: string): void {
  if (words === "") return;
  const middle = box.y + box.height / 2;
  pen.text(
    box.x + box.width,
    middle - CARD / 2 - pen.size * 0.3,
    words,
    { anchor: "end", halo: true },
    pen.size * 0.82,
  );
}

function drawItems(
  pen: Pen,
  box: Box,
  items: readonly string[],
  evidence: Evidence,
  style: FigureStyle,
  { estimates }: PathChoices,
): void {
  const small = Math.min(11, pen.size);
  for (const { item, x, y, width, height, from, above } of placeItems(box, items)) {
    const end = { x: x + width / 2, y: above ? y + height : y };
    pen.line(from.x, from.y, end.x, end.y, 0.8);
    pen.rect(x, y, width, height);
    pen.text(end.x, y + 14, item, { anchor: "middle", most: width - 4 }, small);
    if (estimates !== "none")
      pen.text(
        (from.x + end.x) / 2,
        (from.y + end.y) / 2 + 4,
        written(itemNumber(evidence, box.name, item).value, style),
        { anchor: "middle", halo: true },
        small,
      );
  }
}

const written = (value: number | null, { decimal }: FigureStyle): string => {
  const text = plain(value, 2);
  return decimal === "," ? text.replace(".", ",") : text;
};

/** One number with what stands under it, or several beneath each other. */
function drawNumbers(
  pen: Pen,
  at: { x: number; y: number },
  effects: readonly EffectEvidence[],
  beside: PathChoices["beside"],
  style: FigureStyle,
): void {
  const shown = effects.flatMap((e) => (e.shown ? [{ ...e.shown, estimate: e.estimate }] : []));
  if (shown.length === 0 || shown.length < effects.length) return;
  const f = pen.size;
  const look = { anchor: "middle", halo: true } as const;
  const under = shown.length === 1 ? besideWords(shown[0]!, beside, style) : "";
  if (under !== "") {
    const wide = Math.max(
      textWidth(written(shown[0]!.estimate, style), f, FIGURES),
      textWidth(under, f * 0.82, FIGURES),
    );
    // Between the two lines as well: a curve that passes there would be read as a sign.
    pen.cover(at.x - wide / 2, at.y - f * 0.9, wide, f * 1.9);
    pen.text(at.x, at.y - f * 0.12, written(shown[0]!.estimate, style), look);
    pen.text(at.x, at.y + f * 0.85, under, look, f * 0.82);
    return;
  }
  const middle = at.y + f * 0.34 - ((shown.length - 1) * f) / 2;
  shown.forEach(({ estimate }, i) =>
    pen.text(at.x, middle + i * f, written(estimate, style), look),
  );
}

function besideWords(
  { lower, upper, p, pIsBound }: NonNullable<EffectEvidence["shown"]>,
  beside: PathChoices["beside"],
  style: FigureStyle,
): string {
  if (beside === "interval" && lower !== null && upper !== null)
    return `[${written(lower, style)}${style.decimal === "," ? ";" : ","} ${written(upper, style)}]`;
  if (beside === "p" && p !== null) {
    const text = pValue(p, pIsBound);
    return `p ${text.startsWith("<") ? text : `= ${text}`}`.replace(".", style.decimal);
  }
  return "";
}
