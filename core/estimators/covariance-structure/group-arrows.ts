import type { CompiledTheory } from "../../theory";
import { arrowName, free, type Arrow } from "./arrows";
import { applyFrees, applyHolds, arrowKey, arrowOf } from "./holds";
import type { ModelContext, Parts } from "./model-parts";

/**
 * The arrows of one group: covariances that are drawn, intercepts, what is held, and what groups
 * share.
 */
export function constrained(
  theory: CompiledTheory,
  common: readonly Arrow[],
  parts: Parts,
  context: ModelContext,
  g: number,
): Arrow[] {
  const arrows = new Map(common.map((arrow) => [arrowKey(arrow), { ...arrow }]));
  const put = (arrow: Arrow): void => void arrows.set(arrowKey(arrow), arrow);
  for (const name of [...parts.observed, ...parts.latent]) {
    const arrow = { kind: "intercept", from: "", to: name } as const;
    const latent = parts.latent.includes(name);
    // Latent means have their origin in the first group, where intercepts of items are shared; else
    // in every group.
    const shifts = g > 0 && context.equal.has("intercepts") && !parts.items.has(name);
    put(!latent || shifts ? free(arrow) : { ...arrow, label: null, value: 0 });
  }
  for (const { a, b, value } of theory.covariances.flatMap((c) => c.pairs)) {
    const arrow = { kind: "covariance", from: a.name, to: b.name } as const;
    put(value === null ? free(arrow) : { ...arrow, label: null, value });
  }
  for (const arrow of arrows.values()) {
    if (arrow.label === null && Number.isNaN(arrow.value))
      arrow.value = errorVariance(arrow.to, context, g);
    if (freedVariance(arrow, parts, context, g)) {
      arrow.label = arrowName(arrow);
      arrow.value = 0;
    }
  }
  applyFrees(arrows, theory);
  applyHolds(arrows, theory.holds);
  const freed = new Set(context.freed.map((ref) => arrowKey(arrowOf(ref))));
  for (const arrow of arrows.values()) {
    if (arrow.label === null || context.groups.length === 1) continue;
    const part = parts.partOf(arrow);
    const shared =
      context.equal.has(part) &&
      !freed.has(arrowKey(arrow)) &&
      !(part === "paths" && context.differs(arrow.from, arrow.to)) &&
      !(part === "intercepts" && !parts.items.has(arrow.to));
    if (!shared) arrow.label = inGroup(arrow.label, context.groups[g]!);
  }
  return [...arrows.values()];
}

export const inGroup = (label: string, group: string): string => `${label} [${group}]`;

/** With loadings shared, a variance of one in the first group is enough of a scale. */
const freedVariance = (
  { kind, from, to, label, value }: Arrow,
  parts: Parts,
  { equal, groups }: ModelContext,
  g: number,
): boolean =>
  groups.length > 1 &&
  g > 0 &&
  kind === "covariance" &&
  from === to &&
  label === null &&
  value === 1 &&
  parts.latent.includes(to) &&
  equal.has("loadings");

/** What a single item's reliability leaves of its variance (divisor n). */
function errorVariance(item: string, { factors, variance }: ModelContext, g: number): number {
  const measure = factors.find((m) => m.items.length === 1 && m.items[0]!.ref.name === item);
  const reliability = measure?.reliability ?? 1;
  return reliability === 1 ? 0 : (1 - reliability) * variance(item, g);
}
