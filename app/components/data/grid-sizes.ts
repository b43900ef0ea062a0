/** Sizes of the grid in px, which scrolling and drawing must agree on. */
export const ROW_HEIGHT = 28;
export const HEAD_HEIGHT = 112;
export const COLUMN_WIDTH = 136;
/** The column of row numbers. */
export const NUMBER_WIDTH = 60;
