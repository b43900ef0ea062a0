import { useState, type ReactNode } from "react";
import { isMissing, thousands, type Level, type Variable } from "../../../core";
import type { ImportPreview } from "../../workers/importing";
import { LEVELS } from "../levels";

interface Props {
  preview: ImportPreview;
  variables: Variable[];
  asMatrix: boolean;
  layoutChoice: ReactNode;
  setVariables: (variables: Variable[]) => void;
  setAsMatrix: (asMatrix: boolean) => void;
}

/** The first rows of a table, with everything that was guessed open to change. */
export function Preview({
  preview,
  variables,
  asMatrix,
  layoutChoice,
  setVariables,
  setAsMatrix,
}: Props) {
  const { notes } = preview;
  const decimal = variables.some((v) => v.decimal === ",") ? "," : ".";
  return (
    <>
      <p className="quiet">
        {thousands(preview.rows)} rows, {preview.columns.length} columns. Everything below is a
        first guess; it can be changed here and later.
      </p>
      {preview.matrix !== null && (
        <label className="note matrix-choice">
          <input
            type="checkbox"
            checked={asMatrix}
            onChange={(e) => setAsMatrix(e.target.checked)}
          />{" "}
          This is a covariance or correlation matrix of {preview.matrix} variables, not a table of
          people. Path models can be estimated from it; nothing can be resampled.
        </label>
      )}
      <div className="screen-head">
        {layoutChoice}
        {!asMatrix && (
          <>
            <label className="field">
              <span>Decimal mark</span>
              <select
                value={decimal}
                onChange={(e) =>
                  setVariables(
                    variables.map((v) => ({ ...v, decimal: e.target.value as "." | "," })),
                  )
                }
              >
                <option value=".">point, 1.5</option>
                <option value=",">comma, 1,5</option>
              </select>
            </label>
            <MissingCodes variables={variables} setVariables={setVariables} />
          </>
        )}
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
                  {!asMatrix && (
                    <small>
                      <select
                        aria-label={`Level of ${column.name}`}
                        value={variables[j]!.level}
                        onChange={(e) =>
                          setVariables(
                            variables.map((v, i) =>
                              i === j ? { ...v, level: e.target.value as Level } : v,
                            ),
                          )
                        }
                      >
                        {LEVELS.map(([level]) => (
                          <option key={level}>{level}</option>
                        ))}
                      </select>
                    </small>
                  )}
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

/** One list of codes for all columns; a column may have its own later. */
function MissingCodes({ variables, setVariables }: Pick<Props, "variables" | "setVariables">) {
  const [codes, setCodes] = useState(
    [...new Set(variables.flatMap((v) => v.missing ?? []))].join(", "),
  );
  const apply = (text: string): void => {
    setCodes(text);
    const list = text
      .split(",")
      .map((t) => t.trim())
      .filter((t) => t !== "");
    setVariables(variables.map((v) => ({ ...v, missing: list })));
  };
  return (
    <label className="field">
      <span>Codes for a missing answer</span>
      <input value={codes} placeholder="-99, NA" onChange={(e) => apply(e.target.value)} />
    </label>
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
                className={
                  gap
                    ? "missing"
                    : ["continuous", "ordinal"].includes(variables[j]!.level)
                      ? "number"
                      : undefined
                }
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
