export { centreOf, type Column, type BinaryCoding, type UsedCoding } from "./column";
export { buildDesign, codedColumns, productColumn, type Design, type Equation } from "./design";
export {
  Averages,
  columnsByKey,
  regressionParameters,
  regressionSlope,
  regressionVector,
} from "./regression";
