export { analyse, needsBootstrap } from "./analyse";
export { checkSettings, prepare, type Prepared } from "./prepare";
export { StudyProblem, type ProblemCode, type ProblemPlace, type Warning, type WarningCode } from "./problems";
export {
  COVARIANCES,
  DEFAULT_SETTINGS,
  INTERVALS,
  MAX_REPLICATIONS,
  type CovarianceKind,
  type IntervalKind,
  type Settings,
  type StudyDefinition,
} from "./study";
export { ENGINE } from "./version";
export * from "./data";
export * from "./evidence";
export * from "./theory";
export {
  bootstrapSummary,
  Resampler,
  type BootstrapSummary,
  type IntervalInput,
  type ReplicateBlock,
  type ResamplingProblem,
} from "./inference";
export type { EffectKind } from "./effects";
