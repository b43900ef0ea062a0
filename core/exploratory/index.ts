export { rotate, type Rotation } from "./rotation";
export {
  minimumAveragePartial,
  AS_ORDERED,
  parallelAnalysis,
  type ParallelAnalysis,
} from "./how-many";
export { BELONGS, CROSSES, solutionOf, type FactorSolution, type LoadedItem } from "./solution";
export { halfOf } from "./halves";
