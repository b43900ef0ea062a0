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
} from "./plan";
export { arrowsOf, nodesOfTheory, type Arrow } from "./arrows";
export { Population } from "./population";
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
  smallestSample,
  type Goal,
  type SmallestSample,
} from "./search";
export { exactPowerOf, type ExactPower } from "./exact-of";
export { expectationsOf } from "./expectations";
export {
  inThisThread,
  PIECE,
  piecesOf,
  Planner,
  type PieceRunner,
  type PlanFound,
} from "./planner";
export { PieceMaker, PiecePool, type PieceThread } from "./pool";
export { claimsInOrder } from "./claims-in-order";
