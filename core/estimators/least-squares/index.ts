export { buildDesign, type Design, type DesignColumn, type Equation, type UsedCoding } from "./design";
export { fitEquation, type EquationFit } from "./fit";
export { covariances, withoutCrossBlocks, LEVERAGE_ONE, type CovarianceSet, type JointCovariance } from "./covariance";
export { coefficientTest, waldF, type CoefficientTest, type FTest } from "./tests";
export { conditionNumbers } from "./condition";
export { equationChecks, type ChiSquaredTest, type EquationChecks, type InfluentialRow } from "./checks";
export { suppression, type Suppression, type SuppressionFlag } from "./suppression";
export { coefficientLabel, parameterLayout, parameterVector, sdLabel, type ParameterLayout } from "./parameters";
export { refitProblem, Refitter, type RefitProblem } from "./refit";
