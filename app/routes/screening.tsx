import Button from "@mui/material/Button";
import { Autocomplete, TextField } from "@mui/material";
import { useState } from "react";
import { useNavigate } from "react-router";
import { type Remedy, type SetEvidence } from "../../core";
import { useDataEvidence } from "../analysis/use-data-evidence";
import { useStudy, type StudyContext } from "../analysis/use-study";
import { FiltersBar } from "../components/data/filters-bar";
import { useSummaries } from "../components/data/use-summaries";
import { CorrelationMap } from "../components/screening/correlation-map";
import { DescriptivesTable } from "../components/screening/descriptives-table";
import { Distances } from "../components/screening/distances";
import { FindingsList } from "../components/screening/findings-list";
import { MissingPatternsPicture } from "../components/screening/missing-patterns";
import { remedyPatch } from "../components/screening/remedies";
import "../components/data/data.css";
import "../components/screening/screening.css";
import { Note, Screen, ScreenHead } from "../components/ui/layout";

/** What a careful reader of the data would notice before any model. */
export default function Screening() {
  const context = useStudy();
  const { definition, edit, dataset, raw } = context;
  const { result, old } = useDataEvidence(context);
  const summaries = useSummaries(context);
  const navigate = useNavigate();
  const columns = dataset.table.columns
    .map((c) => c.name)
    .filter((name) => dataset.origins.get(name) !== "measure");
  const apply = (remedy: Remedy): void =>
    edit(remedyPatch(remedy, definition, columns), `remedy ${remedy.words}`, remedy.why);
  if (raw.moments) {
    return (
      <Screen>
        <h1>Screening</h1>
        <p className="serif">
          Only means and covariances of these {definition.unit} are known, so there are no answers
          to screen.
        </p>
      </Screen>
    );
  }
  const data = result?.value;
  return (
    <div className={old ? "screen screening old" : "screen screening"} aria-busy={old}>
      <ScreenHead as="div">
        <h1>Screening</h1>
        <p className="quiet">
          {data ? `${data.n} of ${data.rows} ${definition.unit}` : "Looking through the data …"}
          {data && data.excluded.length > 0 && "; the others are left out"}
        </p>
      </ScreenHead>
      <FiltersBar
        filters={definition.filters}
        dataset={dataset}
        change={(filters) => edit({ filters }, "filters")}
      />
      {result?.problem && <Note role="alert">{result.problem.message}</Note>}
      {result?.problem && <SetChoice context={context} shown={undefined} />}
      {data && (
        <>
          <section aria-label="Findings">
            <FindingsList
              data={data}
              apply={apply}
              show={(finding) =>
                void navigate(`../data?row=${finding.rows[0]}&column=${finding.variables[0] ?? ""}`)
              }
            />
          </section>
          <section aria-labelledby="descriptives">
            <h2 id="descriptives">Variables</h2>
            <DescriptivesTable data={data} summaries={summaries} />
          </section>
          <section aria-labelledby="together">
            <h2 id="together">Variables together</h2>
            <SetChoice context={context} shown={data.sets[0]} />
            {data.sets.map((set) => (
              <Together
                key={set.name}
                set={set}
                level={definition.settings.level}
                named={data.sets.length > 1}
              />
            ))}
          </section>
        </>
      )}
    </div>
  );
}

function Together({ set, level, named }: { set: SetEvidence; level: number; named: boolean }) {
  return (
    <div className="together">
      {named && <h3>{set.name}</h3>}
      <div className="side-by-side">
        {set.variables.length > 1 && (
          <div>
            <h3>Correlations</h3>
            <CorrelationMap {...set.correlations} level={level} />
          </div>
        )}
        <div>
          <h3>Missing answers</h3>
          <MissingPatternsPicture set={set} />
        </div>
      </div>
      <Distances set={set} />
    </div>
  );
}

/** Which variables are looked at together; a choice of one's own replaces the one that follows the theory. */
function SetChoice({ context, shown }: { context: StudyContext; shown: SetEvidence | undefined }) {
  const { definition, edit, dataset } = context;
  const [open, setOpen] = useState(false);
  const current = shown ?? definition.screening[0];
  const numeric = dataset.variables
    .filter((v) => ["continuous", "ordinal", "binary"].includes(v.level))
    .map((v) => v.name);
  const own = definition.screening.length > 0;
  return (
    <div className="set-choice">
      <p className="quiet">
        {own
          ? "Your choice"
          : current
            ? current.name.replace(/^the/, "The")
            : "No numeric variable"}
        : {current?.variables.join(", ")}{" "}
        <Button variant="text" aria-expanded={open} onClick={() => setOpen(!open)}>
          Choose others
        </Button>
        {own && (
          <Button variant="text" onClick={() => edit({ screening: [] }, "screening set")}>
            Follow the theory again
          </Button>
        )}
      </p>
      {open && (
        <Autocomplete
          multiple
          disableCloseOnSelect
          size="small"
          options={numeric}
          value={current?.variables.filter((v) => numeric.includes(v)) ?? []}
          onChange={(_, variables) =>
            edit(
              { screening: variables.length > 0 ? [{ name: "chosen variables", variables }] : [] },
              "screening set",
            )
          }
          renderInput={(params) => <TextField {...params} label="Variables looked at together" />}
        />
      )}
    </div>
  );
}
