import type { CompositeSection } from "../../../core";
import { NumberTable } from "../ui/number-table";

/** Correlations of every item with every score. */
export function CrossLoadings({
  group: { constructs, result },
  where,
}: {
  group: CompositeSection["groups"][number];
  where: string;
}) {
  const names = constructs.map((c) => c.construct);
  return (
    <NumberTable
      title={`Cross-loadings${where}`}
      columns={["item", "measures", ...names]}
      words={[1]}
      rows={constructs.flatMap(({ construct, items }) =>
        items.map(({ item, closerTo }) => ({
          key: `${construct} ${item}`,
          marked: closerTo !== null,
          cells: [item, construct, ...names.map((name) => result.crossLoadings[item]![name]!)],
        })),
      )}
      note="Correlations of items with scores, not corrected for reliability. An item that correlates most with another construct than its own is marked."
    />
  );
}
