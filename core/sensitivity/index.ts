export { eValue, unmeasuredCause, unmeasuredDifference, type UnmeasuredCause } from "./e-values";
export {
  indirectAt,
  leftOut,
  linearSensitivity,
  RHOS,
  type Guess,
  type LinearTriad,
} from "./linear";
export { comparisonIn, linearTriads, sensitivityOf, type Comparison } from "./triads";
export type { LeftOut, LinearSensitivity, SensitivityPoint, SensitivitySection } from "./types";
