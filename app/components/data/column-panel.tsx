import { useState } from "react";
import { levelsInOrder, plain, type Coding, type ColumnSummary, type Level, type TextColumn, type Variable } from "../../../core";
import { CloseIcon } from "../icons";
import { LEVELS } from "../levels";
import { Sparkbars } from "./sparkbars";

const CODINGS: [Coding, string, string][] = [
  ["indicator", "indicator", "each level against the reference"],
  ["sequential", "sequential", "each level against the one before"],
  ["helmert", "Helmert", "later levels against each level"],
  ["effect", "effect", "each level against the mean of all"],
];

interface Props {
  variable: Variable;
  column: TextColumn;
  summary: ColumnSummary | undefined;
  change: (patch: Partial<Variable>) => void;
  close: () => void;
}

/** What is said of one column; the cells themselves are never changed here. */
export function ColumnPanel({ variable, column, summary, change, close }: Props) {
  const levels = variable.level === "binary" || variable.level === "categorical" ? levelsInOrder(column, variable) : [];
  return (
    <aside className="column-panel" aria-label={`Column ${variable.name}`}>
      <div className="screen-head">
        <h2>{variable.name}</h2>
        <span className="spacer" />
        <button type="button" className="button bare" onClick={close} aria-label="Close the column">
          <CloseIcon />
        </button>
      </div>
      {summary && <Sparkbars summary={summary} width={252} height={72} />}
      {summary && levels.length > 0 && (
        <ul className="level-counts">
          {summary.bars.map((bar) => (
            <li key={bar.label}>
              {bar.label} <span>{bar.count}</span>
            </li>
          ))}
        </ul>
      )}
      {summary && <Moments summary={summary} />}
      {summary?.notNumeric && (
        <p className="note">
          “{summary.notNumeric.example}” in row {summary.notNumeric.row} is not a number
          {summary.notNumeric.count > 1 && ` (${summary.notNumeric.count} such cells)`}. Declare it a missing code, or make the column
          categorical.
        </p>
      )}
      <label className="field">
        <span>Level of measurement</span>
        <select value={variable.level} onChange={(e) => change({ level: e.target.value as Level })}>
          {LEVELS.map(([level]) => (
            <option key={level} value={level}>
              {level}
            </option>
          ))}
        </select>
        <small className="quiet">{LEVELS.find(([level]) => level === variable.level)?.[1]}</small>
      </label>
      {variable.level === "binary" && levels.length === 2 && <WhichIsOne variable={variable} levels={levels} change={change} />}
      {variable.level === "categorical" && <CodingChoice variable={variable} levels={levels} change={change} />}
      <label className="field">
        <span>Label</span>
        <input value={variable.label ?? ""} onChange={(e) => change({ label: e.target.value || undefined })} />
      </label>
      <label className="field">
        <span>Unit</span>
        <input
          value={variable.unit ?? ""}
          placeholder="a week, years, 1 to 5"
          onChange={(e) => change({ unit: e.target.value || undefined })}
        />
      </label>
      <MissingCodes variable={variable} change={change} />
      <label className="field">
        <span>Decimal mark</span>
        <select value={variable.decimal ?? "."} onChange={(e) => change({ decimal: e.target.value as "." | "," })}>
          <option value=".">point, 1.5</option>
          <option value=",">comma, 1,5</option>
        </select>
      </label>
    </aside>
  );
}

function Moments({ summary }: { summary: ColumnSummary }) {
  return (
    <dl className="moments">
      <dt>missing</dt>
      <dd>
        {summary.missing} of {summary.rows}
      </dd>
      <dt>different values</dt>
      <dd>{summary.distinct}</dd>
      {summary.mean !== null && (
        <>
          <dt>mean, SD</dt>
          <dd>
            {plain(summary.mean)}, {plain(summary.sd)}
          </dd>
          <dt>range</dt>
          <dd>
            {plain(summary.min, 2)} to {plain(summary.max, 2)}
          </dd>
        </>
      )}
    </dl>
  );
}

function WhichIsOne({ variable, levels, change }: { variable: Variable; levels: string[]; change: Props["change"] }) {
  const one = variable.one ?? levels[1]!;
  const zero = levels.find((l) => l !== one)!;
  return (
    <div className="field">
      <span>Used in equations as</span>
      <p>
        <strong>{one}</strong> = 1, <strong>{zero}</strong> = 0
      </p>
      <button type="button" className="button" onClick={() => change({ one: zero })}>
        Let “{zero}” be 1
      </button>
      <small className="quiet">
        Its coefficient is the mean of “{one}” minus the mean of “{zero}”, other things equal.
      </small>
    </div>
  );
}

function CodingChoice({ variable, levels, change }: { variable: Variable; levels: string[]; change: Props["change"] }) {
  const coding = variable.coding ?? "indicator";
  return (
    <>
      <label className="field">
        <span>Coding of the {levels.length} levels</span>
        <select value={coding} onChange={(e) => change({ coding: e.target.value as Coding })}>
          {CODINGS.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
        <small className="quiet">{CODINGS.find(([key]) => key === coding)?.[2]}</small>
      </label>
      {(coding === "indicator" || coding === "effect") && (
        <label className="field">
          <span>Reference level</span>
          <select value={variable.reference ?? levels[0]} onChange={(e) => change({ reference: e.target.value })}>
            {levels.map((level) => (
              <option key={level}>{level}</option>
            ))}
          </select>
        </label>
      )}
      {(coding === "sequential" || coding === "helmert") && (
        <div className="field">
          <span>Order</span>
          <ol className="level-order">
            {levels.map((level, i) => (
              <li key={level}>
                {level}{" "}
                {i > 0 && (
                  <button
                    type="button"
                    className="button bare"
                    aria-label={`Move ${level} up`}
                    onClick={() => change({ levels: swapped(levels, i) })}
                  >
                    ↑
                  </button>
                )}
              </li>
            ))}
          </ol>
        </div>
      )}
    </>
  );
}

const swapped = (levels: string[], i: number): string[] =>
  levels.map((level, j) => (j === i ? levels[i - 1]! : j === i - 1 ? levels[i]! : level));

function MissingCodes({ variable, change }: { variable: Variable; change: Props["change"] }) {
  const [text, setText] = useState((variable.missing ?? []).join(", "));
  return (
    <label className="field">
      <span>Codes for a missing answer</span>
      <input
        value={text}
        placeholder="-99, NA"
        onChange={(e) => {
          setText(e.target.value);
          change({
            missing: e.target.value
              .split(",")
              .map((t) => t.trim())
              .filter((t) => t !== ""),
          });
        }}
      />
      <small className="quiet">An empty cell is always missing.</small>
    </label>
  );
}
