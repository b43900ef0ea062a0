export { groupedScheme, Resampler, type ReplicateBlock, type ResamplingProblem, type Scheme } from "./resampling";
export {
  bootstrapLimits,
  bootstrapSummary,
  type Limits,
  type BootstrapInterval,
  type BootstrapSummary,
  type IntervalInput,
} from "./intervals";
export { bootstrapP, type BootstrapP } from "./bootstrap-p";
export { deltaTest, normalTest, quadraticForm, type NormalTest } from "./delta";
export { monteCarloIntervals, type MonteCarloInterval } from "./monte-carlo";
export {
  boundaries,
  falseDiscovery,
  johnsonNeyman,
  pointwiseCritical,
  simultaneousCritical,
  type FalseDiscovery,
  type JohnsonNeyman,
  type LinearSlope,
  type Region,
} from "./johnson-neyman";
