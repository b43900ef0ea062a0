import type { Kernel } from "../model";
import { StudyProblem } from "../problems";
import type { Engine, KernelData } from "./engine";
import { leastSquares } from "./least-squares";

/** Every engine, the default one first. */
const ENGINES = new Map<string, Engine>(
  [leastSquares].map((engine) => [engine.id, engine as Engine]),
);

/** Adds an engine while the program runs; those of the house stand in the list above. */
export const registerEngine = (engine: Engine): void => void ENGINES.set(engine.id, engine);

export const engines = (): Engine[] => [...ENGINES.values()];

/** @throws StudyProblem `invalid_setting` for an unknown name */
export function engineOf(id: string): Engine {
  const engine = ENGINES.get(id);
  if (engine) return engine;
  throw new StudyProblem("no_such_engine", { id, known: [...ENGINES.keys()] });
}

/** The kernel of an engine, from the plain data that its fit made. */
export const kernelOf = ({ engine, data }: KernelData): Kernel => engineOf(engine).kernel(data);
