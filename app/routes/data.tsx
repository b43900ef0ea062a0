import { useState } from "react";
import type { ColumnSummary, Variable } from "../../core";
import { useStudy } from "../analysis/use-study";
import { ColumnPanel } from "../components/data/column-panel";
import { DataGrid } from "../components/data/data-grid";
import { useSummaries } from "../components/data/use-summaries";
import { FilePicker } from "../components/file-picker";
import { ImportDialog } from "../components/import-dialog";
import "../components/data/data.css";

/** The data as they are, a card on top of every column, and what is said of the chosen column. */
export default function Data() {
  const context = useStudy();
  const { table, definition, edit, study, analysis } = context;
  const summaries = useSummaries(definition, `${study.id} ${study.dataKey}`, table);
  const [selected, setSelected] = useState<string | null>(null);
  const [file, setFile] = useState<File | null>(null);
  const flagged = summaries.filter((s) => flagsOf(s).length > 0);
  const missing = summaries.filter((s) => s.missing > 0).length;
  const change = (name: string, patch: Partial<Variable>): void =>
    edit(
      { variables: definition.variables.map((v) => (v.name === name ? { ...v, ...patch } : v)) },
      `variable ${name} ${Object.keys(patch).join()}`,
    );
  const variable = definition.variables.find((v) => v.name === selected);
  const summary = summaries.find((s) => s.name === selected);
  const column = table.columns.find((c) => c.name === selected);
  const left = analysis.evidence?.sample;
  return (
    <div className="data-screen">
      <div className="data-head screen-head">
        <h1>Data</h1>
        <label className="unit">
          one row is one of the{" "}
          <input
            className="input"
            aria-label="Unit of analysis, in the plural"
            value={definition.unit}
            size={Math.max(6, definition.unit.length)}
            onChange={(e) => edit({ unit: e.target.value }, "unit")}
          />
        </label>
        <p className="quiet">
          {table.rows.toLocaleString("en")} rows, {table.columns.length} columns; answers are missing in {missing}.
          {left && left.n < left.rowsRead && ` The theory uses ${left.n} complete rows.`}
        </p>
        <span className="spacer" />
        <FilePicker label="File with newer data" accept=".csv,.tsv,.txt" className="button" pick={setFile}>
          Replace by a newer file
        </FilePicker>
      </div>
      {flagged.length > 0 && (
        <p className="note data-note">
          {flagged.map((s) => (
            <button key={s.name} type="button" className="button bare" onClick={() => setSelected(s.name)}>
              {s.name}: {flagsOf(s)[0]}
            </button>
          ))}
        </p>
      )}
      <div className="data-body">
        <DataGrid table={table} variables={definition.variables} summaries={summaries} selected={selected} select={setSelected} />
        {variable && column && (
          <ColumnPanel
            key={variable.name}
            variable={variable}
            column={column}
            summary={summary}
            change={(patch) => change(variable.name, patch)}
            close={() => setSelected(null)}
          />
        )}
      </div>
      {file && <ImportDialog file={file} replaceIn={study.id} close={() => setFile(null)} />}
    </div>
  );
}

/** What about a column would disturb an analysis, in words. */
function flagsOf(summary: ColumnSummary): string[] {
  const flags: string[] = [];
  if (summary.notNumeric)
    flags.push(`${summary.notNumeric.count} cells are not numbers, first “${summary.notNumeric.example}” in row ${summary.notNumeric.row}`);
  if (summary.constant) flags.push("never varies");
  if (summary.missing === summary.rows) flags.push("is empty");
  return flags;
}
