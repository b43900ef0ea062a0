export * from "./problems";
