import { pick, type Variable } from "../data";
import type { Warning } from "../problems";
import { writeName, type CompiledTheory } from "../theory";
import { warning } from "../wording";
import type { ModelData } from "./engine";

/**
 * Outcomes with two values among the straight lines of an engine, which explain their 0/1 coding.
 * @param measured whether variables are estimated from their items, so that no other engine could
 *   be chosen instead
 */
export const binaryOutcomes = (
  { equations }: CompiledTheory,
  variables: ReadonlyMap<string, Variable>,
  measured: boolean,
): Warning[] =>
  equations
    .filter(({ outcome }) => variables.get(outcome)?.level === "binary")
    .map(({ outcome }) => warning("binary_outcome", { outcome, measured }, [outcome]));

/** More values than an answer in steps has. */
const STEPS = 7;
/**
 * Counts with a mean from here on are hardly held by zero, so that a straight line says the same.
 */
export const FAR_FROM_ZERO = 20;

/**
 * Outcomes of straight lines that may be counts: more whole numbers than answers have, from zero on
 * and near it.
 * @param outcomes of the equations that are straight lines; those whose model is stated are left as
 *   they are stated
 */
export function countedOutcomes(
  outcomes: readonly string[],
  { models }: CompiledTheory,
  { typed, variables, sample, momentsOnly }: ModelData,
): Warning[] {
  if (momentsOnly) return [];
  const stated = new Set(models.map((m) => m.of.name));
  return outcomes.flatMap((outcome) => {
    const numeric = ["continuous", "ordinal"].includes(variables.get(outcome)?.level ?? "");
    if (stated.has(outcome) || !numeric) return [];
    const values = pick(typed.get(outcome)!.values, sample.rows);
    if (!looksCounted(values)) return [];
    return [warning("may_be_counted", { outcome, name: writeName(outcome) }, [outcome])];
  });
}

function looksCounted(values: ArrayLike<number>): boolean {
  const different = new Set<number>();
  let zero = false;
  let sum = 0;
  for (let i = 0; i < values.length; i++) {
    const v = values[i]!;
    if (!Number.isInteger(v) || v < 0) return false;
    // More of them than steps is all that matters, however many rows there are.
    if (different.size <= STEPS) different.add(v);
    zero ||= v === 0;
    sum += v;
  }
  return zero && different.size > STEPS && sum < FAR_FROM_ZERO * values.length;
}
