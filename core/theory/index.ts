export { parseTheory } from "./parse";
export { RESERVED } from "./reader";
export { MEASURE_FORMS } from "./measure";
export { renameInTheory } from "./rename";
export { writeName, writeStatement } from "./write";
export { nearestName } from "./nearest";
export { compileTheory, type CompiledTheory, type EquationSpec, type ModelPath } from "./compile";
export { pathsBetween, type Path } from "./graph";
export type * from "./syntax";
