export { netChanges } from "./net-changes";
export * from "./definition";
export * from "./plan";
export * from "./report-choices";
