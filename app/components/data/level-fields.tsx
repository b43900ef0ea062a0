import { codeColumns, type Coding, type Level } from "../../../core";
import { LEVELS } from "../levels";
import { CODINGS, CodingTable } from "./coding-table";
import type { FieldProps } from "./value-fields";

export function LevelField({ variable, change }: FieldProps) {
  return (
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
  );
}

/** Which of two levels counts as 1, and what its coefficient then means. */
export function WhichIsOne({ variable, levels, change }: FieldProps & { levels: string[] }) {
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

/** How groups become columns of an equation, shown as a table. */
export function CodingChoice({ variable, levels, change }: FieldProps & { levels: string[] }) {
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
          columns={codeColumns(
            variable.name,
            levels,
            coding,
            levels.includes(variable.reference ?? "") ? variable.reference : undefined,
          )}
        />
      )}
      {(coding === "indicator" || coding === "effect") && (
        <label className="field">
          <span>Reference level</span>
          <select
            value={variable.reference ?? levels[0]}
            onChange={(e) => change({ reference: e.target.value })}
          >
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
