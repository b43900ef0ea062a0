import Button from "@mui/material/Button";
import { itemWorking, plain, type Measure, type MeasureEvidence } from "../../../core";
import { CloseIcon } from "../icons";
import { Disclosure } from "../ui/disclosure";
import { IconAction } from "../ui/icon-button";
import { NumberTable, type Cell } from "../ui/number-table";

interface Props {
  measure: Measure;
  evidence: MeasureEvidence | undefined;
  /**
   * False where only covariances are known: the rows that stand for them have no mean of their own.
   */
  means: boolean;
  /** What the items say, where that is known. */
  wordings: ReadonlyMap<string, string>;
  turn: (item: string) => void;
  remove: (item: string) => void;
}

/** One row for each item: how it goes with the others, and what would be without it. */
export function ItemTable({ measure, evidence, means, wordings, turn, remove }: Props) {
  const reliability = evidence?.reliability.value;
  const against = reliability?.warnings.find((w) => w.code === "negative_item_total")?.about ?? [];
  return (
    <NumberTable
      title={`Items of ${measure.name.name}`}
      columns={[
        "item",
        "keyed",
        "mean",
        "SD",
        "corrected item-total r",
        "squared multiple r",
        "loading",
        "alpha if item deleted",
        "",
      ]}
      rows={measure.items.map(({ ref: { name }, reversed }) => {
        const at = reliability?.items.indexOf(name) ?? -1;
        const s = reliability?.itemStatistics[at];
        return {
          key: name,
          marked: against.includes(name),
          ...(evidence && at >= 0 && { working: () => itemWorking(evidence, name)! }),
          cells: [
            { shown: <span title={wordings.get(name)}>{name}</span>, value: name },
            keyed(reversed, () => turn(name)),
            two(means ? s?.mean : null),
            two(s?.sd),
            two(s?.correctedItemTotal),
            two(s?.squaredMultipleCorrelation),
            two(reliability?.omega?.loadings[at]),
            withoutIt(s?.alphaIfDropped, reliability?.alpha),
            { shown: takeOut(name, measure, remove), value: null },
          ],
        };
      })}
    />
  );
}

const two = (value: number | null | undefined): Cell => ({
  shown: plain(value, 2),
  value: value ?? null,
});

const keyed = (reversed: boolean, turn: () => void): Cell => ({
  shown: (
    <Button
      size="small"
      variant={reversed ? "outlined" : "text"}
      aria-pressed={reversed}
      onClick={turn}
    >
      {reversed ? "reversed" : "as it is"}
    </Button>
  ),
  value: reversed ? "reversed" : "as it is",
});

/** Alpha if the item were deleted; brought out where it would be higher. */
function withoutIt(value: number | null | undefined, alpha: number | null | undefined): Cell {
  const better = value != null && alpha != null && value > alpha;
  const look = better ? { color: "var(--rust)", fontWeight: 600 } : {};
  return {
    shown: (
      <span style={look} title={better ? "Alpha would be higher without this item" : undefined}>
        {plain(value)}
      </span>
    ),
    value: value ?? null,
  };
}

/**
 * The factors that a factor of second order stands behind; what can be said of them is estimated
 * with the theory.
 */
export function FactorItems({ measure, remove }: Pick<Props, "measure" | "remove">) {
  return (
    <NumberTable
      title={`Items of ${measure.name.name}`}
      columns={["item", ""]}
      rows={measure.items.map(({ ref: { name } }) => ({
        key: name,
        cells: [name, { shown: takeOut(name, measure, remove), value: null }],
      }))}
      note="A factor of second order: its loadings are estimated together with the paths, and stand on Checks."
    />
  );
}

const takeOut = (name: string, measure: Measure, remove: (item: string) => void) => (
  <IconAction name={`Take ${name} out of ${measure.name.name}`} onClick={() => remove(name)}>
    <CloseIcon />
  </IconAction>
);

/** Correlations among the items, beneath the diagonal. */
export function InterItem({ evidence }: { evidence: MeasureEvidence }) {
  const reliability = evidence.reliability.value;
  if (!reliability) return null;
  const { items, interItem } = reliability;
  return (
    <Disclosure summary="Inter-item correlations">
      <NumberTable
        title={`Inter-item correlations of ${evidence.name}`}
        columns={["item", ...items.slice(0, -1)]}
        rows={items.slice(1).map((item, i) => ({
          key: item,
          cells: [
            item,
            ...items.slice(0, -1).map((_, j) => (j <= i ? two(interItem[i + 1]![j]!) : "")),
          ],
        }))}
      />
    </Disclosure>
  );
}
