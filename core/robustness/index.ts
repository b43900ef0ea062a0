export * from "./robustness";
