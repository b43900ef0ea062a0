import type { Kernel } from "../model";
import { StudyProblem } from "../problems";
import type { MeasureForm, ResponseModelId } from "../theory";
import type { Engine, KernelData, StructureLine } from "./engine";
import { composites } from "./composites";
import { covarianceStructure } from "./covariance-structure";
import { generalised } from "./generalised";
import { leastSquares } from "./least-squares";

const STRAIGHT: readonly ResponseModelId[] = ["linear"];

/** Every engine, the default one first. */
const ENGINES = new Map<string, Engine>(
  ([leastSquares, covarianceStructure, composites, generalised] as Engine[]).map((engine) => [
    engine.id,
    engine,
  ]),
);

/**
 * Adds an engine while the program runs; those of the house stand in the list above.
 * @returns takes it away again
 */
export function registerEngine(engine: Engine): () => void {
  ENGINES.set(engine.id, engine);
  return () => void ENGINES.delete(engine.id);
}

export const engines = (): Engine[] => [...ENGINES.values()];

/** @throws StudyProblem `invalid_setting` for an unknown name */
export function engineOf(id: string): Engine {
  const engine = ENGINES.get(id);
  if (engine) return engine;
  throw new StudyProblem("no_such_engine", { id, known: [...ENGINES.keys()] });
}

/**
 * The engine for a theory: the one that was chosen, or, where that knows nothing of the theory's
 * measures or responses, the first that does.
 * @param forms of the measures that are variables of the theory themselves
 * @param responses how the responses are modelled, as far as that is said or follows from their
 *   level
 * @param lines that the theory has beside its sentences and measures
 */
export function engineFor(
  id: string,
  forms: readonly MeasureForm[],
  responses: readonly ResponseModelId[] = [],
  lines: readonly StructureLine[] = [],
): Engine {
  const knows = (engine: Engine): boolean =>
    forms.every((form) => engine.forms?.includes(form)) &&
    lines.every((line) => engine.lines?.includes(line)) &&
    responses.every((model) => (engine.responses ?? STRAIGHT).includes(model));
  const chosen = engineOf(id);
  return knows(chosen) ? chosen : (engines().find(knows) ?? chosen);
}

/** The kernel of an engine, from the plain data that its fit made. */
export const kernelOf = ({ engine, data }: KernelData): Kernel => engineOf(engine).kernel(data);
