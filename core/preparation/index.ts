export * from "./prepare";
