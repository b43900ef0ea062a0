import type { Adjust } from "../../../core";
import { ref, replaceLine, rewrite } from "./edit-text";
import { Line } from "./line";
import type { SentenceProps } from "./sentence";
import { Slot } from "./slot";

/** Covariates as a sentence with slots. */
export function AdjustLine({
  text,
  statement,
  variables,
  change,
}: SentenceProps & { statement: Adjust }) {
  const set = (patch: Partial<Adjust>): void => {
    const next = { ...statement, ...patch };
    const empty = next.outcomes.length === 0 || next.covariates.length === 0;
    change(empty ? replaceLine(text, statement.line, null) : rewrite(text, next));
  };
  const listed = (key: "outcomes" | "covariates", label: string) => (
    <>
      {statement[key].map((r, i) => (
        <span key={r.name}>
          {i > 0 && ", "}
          <Slot
            label={label}
            placeholder="…"
            value={r.name}
            options={variables}
            choose={(name) =>
              set({ [key]: statement[key].map((other, j) => (j === i ? ref(name) : other)) })
            }
            remove={() => set({ [key]: statement[key].filter((_, j) => j !== i) })}
          />
        </span>
      ))}{" "}
      <Slot
        label={label}
        placeholder="+"
        value={null}
        options={variables.filter((v) => !statement[key].some((r) => r.name === v))}
        choose={(name) => set({ [key]: [...statement[key], ref(name)] })}
      />
    </>
  );
  return (
    <Line
      minor
      name="Adjustment"
      line={statement.line}
      remove={{
        label: "Remove the adjustment",
        act: () => change(replaceLine(text, statement.line, null)),
      }}
    >
      <p>
        adjusting {listed("outcomes", "Adjusted variable")} for {listed("covariates", "Covariate")}
      </p>
    </Line>
  );
}
