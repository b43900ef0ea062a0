import type { Variable } from "../data";
import type { Warning } from "../problems";
import type { CompiledTheory } from "../theory";
import { warning } from "../wording";

/**
 * Outcomes with two values among the straight lines of an engine, which explain their 0/1 coding.
 * @param measured whether variables are estimated from their items, so that no other engine could be chosen instead
 */
export const binaryOutcomes = (
  { equations }: CompiledTheory,
  variables: ReadonlyMap<string, Variable>,
  measured: boolean,
): Warning[] =>
  equations
    .filter(({ outcome }) => variables.get(outcome)?.level === "binary")
    .map(({ outcome }) => warning("binary_outcome", { outcome, measured }, [outcome]));
