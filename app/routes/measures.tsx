import { styled } from "@mui/material/styles";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { lineKind, itemFamilies, plain, usesOf, writeName, type Measure } from "../../core";
import { useMeasures } from "../analysis/use-data-evidence";
import { useStudy, type StudyContext } from "../analysis/use-study";
import {
  addMeasure,
  freeFactors,
  freeName,
  removeMeasure,
  renameMeasure,
  rewriteMeasure,
  itemsFor,
} from "../components/measures/edit-measures";
import { ExploreScreen } from "../components/measures/explore-screen";
import { ItemPool } from "../components/measures/item-pool";
import { Sides } from "../components/measures/sides";
import { usePool, type Pool } from "../components/measures/use-pool";
import { MeasureCard } from "../components/measures/measure-card";
import { Fault } from "../components/theory/raw-line";
import { replaceLine } from "../components/theory/edit-text";
import { AskBeforeRemoval } from "../components/ui/ask-before";
import { ScreenHead } from "../components/ui/layout";

/** Items grouped into measures, with their reliability as items come and go. */
export default function Measures() {
  const context = useStudy();
  const pool = usePool(context);
  const [query, setQuery] = useSearchParams();
  const asked = query.get("explore");
  if (asked !== null)
    return <ExploreScreen {...{ context, pool, asked }} close={() => setQuery({})} />;
  return (
    <ListOfMeasures {...{ context, pool }} explore={(which) => setQuery({ explore: which })} />
  );
}

function ListOfMeasures({
  context,
  pool: { columns, measures, complaints, free, alike, wordings, rangeOf },
  explore,
}: {
  context: StudyContext;
  pool: Pool;
  /** Of a battery by its first item, or of everything that is free for an empty one. */
  explore: (which: string) => void;
}) {
  const { definition, edit, raw } = context;
  const { result, old } = useMeasures(context);
  const faults = complaints.filter(
    (c) => lineKind(definition.theory.split("\n")[c.line - 1] ?? "") === "measure",
  );
  const factors = freeFactors(measures);
  /** Only means and covariances are known, so there are no answers to make scores of. */
  const momentsOnly = raw.moments !== undefined;
  const families = itemFamilies(free);
  const taken = [...columns, ...measures.map((m) => m.name.name)];
  const change = (theory: string, what: string): void => edit({ theory }, `measure ${what}`);
  /** A measure that is about to go though something needs it. */
  const [going, setGoing] = useState<{ measure: Measure; uses: string[] } | null>(null);
  const take = (measure: Measure): void =>
    change(removeMeasure(definition.theory, measure), "remove");
  return (
    <Sides>
      {going && (
        <AskBeforeRemoval
          what={`the measure “${going.measure.name.name}”`}
          uses={going.uses}
          remove={() => take(going.measure)}
          close={() => setGoing(null)}
        />
      )}
      <ItemPool
        families={families}
        alike={momentsOnly ? [] : alike}
        explore={momentsOnly ? null : explore}
        free={free}
        factors={factors}
        taken={taken}
        hasMeasures={measures.length > 0}
        make={(name, items) => {
          const latent = momentsOnly || items.some((item) => factors.includes(item));
          const form = latent ? "reflects" : "averages";
          change(
            addMeasure(definition.theory, measures, freeName(name, taken), items, form),
            "new",
          );
        }}
      />
      <List aria-busy={old}>
        <ScreenHead as="div">
          <Typography variant="h1">Measures</Typography>
          <p className="quiet">
            {momentsOnly
              ? "Only means and covariances are known: items can be those of a common factor, which is estimated together with the paths. Scale scores need the answers themselves."
              : measures.length === 0
                ? "Several answers that stand for one thing become a measure."
                : "Alpha assumes that all items measure equally well; omega does not."}
          </p>
        </ScreenHead>
        {faults.map((fault) => (
          <Fault
            key={`${fault.line} ${fault.message}`}
            fault={fault}
            content={definition.theory.split("\n")[fault.line - 1]!}
            change={(line) => change(replaceLine(definition.theory, fault.line, line), "fault")}
          />
        ))}
        {measures.length === 0 && <EmptyMeasures />}
        {measures.map((measure) => (
          <MeasureCard
            key={measure.line}
            measure={measure}
            evidence={result?.find((e) => e.name === measure.name.name)}
            level={definition.settings.level}
            pool={itemsFor(measure, measures, free)}
            items={
              measure.items.some((i) => measures.some((m) => m.name.name === i.ref.name))
                ? "factors"
                : momentsOnly
                  ? "moments"
                  : "answers"
            }
            wordings={wordings}
            means={!raw.moments?.standardised}
            observed={rangeOf(measure.items.map((i) => i.ref.name))}
            change={(next) =>
              change(rewriteMeasure(definition.theory, next), `change ${measure.name.name}`)
            }
            rename={(name) =>
              change(renameMeasure(definition.theory, measure, freeName(name, taken)), "rename")
            }
            explore={
              momentsOnly ||
              measures.some((m) => measure.items.some((i) => i.ref.name === m.name.name))
                ? null
                : () => explore(measure.name.name)
            }
            remove={() => {
              const uses = usesOf(definition, measure.name.name, columns);
              if (uses.length > 0) setGoing({ measure, uses });
              else take(measure);
            }}
          />
        ))}
        {measures.length > 0 && !momentsOnly && (
          <p className="quiet">
            In hypotheses a measure stands under its name:{" "}
            {measures.map((m) => writeName(m.name.name)).join(", ")}. Guidance: alpha or omega of{" "}
            {plain(0.7, 1)} and more (Nunnally & Bernstein 1994); beyond .95 items repeat one
            another.
          </p>
        )}
      </List>
    </Sides>
  );
}

const List = styled("div")({
  padding: "18px 24px 40px",
  display: "grid",
  gridTemplateColumns: "minmax(0, 1fr)",
  gap: 16,
  alignContent: "start",
  maxWidth: 1040,
});

function EmptyMeasures() {
  return (
    <Typography sx={{ fontFamily: "var(--serif)", maxWidth: "62ch" }}>
      No measure yet. Take one of the likely batteries on the left, let their answers say which
      items belong together, or choose the items of a new measure. A scale score, a common factor
      and a composite are the same list of items; which of them it is can be changed at any time.
    </Typography>
  );
}
