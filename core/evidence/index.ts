export { assembleEvidence, type Resamples } from "./assemble";
export * from "./types";
export { bandKind, regionSentence, regionWords, zeroIndirectSentence, zeroSlopeSentence } from "./region-words";
export { influentialRows, ROBUST_RESAMPLES, robustness, withoutRows, type RobustClaim, type Specification } from "./robustness";
export { compareRuns, keptRun, type KeptRun, type RunComparison } from "./runs";
export { residualRows, type ResidualRows } from "./residuals";
export type * from "./moderation-types";
export type * from "./regions";
export { effectAt, predictAt, testOf, type ProbeModel, type Reading } from "./probe-model";
export * from "./data";
export {
  dfWords,
  errorsName,
  INTERVAL_WORDS,
  intervalName,
  jointWords,
  minus,
  referenceName,
  pClause,
  percent,
  plain,
  pValue,
  thousands,
  unitWords,
} from "./wording";
