export { compositeMeasurementWorking, compositePathsWorking } from "./composites";
export { effectWorking } from "./effect";
export { equationWorking } from "./equation";
export { fitWorking } from "./fit";
export { alphaWorking } from "./measure";
export { measurementWorking } from "./measurement";
export { naturalWorking } from "./natural";
export { regionWorking } from "./region";
export type * from "./types";
