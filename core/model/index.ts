export { differenceTest, scalingOf, type DifferenceTest, type NestedFit } from "./difference-test";
export { byCovariance, whenAsked, type ByCovariance } from "./by-covariance";
export { ColumnEvaluator } from "./columns";
export {
  bilinearForm,
  quadraticForm,
  squaredDistance,
  withoutCrossBlocks,
  type Covariance,
} from "./covariance";
export {
  add,
  compileExpression,
  compileGradient,
  divide,
  gradient,
  isLinear,
  multiply,
  number,
  parameter,
  parametersOf,
  product,
  subtract,
  sum,
  type Evaluator,
  type Expression,
  type GradientAdder,
} from "./expression";
export { expit, inverseLink, linkName, type Link } from "./link";
export type { CovarianceRule, Kernel, KernelColumns, Resample, ResampleCovariance } from "./kernel";
export {
  addParameter,
  averageLabel,
  coefficientLabel,
  equationOf,
  firstFixed,
  IMPROPER,
  makeParameters,
  parameterAt,
  sdLabel,
  type EquationBlock,
  type ParameterRole,
  type Parameters,
} from "./parameters";
export {
  at,
  averagedOver,
  combined,
  derivative,
  moderatorsOf,
  powerOf,
  substitute,
  times,
  without,
  type Polynomial,
  type Term,
} from "./polynomial";
export { coefficientQuantity, type EffectKind, type Quantity } from "./quantity";
export {
  coefficientTest,
  normalTest,
  waldF,
  type CoefficientTest,
  type FTest,
  type NormalTest,
} from "./tests";
export { expressionWords } from "./expression-words";
