export {
  analyse,
  Analysis,
  keepingEverybody,
  settingMends,
  type Progress,
  type SettingMend,
} from "./analysis";
export { ReplicateMaker, resamplerOf, type MakerRequest } from "./preparation/replicate-maker";
export { ReplicatePool, type MakerThread } from "./analysis/replicate-pool";
export { checkSettings, prepare, type Prepared, type ResamplingProblem } from "./preparation";
export { StudyProblem, type ProblemCode, type ProblemPlace, type Warning } from "./problems";
export { heldWords, listed, type Condition } from "./wording";
export {
  CENTRINGS,
  chosenCovariance,
  COVARIANCES,
  ERRORS,
  MODEL_ERRORS,
  DEFAULT_SETTINGS,
  INTERVALS,
  MAX_DRAWS,
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
export {
  buildDataset,
  findVariable,
  tryRecipe,
  usesOf,
  type DataDefinition,
  type Dataset,
  type Origin,
} from "./dataset";
export type { LinearSensitivity, SensitivitySection } from "./sensitivity";
export * from "./derive";
export { findCell, rowsWhere, shownText, sortRows, type CellPlace } from "./dataset/view";
export { describeChange, withLog } from "./study/change-log";
export { checkedName, renameVariable } from "./study/rename-variable";
export { replaceData, type Replacement } from "./dataset/replace-data";
export {
  BELONGS,
  CROSSES,
  type FactorSolution,
  type LoadedItem,
  type Rotation,
} from "./exploratory";
export {
  type Extraction,
  answeredAlike,
  itemFamilies,
  type AnswerBattery,
  type ItemFamily,
  type ItemStatistics,
  type Reliability,
} from "./measures";
export type { CorrelationCell, CorrelationTable, CorrelationTest, Description } from "./screening";
export { ENGINE } from "./preparation/version";
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
} from "./inference";
export type { Claim } from "./effects";
export type { ByCovariance, CoefficientTest, EffectKind, FTest } from "./model";
export type { UsedCoding } from "./design";
export {
  engineOf,
  engines,
  hangsTogether,
  kernelOf,
  registerEngine,
  SHORT_NATURAL,
  studiesOf,
  type StructureSection,
} from "./estimators";
export type * from "./estimators";
export {
  influentialRows,
  ROBUST_RESAMPLES,
  eachWay,
  robustness,
  withoutRows,
  type RobustClaim,
  type Specification,
} from "./robustness";
export { findTerms, GLOSSARY, glossaryEntry, type GlossaryEntry } from "./glossary";
export { own } from "./data/own";
export * from "./report";
export * from "./working";
export * from "./registration";
export * from "./planning";
