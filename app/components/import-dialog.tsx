import { Dialog } from "@mui/material";
import { useEffect, useId, useState } from "react";
import { useFetcher } from "react-router";
import { transfer } from "comlink";
import { isMissing, thousands, type Level, type Variable } from "../../core";
import type { DelimitedOptions, Separator } from "../../formats";
import type { ImportPreview } from "../workers/engine.worker";
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
const MAX_BYTES = 400 * 1024 * 1024;

type Stage =
  | { kind: "reading" }
  | { kind: "failed"; message: string; options?: DelimitedOptions }
  | { kind: "preview"; options: DelimitedOptions; preview: ImportPreview; variables: Variable[] };

/** Opens a file: a study file goes straight to the shelf; a table is shown first, with what was guessed, all open to change. */
export function ImportDialog({ file, close, replaceIn }: { file: File; close: () => void; replaceIn?: string }) {
  const [stage, setStage] = useState<Stage>({ kind: "reading" });
  const title = useId();
  const finish = useFinish(file, close, replaceIn);

  const parse = async (options: DelimitedOptions): Promise<void> => {
    const result = await engine().preview(options);
    if (!result.ok) setStage({ kind: "failed", message: result.message, options });
    else setStage({ kind: "preview", options, preview: result.value, variables: result.value.variables });
  };

  useEffect(() => {
    let current = true;
    void (async () => {
      if (file.size > MAX_BYTES)
        return setStage({ kind: "failed", message: "This file is larger than 400 MB. Export only the columns and rows you need." });
      const bytes = new Uint8Array(await file.arrayBuffer());
      const opened = await engine().openFile(transfer(bytes, [bytes.buffer]));
      if (!current) return;
      if (!opened.ok) return setStage({ kind: "failed", message: opened.message });
      if (opened.value.kind === "study") return void (await finish.open());
      await parse(opened.value.options);
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
            {stage.options && <LayoutChoice options={stage.options} change={(options) => void parse(options)} />}
          </>
        )}
        {stage.kind === "preview" && (
          <Preview
            stage={stage}
            change={(options) => void parse(options)}
            setVariables={(variables) => setStage({ ...stage, variables })}
          />
        )}
        <div className="dialog-foot">
          <span className="spacer" />
          <button type="button" className="button" onClick={close}>
            {stage.kind === "failed" ? "Close" : "Cancel"}
          </button>
          {stage.kind === "preview" && (
            <button type="button" className="button main" onClick={() => void finish.use(stage.variables)}>
              {replaceIn ? "Use these data" : "Start a study with these data"}
            </button>
          )}
        </div>
      </div>
    </Dialog>
  );
}

/** Puts what the worker has read on the shelf, or into a study, through the route's action. */
function useFinish(file: File, close: () => void, replaceIn?: string) {
  const fetcher = useFetcher({ key: "import" });
  const send = async (body: object, action: string): Promise<void> => {
    await fetcher.submit(JSON.stringify(body), { method: "post", action, encType: "application/json" });
    close();
  };
  return {
    open: (): Promise<void> => send({ intent: "open" }, "/?index"),
    use: (variables: Variable[]): Promise<void> => {
      if (replaceIn) return send({ intent: "replace", variables }, `/study/${replaceIn}`);
      const title = file.name.replace(/\.[^.]+$/, "").replace(/[_-]+/g, " ");
      return send({ intent: "import", title: title.charAt(0).toUpperCase() + title.slice(1), variables }, "/?index");
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
  const { preview, variables, options } = stage;
  const { notes } = preview;
  const decimal = variables.some((v) => v.decimal === ",") ? "," : ".";
  const missing = [...new Set(variables.flatMap((v) => v.missing ?? []))];
  const [codes, setCodes] = useState(missing.join(", "));
  const applyCodes = (text: string): void => {
    setCodes(text);
    const list = text
      .split(",")
      .map((t) => t.trim())
      .filter((t) => t !== "");
    setVariables(variables.map((v) => ({ ...v, missing: list })));
  };
  return (
    <>
      <p className="quiet">
        {thousands(preview.rows)} rows, {preview.columns.length} columns. Everything below is a first guess; it can be changed here and
        later.
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
              {preview.columns.map((column, j) => (
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
          <FirstRows preview={preview} variables={variables} />
        </table>
      </div>
    </>
  );
}

function FirstRows({ preview, variables }: { preview: ImportPreview; variables: Variable[] }) {
  return (
    <tbody>
      {preview.columns[0]!.cells.map((_, i) => (
        <tr key={i}>
          {preview.columns.map((column, j) => {
            const text = column.cells[i]!;
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
