import type { ArrowModel } from "./arrows";

/** Models without means, and where their parameters stand among those with. */
export interface Profiled {
  models: ArrowModel[];
  kept: number[];
}

/**
 * Where every observed variable has a mean of its own, means change nothing else: they are found by
 * themselves, and refits leave them out.
 * @returns null where some mean is fixed or shared, or a latent one free
 */
export function withoutFreeMeans(models: readonly ArrowModel[]): Profiled | null {
  const uses = new Map<number, number>();
  for (const { slots } of models)
    for (const { matrix, parameter } of slots)
      if (matrix === "m" && parameter >= 0) uses.set(parameter, (uses.get(parameter) ?? 0) + 1);
  for (const { slots, observed, variables } of models)
    for (let i = 0; i < variables.length; i++) {
      const slot = slots.find((s) => s.matrix === "m" && s.row === i);
      const own = slot !== undefined && slot.parameter >= 0 && uses.get(slot.parameter) === 1;
      if (i < observed ? !own : slot !== undefined && (slot.parameter >= 0 || slot.value !== 0))
        return null;
    }
  const labels = models[0]!.parameters;
  const kept = labels.flatMap((_, a) => (uses.has(a) ? [] : [a]));
  const place = new Map(kept.map((a, at) => [a, at]));
  return {
    kept,
    models: models.map((model) => ({
      ...model,
      parameters: kept.map((a) => labels[a]!),
      slots: model.slots
        .filter((s) => s.matrix !== "m")
        .map((s) => ({ ...s, parameter: s.parameter < 0 ? -1 : place.get(s.parameter)! })),
    })),
  };
}
