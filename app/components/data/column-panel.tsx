import { useState } from "react";
import {
  codeColumns,
  levelsInOrder,
  plain,
  recipeWords,
  type Coding,
  type ColumnSummary,
  type DerivedVariable,
  type Level,
  type Recipe,
  type TextColumn,
  type Variable,
} from "../../../core";
import { CloseIcon } from "../icons";
import { LEVELS } from "../levels";
import { CODINGS, CodingTable } from "./coding-table";
import { Sparkbars } from "./sparkbars";

interface Props {
  variable: Variable;
  column: TextColumn;
  summary: ColumnSummary | undefined;
  /** Set for a variable made of others. */
  derived: DerivedVariable | null;
  change: (patch: Partial<Variable>) => void;
  /** Opens the making of a new variable from this one. */
  derive: (kind: Recipe["kind"]) => void;
  /** Opens the recipe of this derived variable. */
  changeRecipe: () => void;
  removeDerived: () => void;
  close: () => void;
}

/** What is said of one column; the cells themselves are never changed here. */
export function ColumnPanel({ variable, column, summary, derived, change, derive, changeRecipe, removeDerived, close }: Props) {
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
      {derived && (
        <div className="recipe">
          <p className="quiet">{recipeWords(derived.recipe)}</p>
          <button type="button" className="button" onClick={changeRecipe}>
            Change the recipe
          </button>
          <button type="button" className="button" onClick={removeDerived}>
            Remove the variable
          </button>
        </div>
      )}
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
      {variable.level !== "identifier" && variable.level !== "categorical" && <Range variable={variable} change={change} />}
      <MissingCodes variable={variable} change={change} />
      <ValueLabels key={`labels ${variable.level}`} variable={variable} column={column} change={change} />
      <NewFrom level={variable.level} derive={derive} />
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
      {levels.length > 1 && (
        <CodingTable
          variable={variable.name}
          levels={levels}
          columns={codeColumns(variable.name, levels, coding, levels.includes(variable.reference ?? "") ? variable.reference : undefined)}
        />
      )}
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

/** Lowest and highest value that can occur: the limits for reversing, and what counts as a range error. */
function Range({ variable, change }: { variable: Variable; change: Props["change"] }) {
  const [low, setLow] = useState(variable.range ? String(variable.range[0]) : "");
  const [high, setHigh] = useState(variable.range ? String(variable.range[1]) : "");
  const set = (from: string, to: string): void => {
    const [a, b] = [Number(from), Number(to)];
    if (from.trim() === "" && to.trim() === "") change({ range: undefined });
    else if (from.trim() !== "" && to.trim() !== "" && a < b) change({ range: [a, b] });
  };
  return (
    <div className="field" role="group" aria-label="Values that can occur">
      <span>Values that can occur</span>
      <span className="range-fields">
        <input
          aria-label="Lowest value that can occur"
          inputMode="decimal"
          placeholder="lowest"
          value={low}
          onChange={(e) => {
            setLow(e.target.value);
            set(e.target.value, high);
          }}
        />
        to
        <input
          aria-label="Highest value that can occur"
          inputMode="decimal"
          placeholder="highest"
          value={high}
          onChange={(e) => {
            setHigh(e.target.value);
            set(low, e.target.value);
          }}
        />
      </span>
    </div>
  );
}

/** At most so many values can be labelled one by one. */
const MOST_LABELS = 12;

function ValueLabels({ variable, column, change }: { variable: Variable; column: TextColumn; change: Props["change"] }) {
  const values = levelsInOrder(column, variable);
  if (variable.level === "identifier" || values.length === 0 || values.length > MOST_LABELS) return null;
  const set = (code: string, label: string): void => {
    const labels = Object.fromEntries(Object.entries({ ...variable.labels, [code]: label }).filter(([, text]) => text.trim() !== ""));
    change({ labels: Object.keys(labels).length > 0 ? labels : undefined });
  };
  return (
    <details className="field value-labels" open={variable.labels !== undefined}>
      <summary>Labels of the answers</summary>
      {values.map((code) => (
        <label key={code}>
          <span>{code}</span>
          <input aria-label={`Label of ${code}`} defaultValue={variable.labels?.[code] ?? ""} onChange={(e) => set(code, e.target.value)} />
        </label>
      ))}
    </details>
  );
}

const OFFERS: Record<"numeric" | "groups", [Recipe["kind"], string][]> = {
  numeric: [
    ["reverse", "Reverse"],
    ["centre", "Minus its mean"],
    ["standardise", "Standardise"],
    ["log", "Logarithm"],
    ["rescale", "Other units"],
    ["split", "Cut into groups"],
  ],
  groups: [
    ["code", "Code columns"],
    ["recode", "Recode"],
  ],
};

function NewFrom({ level, derive }: { level: Level; derive: Props["derive"] }) {
  if (level === "identifier") return null;
  const offers = level === "continuous" || level === "ordinal" ? [...OFFERS.numeric, OFFERS.groups[1]!] : OFFERS.groups;
  return (
    <div className="field" role="group" aria-label="Make a new variable of it">
      <span>Make a new variable of it</span>
      <div className="offers">
        {offers.map(([kind, words]) => (
          <button key={kind} type="button" className="button" onClick={() => derive(kind)}>
            {words}
          </button>
        ))}
      </div>
    </div>
  );
}
