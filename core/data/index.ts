export {
  cell,
  findColumn,
  TableBuilder,
  tableOfNames,
  type Moments,
  type Table,
  type TextColumn,
} from "./table";
export { namedTable, sourceOf } from "./named-table";
export { sdsOf, tableOfMoments } from "./moments-table";
export type { Coding, Level, Variable } from "./variable";
export {
  inOrdinaryUnit,
  isMissing,
  levelsInOrder,
  observedLevels,
  parseNumber,
  typedColumn,
  type TypedColumn,
} from "./typed-column";
export { numbersOf } from "./numbers";
export { guessDecimal, guessLevel, guessVariable } from "./guess";
export { suspectedCodes, type SuspectedCode } from "./suspected-codes";
export { codeColumns, type CodeColumn } from "./coding";
export { shortNames } from "./short-names";
export { listwise, type NumberColumn } from "./number-column";
export { anySample, listwiseSample, pick, type Sample } from "./sample";
export { equalWidthBars, summarise, type ColumnSummary } from "./summary";
export { packTable, unpackTable, type PackedColumn, type PackedTable } from "./packed-table";
