export { analyse } from "./analyse";
export { checkSettings, prepare, type Prepared } from "./prepare";
export { StudyProblem, type ProblemCode, type ProblemPlace, type Warning, type WarningCode } from "./problems";
export {
  CENTRINGS,
  chosenCovariance,
  COVARIANCES,
  ERRORS,
  DEFAULT_SETTINGS,
  INTERVALS,
  MAX_REPLICATIONS,
  type CovarianceKind,
  type ErrorKind,
  type IntervalKind,
  type Settings,
  newDefinition,
  type ProbeChoice,
  type LogEntry,
  type ScreeningSet,
  type StudyDefinition,
} from "./study";
export { buildDataset, findVariable, tryRecipe, usesOf, type DataDefinition, type Dataset, type Origin } from "./dataset";
export * from "./derive";
export { findCell, rowsWhere, shownText, sortRows, type CellPlace } from "./dataset-view";
export { describeChange, withLog } from "./change-log";
export { checkedName, renameVariable } from "./rename-variable";
export { replaceData, type Replacement } from "./replace-data";
export { itemFamilies, type ItemFamily, type ItemStatistics, type Reliability } from "./measures";
export type { CorrelationCell, CorrelationTable, CorrelationTest, Description } from "./screening";
export { ENGINE } from "./version";
export * from "./data";
export * from "./evidence";
export * from "./theory";
export {
  bootstrapSummary,
  pointwiseCritical,
  Resampler,
  type BootstrapSummary,
  type IntervalInput,
  type FalseDiscovery,
  type JohnsonNeyman,
  type Region,
  type ReplicateBlock,
  type ResamplingProblem,
} from "./inference";
export type { EffectKind } from "./effects";
