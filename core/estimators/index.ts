export type {
  Engine,
  ExactTest,
  Fit,
  KernelData,
  StructureLine,
  Line,
  ModelData,
  OptionSpec,
  SectionContext,
  Suitability,
} from "./engine";
export { studiesOf } from "./composite-studies";
export { optionColumns, withOptions } from "./options";
export { engineFor, engineOf, engines, kernelOf, registerEngine } from "./registry";
export type * from "./response-types";
export type * from "./sections";
export type * from "./composite-types";
export type * from "./structure-types";
export { naturalLimits, type NaturalLimits } from "./natural-limits";
