import type { Quantity } from "../effects";
import type { Prepared } from "../preparation";
import type { ArrowRef, CompiledTheory } from "../theory";
import { minus } from "../wording/numbers";

/** A path that lines hold at a number. */
interface HeldPath {
  from: string;
  to: string;
  value: number;
}

const keyOf = (ref: ArrowRef): string | null =>
  "from" in ref && ref.kind === "path" ? `${ref.from.name}\u0000${ref.to.name}` : null;

/** Paths that stand at a number by a line, or by being equal to one that does. */
export function heldPaths({ holds }: Pick<CompiledTheory, "holds">): HeldPath[] {
  const values = new Map<string, number>();
  for (const { arrows, value } of holds)
    if (value !== null)
      for (const key of arrows.map(keyOf)) if (key !== null) values.set(key, value);
  for (let before = -1; before !== values.size;) {
    before = values.size;
    for (const { arrows, value } of holds) {
      const keys = arrows.map(keyOf).filter((key) => key !== null);
      const known = keys.find((key) => values.has(key));
      if (value === null && known !== undefined)
        for (const key of keys) values.set(key, values.get(known)!);
    }
  }
  return [...values].map(([key, value]) => {
    const [from, to] = key.split("\u0000") as [string, string];
    return { from, to, value };
  });
}

/**
 * Why an effect is no estimate: every step of it is held at a number, or one of them at zero. Null
 * where the data have a say.
 */
export function heldReason(
  { theory, context }: Pick<Prepared, "theory" | "context">,
  { kind, from, to, via, label }: Pick<Quantity, "kind" | "from" | "to" | "via" | "label">,
): string | null {
  const inSds = kind === "partially_standardised" || kind === "completely_standardised";
  if (kind !== "direct" && kind !== "specific_indirect" && !inSds) return null;
  if (from === null || to === null || theory.holds.length === 0) return null;
  const held = heldPaths(theory);
  const start = context.pairs.find((p) => p.from === from && p.to === to)?.fromVariable ?? from;
  const nodes = [start, ...via, to];
  const steps = nodes.slice(1).map((node, i) => ({
    words: `${nodes[i]!} → ${node}`,
    value: held.find((h) => h.from === nodes[i]! && h.to === node)?.value ?? null,
  }));
  const zero = steps.find((step) => step.value === 0);
  if (zero)
    return `The path ${zero.words} is held at 0, so the effect of ${label} is 0 whatever the data say: there is nothing to test.`;
  // In SDs a number that is held still varies with the SDs.
  if (inSds || steps.some((step) => step.value === null)) return null;
  const words = steps.map(({ words: path, value }) => `${path} is held at ${minus(String(value))}`);
  return `The path ${words.join(", ")}: that is no estimate, and there is nothing to test.`;
}
