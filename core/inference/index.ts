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
  replicatesToSettle,
  type Limits,
  type BootstrapInterval,
  type BootstrapSummary,
  type IntervalInput,
} from "./intervals";
export { holmAdjusted, jointBootstrapTest, jointDeltaTest, type JointTest } from "./joint";
export { bootstrapP, type BootstrapP } from "./bootstrap-p";
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
