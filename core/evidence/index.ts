export { assembleEvidence, type Resamples } from "./assemble";
export * from "./types";
export * from "./data";
export { INTERVAL_WORDS, minus, pClause, percent, plain, pValue, thousands } from "./wording";
