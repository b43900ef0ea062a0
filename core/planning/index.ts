export {
  arrowKey,
  completePlan,
  correlationOf,
  DEFAULT_PLAN,
  DEFAULT_RELIABILITY,
  SHAPES,
  sizeOf,
  withCorrelation,
  withSize,
  type ExpectedCorrelation,
  type ExpectedSize,
  type ExpectedVariable,
  type Shape,
  type StudyPlan,
} from "../study";
export { arrowsOf, nodesOfTheory, type Arrow } from "./arrows";
export { claimsInOrder } from "./claims-in-order";
export { scaledPlan } from "./scaled";
export { Simulator, type Piece, type PieceResult, type SimulationTask } from "./simulate";
export {
  pointOf,
  type IntervalRecord,
  type PlannedPoint,
  type PlannedSentence,
  type SimulatedShare,
} from "./results";
export {
  MOST_PEOPLE,
  reached,
  shareAt,
  smallestEffect,
  smallestSample,
  type Goal,
  type SmallestEffect,
  type SmallestSample,
} from "./search";
export { exactAt, exactPowerOf, type ExactPower } from "./exact-of";
export { expectationsOf } from "./expectations";
export {
  basisOf,
  inThisThread,
  PIECE,
  piecesOf,
  Planner,
  type PieceRunner,
  type PlanBasis,
  type PlanFound,
} from "./planner";
export { PieceMaker, PiecePool, type PieceThread } from "./pool";
export {
  failedWords,
  percentWords,
  planSentences,
  shareWords,
  togetherWords,
  type PlanSentence,
} from "./sentences";
export {
  DECLARED_KINDS,
  declaredNames,
  declaredVariable,
  declaredWords,
  type DeclaredKind,
} from "./declare";
