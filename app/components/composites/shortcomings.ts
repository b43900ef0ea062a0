import { hangsTogether, type CompositeConstruct, type CompositeSection } from "../../../core";
import { AVE, HTMT, RELIABLE, shortcomingWords } from "../structure/guidance";

/**
 * Loadings below this leave less than half of an item's variance to its construct (Hair et al.
 * 2017: .708).
 */
export const LOADING = 0.7;
export const COLLINEAR = 5;

/** What falls short in the measurement of one group, in sentences. */
export function compositeShortcomings({
  constructs,
  htmt,
}: CompositeSection["groups"][number]): string[] {
  const own = constructs.filter(hangsTogether);
  const names = (list: readonly CompositeConstruct[]): string[] => list.map((c) => c.construct);
  const together = new Set(names(own));
  const collinear = constructs.flatMap((c) =>
    c.items.filter((i) => c.kind !== "single" && (i.vif === null || i.vif >= COLLINEAR)),
  );
  const closer = constructs.flatMap((c) => c.items.filter((i) => i.closerTo !== null));
  return [
    ...shortcomingWords({
      weakItems: own
        .flatMap((c) => c.items)
        .filter((i) => Math.abs(i.loading.estimate) < LOADING)
        .map((i) => i.item),
      loading: ".70",
      unreliable: names(own.filter((c) => c.quality.compositeReliability < RELIABLE)),
      coefficient: "composite reliability",
      narrow: names(own.filter((c) => c.quality.ave < AVE)),
      alike: names(own.filter((c) => c.fornellLarcker === false)),
      pairs: htmt
        .filter((p) => together.has(p.first) && together.has(p.second) && p.htmt >= HTMT)
        .map((p) => [p.first, p.second]),
    }),
    ...(collinear.length > 0
      ? [
          `${collinear.map((i) => i.item).join(", ")} ${collinear.length === 1 ? "is" : "are"} largely explained by other items of the same construct (VIF of 5 or more).`,
        ]
      : []),
    ...closer.map(
      (i) => `${i.item} correlates more with ${i.closerTo} than with its own construct.`,
    ),
  ];
}
