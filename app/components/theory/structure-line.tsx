import Chip from "@mui/material/Chip";
import {
  GROUP_PARTS,
  type Covary,
  type GroupPart,
  type Groups,
  type Hold,
  writeArrow,
} from "../../../core";
import { ref, replaceLine, rewrite } from "./edit-text";
import { Line } from "./line";
import type { SentenceProps } from "./sentence";
import { Slot } from "./slot";

type Props<S> = SentenceProps & { statement: S };

const removal = ({ text, statement, change }: Props<{ line: number }>, label: string) => ({
  label,
  act: () => change(replaceLine(text, statement.line, null)),
});

/** What goes together beside the paths. */
export function CovaryLine(props: Props<Covary>) {
  const { text, statement, variables, change } = props;
  const set = (at: number, key: "a" | "b", name: string): void =>
    change(
      rewrite(text, {
        ...statement,
        pairs: statement.pairs.map((pair, i) => (i === at ? { ...pair, [key]: ref(name) } : pair)),
      }),
    );
  return (
    <Line
      minor
      name="Covariance"
      line={statement.line}
      remove={removal(props, "Remove the covariance")}
    >
      <p>
        {statement.pairs.map(({ a, b, value }, i) => (
          <span key={`${a.name} ${b.name}`}>
            {i > 0 && "; "}
            what is left of{" "}
            <Slot
              label="Variable that covaries"
              placeholder="…"
              value={a.name}
              options={variables.filter((v) => v !== b.name)}
              choose={(name) => set(i, "a", name)}
            />{" "}
            and{" "}
            <Slot
              label="With what"
              placeholder="…"
              value={b.name}
              options={variables.filter((v) => v !== a.name)}
              choose={(name) => set(i, "b", name)}
            />{" "}
            {value === null ? "goes together" : `covaries by ${value}`}
          </span>
        ))}
      </p>
    </Line>
  );
}

/** What is held. */
export function HoldLine(props: Props<Hold>) {
  const { arrows, value } = props.statement;
  return (
    <Line
      minor
      name="Constraint"
      line={props.statement.line}
      remove={removal(props, "Remove the constraint")}
    >
      <p>
        {value === null
          ? `held equal: ${arrows.map(writeArrow).join(", ")}`
          : `held at ${value}: ${arrows.map(writeArrow).join(", ")}`}
      </p>
    </Line>
  );
}

const PART_WORDS: Record<GroupPart, string> = {
  loadings: "loadings",
  intercepts: "intercepts",
  paths: "paths",
  residuals: "residual variances",
  variances: "variances",
};

/** The groups in which a theory is estimated, and what they share. */
export function GroupsLine(props: Props<Groups>) {
  const { text, statement, groupings, change } = props;
  const toggle = (part: GroupPart): void =>
    change(
      rewrite(text, {
        ...statement,
        equal: GROUP_PARTS.filter((p) =>
          p === part ? !statement.equal.includes(p) : statement.equal.includes(p),
        ),
      }),
    );
  return (
    <Line minor name="Groups" line={statement.line} remove={removal(props, "One group again")}>
      <p>
        in each group of{" "}
        <Slot
          label="Column that tells the groups"
          placeholder="which column?"
          value={statement.by.name}
          options={groupings}
          choose={(name) => change(rewrite(text, { ...statement, by: ref(name) }))}
        />
        , with equal{" "}
        {GROUP_PARTS.map((part) => (
          <Chip
            key={part}
            size="small"
            label={PART_WORDS[part]}
            aria-pressed={statement.equal.includes(part)}
            variant={statement.equal.includes(part) ? "filled" : "outlined"}
            onClick={() => toggle(part)}
            sx={{ mr: 0.5, my: 0.25 }}
          />
        ))}
        {statement.free.length > 0 && ` but ${statement.free.map(writeArrow).join(", ")} free`}
      </p>
    </Line>
  );
}
