export { arrowEnd, arrowWorking } from "./arrow";
export { bandWorking } from "./band";
export { checksWorking } from "./check";
export { claimWorking } from "./claim";
export { runEffectWorking, specificationWorking } from "./compared";
export {
  exactFitWorking,
  measuredAlikeWorking,
  permutationWorking,
  predictionWorking,
} from "./composite-fit";
export { compositeMeasurementWorking, compositePathsWorking } from "./composites";
export { correlationWorking } from "./correlation";
export { descriptionWorking } from "./description";
export { changeWorking, differenceWorking, invarianceWorking } from "./difference";
export { distanceWorking } from "./distance";
export { eValueWorking, type EValueParts } from "./e-value";
export { effectWorking } from "./effect";
export { equationWorking, termWorking } from "./equation";
export { fitWorking } from "./fit";
export { meanWorking } from "./mean";
export { itemWorking } from "./item";
export { linkProductWorking, responseInteractionWorking } from "./link-product";
export { alphaWorking } from "./measure";
export { measurementWorking } from "./measurement";
export { littleWorking, mardiaWorking } from "./missing";
export { naturalWorking } from "./natural";
export { plannedWorking } from "./planned";
export { regionWorking } from "./region";
export { coefficientWorking } from "./response";
export { leftOutWorking, sensitivityWorking } from "./sensitivity";
export { slopeWorking } from "./slope";
export type * from "./types";
