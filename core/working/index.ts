export { effectWorking } from "./effect";
export { fitWorking } from "./fit";
export { alphaWorking } from "./measure";
export type * from "./types";
