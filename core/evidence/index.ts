export { assembleEvidence, type Resamples } from "./assemble";
export * from "./types";
export { INTERVAL_WORDS, minus, percent, plain, pValue, thousands } from "./wording";
