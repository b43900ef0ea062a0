import { Dialog } from "@mui/material";
import { useEffect, useId, useState } from "react";
import { useNavigate, useRevalidator } from "react-router";
import { cell, guessVariable, isMissing, thousands, type Level, type Table, type Variable } from "../../core";
import type { DelimitedOptions, Separator } from "../../formats";
import { addStudy, replaceData, studyOfTable } from "../storage/studies";
import { engine } from "../workers/pool";
import { LEVELS } from "./levels";
import "./dialog.css";
import "./drop-target.css";

const SEPARATOR_WORDS: [Separator, string][] = [
  [",", "comma"],
  [";", "semicolon"],
  ["\t", "tab"],
  ["|", "bar |"],
];
const PREVIEW_ROWS = 12;
const MAX_BYTES = 400 * 1024 * 1024;

type Stage =
  | { kind: "reading" }
  | { kind: "failed"; message: string; text?: string; options?: DelimitedOptions }
  | { kind: "preview"; text: string; options: DelimitedOptions; table: Table; notes: string[]; variables: Variable[] };

/** Opens a file: a study file goes straight to the shelf; a table is shown first, with what was guessed, all open to change. */
export function ImportDialog({ file, close, replaceIn }: { file: File; close: () => void; replaceIn?: string }) {
  const [stage, setStage] = useState<Stage>({ kind: "reading" });
  const title = useId();
  const finish = useFinish(file, close, replaceIn);

  const parse = async (text: string, options: DelimitedOptions): Promise<void> => {
    const result = await engine().readDelimited(text, options);
    if (!result.ok) setStage({ kind: "failed", message: result.message, text, options });
    else setStage({ kind: "preview", text, options, ...result.value, variables: result.value.table.columns.map(guessVariable) });
  };

  useEffect(() => {
    let current = true;
    void (async () => {
      if (file.size > MAX_BYTES)
        return setStage({ kind: "failed", message: "This file is larger than 400 MB. Export only the columns and rows you need." });
      const bytes = new Uint8Array(await file.arrayBuffer());
      const decoded = await engine().decode(bytes);
      if (!current) return;
      if (!decoded.ok) return setStage({ kind: "failed", message: decoded.message });
      const { text, options } = decoded.value;
      if (/^\ufeff?\s*[{[]/.test(text)) {
        const study = await engine().readStudy(text);
        if (!current) return;
        if (!study.ok) return setStage({ kind: "failed", message: study.message });
        return void (await finish.open(study.value));
      }
      await parse(text, options);
    })();
    return () => {
      current = false;
    };
    // The file decides everything; the helpers are made anew at every render.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [file]);

  return (
    <Dialog open onClose={close} maxWidth="lg" fullWidth aria-labelledby={title}>
      <div className="dialog">
        <h2 id={title}>{file.name}</h2>
        {stage.kind === "reading" && <p aria-busy="true">Reading the file …</p>}
        {stage.kind === "failed" && (
          <>
            <p className="note" role="alert">
              {stage.message}
            </p>
            {stage.text !== undefined && <LayoutChoice options={stage.options!} change={(options) => void parse(stage.text!, options)} />}
          </>
        )}
        {stage.kind === "preview" && (
          <Preview
            stage={stage}
            change={(options) => void parse(stage.text, options)}
            setVariables={(variables) => setStage({ ...stage, variables })}
          />
        )}
        <div className="dialog-foot">
          <span className="spacer" />
          <button type="button" className="button" onClick={close}>
            {stage.kind === "failed" ? "Close" : "Cancel"}
          </button>
          {stage.kind === "preview" && (
            <button type="button" className="button main" onClick={() => void finish.use(stage.table, stage.variables)}>
              {replaceIn ? "Use these data" : "Start a study with these data"}
            </button>
          )}
        </div>
      </div>
    </Dialog>
  );
}

function useFinish(file: File, close: () => void, replaceIn?: string) {
  const navigate = useNavigate();
  const { revalidate } = useRevalidator();
  return {
    open: async (study: Parameters<typeof addStudy>[0]): Promise<void> => {
      const id = await addStudy(study);
      close();
      await navigate(`/study/${id}`);
    },
    use: async (table: Table, variables: Variable[]): Promise<void> => {
      if (replaceIn) {
        await replaceData(replaceIn, table, variables);
        close();
        await revalidate();
        return;
      }
      const title = file.name.replace(/\.[^.]+$/, "").replace(/[_-]+/g, " ");
      const id = await addStudy(studyOfTable(title.charAt(0).toUpperCase() + title.slice(1), table, variables));
      close();
      await navigate(`/study/${id}/data`);
    },
  };
}

function LayoutChoice({ options, change }: { options: DelimitedOptions; change: (options: DelimitedOptions) => void }) {
  return (
    <div className="screen-head">
      <label className="field">
        <span>Cells are separated by</span>
        <select value={options.separator} onChange={(e) => change({ ...options, separator: e.target.value as Separator })}>
          {SEPARATOR_WORDS.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <label className="field">
        <span>First row</span>
        <select value={options.header ? "names" : "data"} onChange={(e) => change({ ...options, header: e.target.value === "names" })}>
          <option value="names">holds the names</option>
          <option value="data">is data already</option>
        </select>
      </label>
    </div>
  );
}

type PreviewStage = Extract<Stage, { kind: "preview" }>;

function Preview({
  stage,
  change,
  setVariables,
}: {
  stage: PreviewStage;
  change: (o: DelimitedOptions) => void;
  setVariables: (v: Variable[]) => void;
}) {
  const { table, notes, variables, options } = stage;
  const decimal = variables.some((v) => v.decimal === ",") ? "," : ".";
  const missing = [...new Set(variables.flatMap((v) => v.missing ?? []))];
  const [codes, setCodes] = useState(missing.join(", "));
  const applyCodes = (text: string): void => {
    setCodes(text);
    const list = text
      .split(",")
      .map((t) => t.trim())
      .filter((t) => t !== "");
    setVariables(
      table.columns.map((column, i) => ({
        ...variables[i]!,
        missing: list.filter((code) => column.dictionary.some((t) => t.trim() === code)),
      })),
    );
  };
  return (
    <>
      <p className="quiet">
        {thousands(table.rows)} rows, {table.columns.length} columns. Everything below is a first guess; it can be changed here and later.
      </p>
      <div className="screen-head">
        <LayoutChoice options={options} change={change} />
        <label className="field">
          <span>Decimal mark</span>
          <select value={decimal} onChange={(e) => setVariables(variables.map((v) => ({ ...v, decimal: e.target.value as "." | "," })))}>
            <option value=".">point, 1.5</option>
            <option value=",">comma, 1,5</option>
          </select>
        </label>
        <label className="field">
          <span>Codes for a missing answer</span>
          <input value={codes} placeholder="-99, NA" onChange={(e) => applyCodes(e.target.value)} />
        </label>
      </div>
      {notes.length > 0 && <p className="note">{notes.join(" ")}</p>}
      {/* A table wider than the dialog has to be reachable by keyboard. */}
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <div className="import-preview" tabIndex={0} role="region" aria-label="First rows">
        <table>
          <thead>
            <tr>
              {table.columns.map((column, j) => (
                <th key={column.name} scope="col">
                  {column.name}
                  <small>
                    <select
                      aria-label={`Level of ${column.name}`}
                      value={variables[j]!.level}
                      onChange={(e) => setVariables(variables.map((v, i) => (i === j ? { ...v, level: e.target.value as Level } : v)))}
                    >
                      {LEVELS.map(([level]) => (
                        <option key={level}>{level}</option>
                      ))}
                    </select>
                  </small>
                </th>
              ))}
            </tr>
          </thead>
          <FirstRows table={table} variables={variables} />
        </table>
      </div>
    </>
  );
}

function FirstRows({ table, variables }: { table: Table; variables: Variable[] }) {
  return (
    <tbody>
      {Array.from({ length: Math.min(PREVIEW_ROWS, table.rows) }, (_, i) => (
        <tr key={i}>
          {table.columns.map((column, j) => {
            const text = cell(column, i);
            const gap = isMissing(text, variables[j]!);
            return (
              <td
                key={column.name}
                className={gap ? "missing" : ["continuous", "ordinal"].includes(variables[j]!.level) ? "number" : undefined}
              >
                {text === "" ? "·" : text}
              </td>
            );
          })}
        </tr>
      ))}
    </tbody>
  );
}
