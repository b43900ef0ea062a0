export { inMetric, inZScores, metricMap, type Centring, type MetricMap } from "./metric";
export { buildDesign, centreOf, type Design, type DesignColumn, type Equation, type UsedCoding } from "./design";
export { atTheMeans, fitEquation, type EquationFit } from "./fit";
export { ClusterRobust } from "./cluster-robust";
export { covariances, withoutCrossBlocks, LEVERAGE_ONE, type CovarianceSet, type JointCovariance } from "./covariance";
export {
  coefficientTest,
  coefficientsF,
  degreesOfFreedom,
  jointF,
  linearTest,
  squaredDistance,
  waldF,
  type CoefficientTest,
  type FTest,
} from "./tests";
export { generalisedVif } from "./generalised-vif";
export { conditionNumbers } from "./condition";
export { equationChecks, type ChiSquaredTest, type EquationChecks, type InfluentialRow } from "./checks";
export { suppression, type Suppression, type SuppressionFlag } from "./suppression";
export { averageParameter, coefficientLabel, parameterLayout, parameterVector, sdLabel, type ParameterLayout } from "./parameters";
export { ResampledCovariance, type CovarianceRule } from "./resampled-covariance";
export { refitProblem, Refitter, type RefitProblem } from "./refit";
