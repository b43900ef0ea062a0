import { useState } from "react";
import { itemFamilies, usesOf, type MeasureForm } from "../../../core";
import type { StudyContext } from "../../analysis/use-study";
import { withFilter } from "../data/filters";
import { AskBeforeRemoval } from "../ui/ask-before";
import { measuresMade } from "./edit-measures";
import { Explore } from "./explore";
import { ExploreItems, type ItemGroup } from "./explore-items";
import type { ProposedMeasure } from "./explore-make";
import { Sides } from "./sides";
import type { Pool } from "./use-pool";

interface Props {
  context: StudyContext;
  pool: Pool;
  /** First item of the battery that was asked for; a measure's name; or empty for all. */
  asked: string;
  close: () => void;
}

/** Items to the left, what their answers say to the right. */
export function ExploreScreen({ context, pool, asked, close }: Props) {
  const { measures, free, numeric, columns, alike, wordings, rangeOf } = pool;
  const { definition, edit } = context;
  const groups: ItemGroup[] = [
    { title: "In no measure", items: free },
    ...measures.map((m) => ({
      title: m.name.name,
      items: m.items.map((i) => i.ref.name).filter((name) => numeric.includes(name)),
    })),
  ].filter((g) => g.items.length > 0);
  const [own, setOwn] = useState<string[] | null>(null);
  const chosen =
    own ??
    [...alike, ...itemFamilies(free)].find((battery) => battery.items[0] === asked)?.items ??
    measures.find((m) => m.name.name === asked)?.items.map((i) => i.ref.name) ??
    likely(alike, free);
  const replaced = measures.filter((m) => m.items.some((i) => chosen.includes(i.ref.name)));
  const emptied = replaced.filter((m) => m.items.every((i) => chosen.includes(i.ref.name)));
  const taken = [
    ...columns,
    ...measures.filter((m) => !emptied.includes(m)).map((m) => m.name.name),
  ];
  const [asking, setAsking] = useState<{ names: string[]; uses: string[]; go: () => void } | null>(
    null,
  );
  const make = (made: ProposedMeasure[], form: MeasureForm, leaveOut: number[]): void => {
    const go = (): void => {
      edit(
        {
          theory: measuresMade(definition.theory, measures, made, form, rangeOf),
          ...(leaveOut.length > 0
            ? {
                filters: withFilter(definition.filters, "explored, kept out of the test", {
                  kind: "rows",
                  rows: leaveOut,
                }),
              }
            : {}),
        },
        "measures from factors",
        `Made from an exploratory factor analysis: ${made.map((m) => m.name).join(", ")}`,
      );
      close();
    };
    const gone = emptied.filter((m) => !made.some((one) => one.name === m.name.name));
    const uses = gone.flatMap((m) => usesOf(definition, m.name.name, columns));
    if (uses.length > 0)
      setAsking({ names: gone.map((m) => m.name.name), uses: [...new Set(uses)], go });
    else go();
  };
  return (
    <Sides>
      {asking && (
        <AskBeforeRemoval
          what={`the ${asking.names.length === 1 ? "measure" : "measures"} ${asking.names.map((n) => `“${n}”`).join(", ")}`}
          uses={asking.uses}
          remove={asking.go}
          close={() => setAsking(null)}
        />
      )}
      <ExploreItems {...{ groups, chosen, wordings }} choose={setOwn} />
      <Explore {...{ context, taken, wordings, make, close }} items={chosen} replaced={replaced} />
    </Sides>
  );
}

/** Columns that look like answers of one battery or another; all where none do. */
function likely(alike: Pool["alike"], free: readonly string[]): string[] {
  const batteries = [...alike, ...itemFamilies(free)].flatMap((battery) => battery.items);
  return free.filter((name) => batteries.length < 3 || batteries.includes(name));
}
