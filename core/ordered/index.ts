export {
  influenceAt,
  statisticCovariance,
  statisticPlaces,
  statisticValues,
  statisticVariances,
} from "./gamma";
export type { StatisticPlace } from "./gamma";
export { codesOf, levelsOf, numericColumn, orderedColumn } from "./levels";
export type { NumericColumn, OrderedColumn, StagedColumn } from "./levels";
export { polychoric, type Polychoric } from "./polychoric";
export {
  crossTable,
  Influences,
  PerfectAssociation,
  stagedStatistics,
  type Pair,
  type StagedStatistics,
} from "./statistics";
