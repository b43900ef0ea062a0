export {
  influenceAt,
  statisticCovariance,
  statisticPlaces,
  statisticValues,
  statisticVariances,
} from "./gamma";
export type { StatisticPlace } from "./gamma";
export { codesOf, levelsOf, MOST_LEVELS, numericColumn, orderedColumn } from "./levels";
export type { NumericColumn, OrderedColumn, StagedColumn } from "./levels";
export { polychoricMatrix } from "./matrix";
export { polychoric, type Polychoric } from "./polychoric";
export {
  crossTable,
  Influences,
  PerfectAssociation,
  stagedStatistics,
  type Pair,
  type StagedStatistics,
} from "./statistics";
