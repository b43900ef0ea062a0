import type { CompiledTheory } from "../theory";
import { nodesOf } from "../theory";
import { claimsInOrder } from "./claims-in-order";
import { arrowKey, type StudyPlan } from "../study";

/**
 * The plan with the arrows that one sentence is about made larger or smaller: every step of an
 * indirect effect, the direct path, or the products that a moderation claims.
 */
export function scaledPlan(
  plan: StudyPlan,
  theory: CompiledTheory,
  label: string,
  factor: number,
): StudyPlan {
  const claim = claimsInOrder(theory).find((c) => c.label === label);
  if (!claim) return plan;
  const keys = new Set<string>();
  if (claim.kind === "hypothesis") {
    const chains = claim.chains.length > 0 ? claim.chains : [[]];
    for (const chain of chains) {
      const nodes = [claim.from.name, ...chain.map((ref) => ref.name), claim.to.name];
      nodes.slice(1).forEach((to, i) => keys.add(arrowKey({ from: [nodes[i]!], to })));
    }
  } else {
    const nodes = nodesOf(claim);
    const moderators = claim.moderators.map((m) => m.name);
    nodes.slice(1).forEach((to, i) => keys.add(arrowKey({ from: [nodes[i]!, ...moderators], to })));
  }
  return {
    ...plan,
    sizes: plan.sizes.map((s) => (keys.has(arrowKey(s)) ? { ...s, size: s.size * factor } : s)),
  };
}
