export { assembleEvidence, type Resamples } from "./assemble";
export * from "./types";
export { regionSentence, regionWords } from "./region-words";
export type * from "./moderation";
export type * from "./regions";
export { effectAt, predictAt, testOf, type ProbeModel, type Reading } from "./probe-model";
export * from "./data";
export { INTERVAL_WORDS, minus, pClause, percent, plain, pValue, thousands } from "./wording";
