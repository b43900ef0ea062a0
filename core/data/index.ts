export { cell, findColumn, TableBuilder, type Table, type TextColumn } from "./table";
export type { Coding, Level, Variable } from "./variable";
export { isMissing, levelsInOrder, observedLevels, parseNumber, typedColumn, type TypedColumn } from "./typed-column";
export { guessDecimal, guessVariable } from "./guess";
export { codeColumns, type CodeColumn } from "./coding";
export { listwiseSample, pick, type Sample } from "./sample";
export { equalWidthBars, summarise, type ColumnSummary } from "./summary";
export { packTable, unpackTable, type PackedColumn, type PackedTable } from "./packed-table";
