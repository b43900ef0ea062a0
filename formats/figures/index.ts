export { layoutDiagram, type Arrow, type DiagramLayout } from "./layout";
export {
  explainedWords,
  INSET,
  itemNumber,
  measuredAs,
  modelWords,
  structureOf,
  type Measured,
} from "./measured";
export { ITEM_HEIGHT, ITEM_WIDTH, placeItems, type PlacedItem } from "./place-items";
export { labelledTicks, linear, padded, ticks, type LinearScale } from "./scale";
export type { Box, Point } from "./shapes";
export { drawFigure } from "./draw";
export { pathFigure, type PathChoices } from "./path-figure";
export { DEFAULT_FIGURE, type DrawnFigure, type FigureStyle } from "./svg";
export { MM_PER_INCH, withResolution } from "./png-resolution";
export { fitted, onTwoLines, textWidth } from "./fitted";
