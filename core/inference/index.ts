export {
  groupedScheme,
  Resampler,
  strataOf,
  type ReplicateBlock,
  type ResamplingPlan,
  type Scheme,
} from "./resampling";
export {
  bootstrapLimits,
  bootstrapSummary,
  MOST_MISSING,
  replicatesToSettle,
  type Limits,
} from "./intervals";
export type { BootstrapInterval, BootstrapSummary, IntervalInput } from "./interval-types";
export { holmAdjusted, jointBootstrapTest, jointDeltaTest, type JointTest } from "./joint";
export { bootstrapP, toldP, type BootstrapP } from "./bootstrap-p";
export { deltaTest } from "./delta";
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
export { isBootstrap, SUMMARY } from "./summary";
