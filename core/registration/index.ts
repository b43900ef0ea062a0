export { deviations } from "./deviations";
export { registrationDocument } from "./document";
export type { Registration } from "../study";
export { registrationOf } from "./plan";
