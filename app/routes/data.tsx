import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { Link, useSearchParams } from "react-router";
import {
  cell,
  renameVariable,
  sourceOf,
  type ColumnSummary,
  type Correction,
  type DerivedVariable,
  type Recipe,
  type RowFilter,
  type Variable,
  usesOf,
} from "../../core";
import type { AnalysisState } from "../analysis/analysis";
import { useAnalysis } from "../analysis/use-analysis";
import { useStudy, type StudyContext } from "../analysis/use-study";
import { ColumnPanel } from "../components/data/column-panel";
import { DeclaredVariables } from "../components/data/declared-variables";
import { DataGrid } from "../components/data/data-grid";
import { DeriveDialog } from "../components/data/derive-dialog";
import { FileMenu } from "../components/data/file-menu";
import { FiltersBar } from "../components/data/filters-bar";
import { withFilter } from "../components/data/filters";
import { GridToolbar } from "../components/data/grid-toolbar";
import { useGridView } from "../components/data/grid-view";
import { LogDialog } from "../components/data/log-dialog";
import { MomentsTable } from "../components/data/moments-table";
import { useSummaries } from "../components/data/use-summaries";
import { FileIcon } from "../components/icons";
import { FilePicker } from "../components/importing/file-picker";
import { ImportDialog } from "../components/importing/open-import";
import { TextInput } from "../components/ui/text-input";
import { Note, Screen, ScreenHead, Spacer } from "../components/ui/layout";

type Making = { of: string; kind?: Recipe["kind"] } | { change: DerivedVariable };

/** The data as they are, a card on top of every column, and what is said of the chosen column. */
export default function Data() {
  const context = useStudy();
  const { dataset, definition, edit, raw, dataKey, study } = context;
  const summaries = useSummaries(context);
  const view = useGridView(dataset);
  const [query] = useSearchParams();
  const [selected, setSelected] = useState<string | null>(query.get("column"));
  const [making, setMaking] = useState<Making | null>(null);
  const [file, setFile] = useState<File | null>(null);
  const { setActive } = view;
  useEffect(() => {
    // Another screen sends its reader to a cell.
    const row = Number(query.get("row"));
    if (row > 0)
      setActive({
        row: row - 1,
        column: Math.max(
          0,
          dataset.table.columns.findIndex((c) => c.name === query.get("column")),
        ),
      });
    // Only a new address moves the grid.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [query]);
  const setFilters = (filters: RowFilter[], why = ""): void => edit({ filters }, "filters", why);
  const correct = (column: string, row: number, text: string): void => {
    const source = sourceOf(dataset.variables.find((v) => v.name === column)!);
    const from = cell(
      raw.columns.find((c) => c.name === source)!,
      row,
    );
    const corrections = withCorrection(definition.corrections, {
      column,
      row: row + 1,
      from,
      to: text,
    });
    if (corrections) edit({ corrections }, `cell ${column} ${row}`);
  };
  const keep = (made: DerivedVariable[], replaces: string | null): void => {
    const at = definition.derived.findIndex((d) => d.name === replaces);
    const rest = definition.derived.filter((d) => d.name !== replaces);
    const derived =
      at < 0 ? [...rest, ...made] : [...rest.slice(0, at), ...made, ...rest.slice(at)];
    edit({ derived }, `derive ${made[0]!.name}`);
    setSelected(made[0]!.name);
  };
  if (raw.rows === 0) return <NoData setFile={setFile} file={file} context={context} />;
  return (
    <Stack sx={{ height: "100%" }}>
      <Head
        context={context}
        setFile={setFile}
        make={() => {
          const of = selected ?? dataset.table.columns[0]?.name;
          if (of !== undefined) setMaking({ of });
        }}
      />
      <WhatNext context={context} />
      <FiltersBar filters={definition.filters} dataset={dataset} change={setFilters} />
      <Problems context={context} summaries={summaries} select={setSelected} />
      {raw.moments ? (
        <MomentsTable moments={raw.moments} unit={definition.unit} />
      ) : (
        <>
          <GridToolbar
            dataset={dataset}
            view={view}
            leaveOut={(formula) => {
              setFilters(withFilter(definition.filters, formula, { kind: "condition", formula }));
              view.setCondition("");
            }}
          />
          <Box
            sx={{
              display: "flex",
              flex: 1,
              minHeight: 280,
              borderTop: "1px solid var(--line)",
              flexWrap: { xs: "wrap", md: "nowrap" },
            }}
          >
            <DataGrid
              {...{ dataset, view, summaries, selected, correct }}
              corrections={definition.corrections}
              select={setSelected}
            />
            <Panel
              context={context}
              selected={selected}
              summaries={summaries}
              select={setSelected}
              make={setMaking}
            />
          </Box>
        </>
      )}
      {making && (
        <DeriveDialog
          {...{ definition, dataset, raw, keep }}
          start={making}
          close={() => setMaking(null)}
        />
      )}
      {file && (
        <ImportDialog
          file={file}
          replacing={{ id: study.id, definition, dataKey, table: raw }}
          close={() => setFile(null)}
        />
      )}
    </Stack>
  );
}

/** A study that began with its theory: data come in here, and what is written stays. */
function NoData({
  context,
  file,
  setFile,
}: {
  context: StudyContext;
  file: File | null;
  setFile: (file: File | null) => void;
}) {
  const { study, definition, dataKey, raw } = context;
  return (
    <Screen sx={{ display: "grid", gap: 1.75, maxWidth: "1000px", justifyItems: "start" }}>
      <Typography variant="h1">Data</Typography>
      <Typography sx={{ fontFamily: "var(--serif)", maxWidth: "70ch" }}>
        There are no data yet. Bring a spreadsheet or a CSV with one row for each case and a row of
        column names; the sentences that are written already stay as they are. Or say which
        variables there will be: hypotheses can then be written and{" "}
        <Link to="../plan">planned</Link> before anybody is asked.
      </Typography>
      <FilePicker label="File with the data" accept={READABLE} variant="contained" pick={setFile}>
        <FileIcon /> Bring data into this study
      </FilePicker>
      <DeclaredVariables context={context} />
      {file && (
        <ImportDialog
          file={file}
          replacing={{ id: study.id, definition, dataKey, table: raw }}
          close={() => setFile(null)}
        />
      )}
    </Screen>
  );
}

const READABLE = ".csv,.tsv,.txt,.json,.xlsx,.ods";

/**
 * The corrections with one more; null when nothing changes. Writing the imported text again takes
 * the correction away.
 */
function withCorrection(corrections: Correction[], fresh: Correction): Correction[] | null {
  const known = corrections.find((c) => c.column === fresh.column && c.row === fresh.row);
  if (fresh.to === (known?.to ?? fresh.from)) return null;
  const rest = corrections.filter((c) => c !== known);
  return fresh.to === fresh.from ? rest : [...rest, fresh];
}

const UNIT = {
  fontSize: 14,
  color: "var(--quiet)",
  "& input": { fieldSizing: "content", fontWeight: 600, color: "var(--ink)" },
};

/** How many rows the theory uses, where these are not all. */
const completeRows = ({ evidence }: AnalysisState): number | null =>
  evidence && evidence.sample.n < evidence.sample.rowsRead ? evidence.sample.n : null;

function Head({
  context,
  setFile,
  make,
}: {
  context: StudyContext;
  setFile: (file: File) => void;
  make: () => void;
}) {
  const { definition, edit, dataset, raw, analysis } = context;
  const [showLog, setShowLog] = useState(false);
  const used = useAnalysis(analysis, completeRows);
  const rows = raw.moments ? raw.moments.n : dataset.table.rows;
  return (
    <ScreenHead as="div" style={{ padding: "14px 24px 10px" }}>
      <Typography variant="h1">Data</Typography>
      <Box component="label" sx={UNIT}>
        one row is one of the{" "}
        <TextInput
          aria-label="Unit of analysis, in the plural"
          value={definition.unit}
          size={Math.max(6, definition.unit.length)}
          onChange={(e) => edit({ unit: e.target.value }, "unit")}
        />
      </Box>
      <p className="quiet">
        {rows.toLocaleString("en")} rows, {dataset.table.columns.length} columns.
        {used !== null && ` The theory uses ${used} complete rows.`}
      </p>
      <Spacer />
      {!raw.moments && <Button onClick={make}>New variable</Button>}
      <Button aria-haspopup="dialog" onClick={() => setShowLog(true)}>
        Log{definition.log.length > 0 && ` (${definition.log.length})`}
      </Button>
      <FileMenu context={context} replace={setFile} />
      {showLog && (
        <LogDialog
          log={definition.log}
          explain={(log) => edit({ log }, "log")}
          close={() => setShowLog(false)}
        />
      )}
    </ScreenHead>
  );
}

/** Where to go with data that nothing has been said about yet. */
function WhatNext({ context: { definition, study } }: { context: StudyContext }) {
  if (definition.theory.trim() !== "" || study.rows === 0) return null;
  return (
    <Typography variant="body2" sx={{ px: 3, pb: 1.25 }}>
      <strong>What next?</strong> Choose a column to say what it is.{" "}
      <Link to="../screening">Screening</Link> shows what stands out in the data;{" "}
      <Link to="../measures">Measures</Link> makes scores of items; then{" "}
      <Link to="../hypotheses">write the first hypothesis</Link>.
    </Typography>
  );
}

/** What could not be made, such as a derived variable whose column is gone. */
function Problems({
  context,
  summaries,
  select,
}: {
  context: StudyContext;
  summaries: ColumnSummary[];
  select: (name: string) => void;
}) {
  const filters = new Set(context.definition.filters.map((f) => f.name));
  const problems = context.dataset.problems.filter((p) => !filters.has(p.name));
  const flagged = summaries.filter((s) => flagsOf(s).length > 0);
  if (problems.length + flagged.length === 0) return null;
  return (
    <Note role="status" sx={{ m: "0 24px 10px" }}>
      {flagged.map((s) => (
        <Button variant="text" key={s.name} onClick={() => select(s.name)}>
          {s.name}: {flagsOf(s)[0]}
        </Button>
      ))}
      {problems.map(({ name, message }) => (
        <p key={name + message}>
          <Button variant="text" onClick={() => select(name)}>
            {name}
          </Button>{" "}
          {message}
        </p>
      ))}
    </Note>
  );
}

/** What about a column would disturb an analysis, in words. */
function flagsOf(summary: ColumnSummary): string[] {
  const flags: string[] = [];
  if (summary.notNumeric) {
    const { count, example, row } = summary.notNumeric;
    flags.push(
      count === 1
        ? `“${example}” in row ${row} is not a number`
        : `${count} cells are not numbers, first “${example}” in row ${row}`,
    );
  }
  if (summary.constant) flags.push("never varies");
  if (summary.missing === summary.rows) flags.push("is empty");
  return flags;
}

interface PanelProps {
  context: StudyContext;
  selected: string | null;
  summaries: ReturnType<typeof useSummaries>;
  select: (name: string | null) => void;
  make: (making: Making) => void;
}

function Panel({ context, selected, summaries, select, make }: PanelProps) {
  const { dataset, definition, edit } = context;
  const at = dataset.table.columns.findIndex((c) => c.name === selected);
  if (at < 0 || selected === null) return null;
  const variable = dataset.variables[at]!;
  const derived = definition.derived.find((d) => d.name === selected) ?? null;
  // A variable is described only once somebody says something of it.
  const known = definition.variables.some((v) => v.name === selected)
    ? definition.variables
    : [...definition.variables, variable];
  const change = (patch: Partial<Variable>): void =>
    edit(
      { variables: known.map((v) => (v.name === selected ? { ...v, ...patch } : v)) },
      `variable ${selected} ${Object.keys(patch).join()}`,
    );
  return (
    <ColumnPanel
      key={selected}
      variable={variable}
      column={dataset.table.columns[at]!}
      summary={summaries.find((s) => s.name === selected)}
      derived={derived}
      change={change}
      rename={
        dataset.origins.get(selected) === "measure"
          ? null
          : (to) => {
              edit(
                renameVariable({ ...definition, variables: known }, selected, to),
                `rename ${selected}`,
              );
              select(to);
            }
      }
      taken={dataset.variables.map((v) => v.name)}
      derive={(kind) => make({ of: selected, kind })}
      changeRecipe={() => derived && make({ change: derived })}
      uses={usesOf(
        definition,
        selected,
        dataset.variables.map((v) => v.name),
      )}
      removeDerived={() => {
        edit(
          {
            derived: definition.derived.filter((d) => d !== derived),
            variables: definition.variables.filter((v) => v.name !== selected),
          },
          `remove ${selected}`,
        );
        select(null);
      }}
      close={() => select(null)}
    />
  );
}
