export type {
  Engine,
  ExactTest,
  Fit,
  KernelData,
  Line,
  ModelData,
  OptionSpec,
  SectionContext,
  Suitability,
} from "./engine";
export { engineOf, engines, kernelOf, registerEngine } from "./registry";
export type * from "./sections";
