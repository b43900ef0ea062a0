export { deviations } from "./deviations";

export type { Registration } from "../study";
export { registrationOf } from "./plan";
