export * from "./dataset";
