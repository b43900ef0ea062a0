import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Box from "@mui/material/Box";
import { useState } from "react";
import {
  itemFamilies,
  type Exploration,
  type LoadedItem,
  type Measure,
  type MeasureForm,
} from "../../../core";
import { Choice, Entry } from "../ui/field";
import { Note, Row } from "../ui/layout";

/** A measure that an exploration proposes. */
export interface ProposedMeasure {
  name: string;
  items: { item: string; reversed: boolean }[];
}

/**
 * What belongs to each factor, named after the measure from which most of its items come, or after
 * the stem that most of them share.
 */
export function proposedMeasures(
  { solution, factors }: Exploration,
  taken: readonly string[],
  measures: readonly Measure[],
): ProposedMeasure[] {
  const used = [...taken];
  const stems = itemFamilies(solution.rows.map((row) => row.item));
  return Array.from({ length: factors }, (_, t) => {
    const items = solution.rows.filter((row: LoadedItem) => row.factor === t);
    // A stem that other factors share as well tells them apart badly.
    const stem = stems.find(
      (family) =>
        family.items.length >= 2 &&
        family.items.every((item) => items.some((row) => row.item === item)),
    )?.stem;
    const from = measures.find(
      (m) =>
        !used.includes(m.name.name) &&
        2 * items.filter((row) => m.items.some((i) => i.ref.name === row.item)).length >
          items.length,
    );
    let name = from ? from.name.name : stem && !used.includes(stem) ? stem : `factor_${t + 1}`;
    for (let k = 2; used.includes(name); k++) name = `factor_${t + 1}_${k}`;
    used.push(name);
    return { name, items: items.map(({ item, reversed }) => ({ item, reversed })) };
  });
}

interface Props {
  found: Exploration;
  proposed: readonly ProposedMeasure[];
  /** Names that are in use. */
  taken: readonly string[];
  /** Measures whose items are among those explored; they are replaced. */
  replaced: readonly Measure[];
  make: (measures: ProposedMeasure[], form: MeasureForm, leaveOut: number[]) => void;
  rename: (at: number, name: string) => void;
}

/** The factors as measures, and what confirming them on the same people is worth. */
export function ExploreMake({ found, proposed, taken, replaced, make, rename }: Props) {
  const [form, setForm] = useState<MeasureForm>("averages");
  const ready = proposed.filter((m) => m.items.length >= 2);
  const problem = (name: string, at: number): string | null =>
    name.trim() === ""
      ? "A measure needs a name."
      : taken.includes(name.trim()) || proposed.some((m, i) => i < at && m.name === name)
        ? `“${name.trim()}” is in use.`
        : name.includes('"')
          ? "A name cannot hold quotation marks."
          : null;
  const half = found.explored.length > 0;
  return (
    <Box component="section" sx={{ display: "grid", gap: 1.5, maxWidth: 760 }}>
      <Typography variant="h3">Make these measures</Typography>
      {proposed.map(({ name, items }, at) => (
        <Entry
          key={at}
          label={`Factor ${at + 1}: ${items.map((i) => (i.reversed ? `${i.item} (reversed)` : i.item)).join(", ") || "no item loads .40 or more"}`}
          value={name}
          problem={problem(name, at)}
          onChange={(next) => rename(at, next)}
          disabled={items.length < 2}
        />
      ))}
      {proposed.some((m) => m.items.length < 2) && (
        <Note severity="info">A factor with fewer than two items becomes no measure.</Note>
      )}
      {replaced.length > 0 && (
        <Note severity="info">
          Items that stand in {replaced.map((m) => `“${m.name.name}”`).join(", ")} leave it for the
          new measure; a measure without items goes.
        </Note>
      )}
      <p className="quiet">
        {half
          ? "The people explored here are left out by a filter, so that measures and hypotheses are tested on the other half. Switch the filter off on Data to have everybody again."
          : "To confirm these measures on the same people is no test: they were made to fit them. Explore one half of the people, and the other half can disagree."}
      </p>
      <Row>
        <Choice
          label="Each becomes"
          sx={{ maxWidth: 280 }}
          value={form}
          options={[
            ["averages", "an average of its items"],
            ["reflects", "a common factor (latent)"],
          ]}
          onChange={(next) => setForm(next as MeasureForm)}
        />
        <Button
          variant="contained"
          sx={{ alignSelf: "end" }}
          disabled={
            ready.length === 0 ||
            proposed.some((m, at) => m.items.length >= 2 && problem(m.name, at) !== null)
          }
          onClick={() =>
            make(
              ready.map((m) => ({ ...m, name: m.name.trim() })),
              form,
              found.explored,
            )
          }
        >
          {ready.length === 1 ? "Make this measure" : `Make these ${ready.length} measures`}
        </Button>
      </Row>
    </Box>
  );
}
