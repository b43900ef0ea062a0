export { assembleEvidence, type Resamples } from "./assemble";
export * from "./types";
export { codingWords } from "./coding-words";
export {
  bandKind,
  changeShown,
  regionSentence,
  type RegionRule,
  regionWords,
  zeroIndirectSentence,
  zeroSlopeSentence,
} from "./region-words";
export { compareRuns, keptRun, type KeptRun, type RunComparison } from "./runs";
export { methodRows } from "./method-rows";
export { statisticOf } from "./reading";
export { pairWords, repeatsCodeColumn } from "./pair-words";
export { equationsOf, totalOmnibusOf, variablesOf } from "./equations-of";
export type * from "./moderation-types";
export type * from "./region-types";
export {
  effectAt,
  predictAt,
  responseAt,
  responseOf,
  responseSlopeAt,
  testOf,
  type ProbeModel,
  type Reading,
  type ResponseReading,
} from "./probe-model";
export { linkName } from "../model";
export { linkStep, scaleWords } from "./scale-words";
export * from "./data";
export {
  dfWords,
  errorRate,
  minus,
  pClause,
  percent,
  plain,
  pValue,
  thousands,
  withoutZero,
} from "../wording/numbers";
export {
  errorsName,
  INTERVAL_WORDS,
  intervalName,
  jointWords,
  referenceName,
  sampleWords,
  unitWords,
  VERDICT_WORDS,
} from "./wording";
export { arrowScales, inUnits, onScale, unitChoices, wordsOf, type Units } from "./effect-words";
export { isBootstrap, SUMMARY } from "../inference";
export { isFromMoments, isNeverResampled } from "./known";
export { measuresOf, restsOn } from "./table-notes";
export { isReported, withheldNotes } from "./natural-notes";
export { cautionsTold, leftOutTold, provisionalTold } from "./cautions";
