export * from "./definition";
export * from "./plan";
export * from "./report-choices";
