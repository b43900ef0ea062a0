import Button from "@mui/material/Button";
import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import { styled } from "@mui/material/styles";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
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
import { Empty } from "../components/ui/empty";
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
      <Empty title="Screening">
        Only means and covariances of these {definition.unit} are known, so there are no answers to
        screen.
      </Empty>
    );
  }
  const data = result?.value;
  return (
    <Frame aria-busy={old} sx={old ? { "& > :not(header)": { opacity: 0.65 } } : {}}>
      <ScreenHead>
        <Typography variant="h1">Screening</Typography>
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
          <section aria-label="Variables">
            <DescriptivesTable data={data} summaries={summaries} />
          </section>
          <section aria-labelledby="together">
            <Typography variant="h2" id="together">
              Variables together
            </Typography>
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
    </Frame>
  );
}

const Frame = styled(Screen)({
  display: "grid",
  gridTemplateColumns: "minmax(0, 1fr)",
  gap: 14,
  maxWidth: 1240,
  "& > section": { display: "grid", gridTemplateColumns: "minmax(0, 1fr)", gap: 10 },
});

function Together({ set, level, named }: { set: SetEvidence; level: number; named: boolean }) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr)", gap: 1.5 }}>
      {named && <Typography variant="h3">{set.name}</Typography>}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "repeat(auto-fit, minmax(min(100%, 540px), 1fr))",
          gap: "16px 36px",
          "& > div": { minWidth: 0 },
        }}
      >
        {set.variables.length > 1 && (
          <div>
            <CorrelationMap {...set.correlations} level={level} />
          </div>
        )}
        <div>
          <Typography variant="h3" sx={{ mb: 1 }}>
            Missing values
          </Typography>
          <MissingPatternsPicture set={set} />
        </div>
      </Box>
      <Distances set={set} />
    </Box>
  );
}

/**
 * Which variables are looked at together; a choice of one's own replaces the one that follows the
 * theory.
 */
function SetChoice({ context, shown }: { context: StudyContext; shown: SetEvidence | undefined }) {
  const { definition, edit, dataset } = context;
  const [open, setOpen] = useState(false);
  const current = shown ?? definition.screening[0];
  const numeric = dataset.variables
    .filter((v) => ["continuous", "ordinal", "binary"].includes(v.level))
    .map((v) => v.name);
  const own = definition.screening.length > 0;
  return (
    <div>
      <Typography component="div" variant="body2" color="textSecondary">
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
      </Typography>
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
