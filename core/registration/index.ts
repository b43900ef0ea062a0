export { deviations } from "./deviations";
export { registrationDocument } from "./document";
export { registrationOf, type Registration } from "./plan";
