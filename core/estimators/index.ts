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
export { studiesOf } from "./composites/studies";
export { optionColumns, withOptions } from "./options";
export { engineFor, engineOf, engines, kernelOf, registerEngine } from "./registry";
export type * from "./generalised/types";
export type * from "./sections";
export type * from "./composites/types";
export type * from "./covariance-structure/types";
export { hangsTogether } from "./composites/hangs-together";
export { SHORT_NATURAL, shortNaturalWords } from "./generalised/short-names";
export { naturalLimits, type NaturalLimits } from "./generalised/natural-limits";
