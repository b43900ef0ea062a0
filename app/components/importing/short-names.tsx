import { styled } from "@mui/material/styles";
import { useState } from "react";
import { shortNames, type Variable } from "../../../core";
import { Check } from "../ui/check";
import { TextInput } from "../ui/text-input";

/** A column under its short name; its wording stays as its label, and newer data know it by it. */
const named = (variable: Variable, name: string): Variable => {
  const { column, label, ...rest } = variable;
  const wording = column ?? variable.name;
  const own = label === undefined || label === wording ? {} : { label };
  return name === wording
    ? { ...rest, ...own, name }
    : { ...rest, name, column: wording, label: label ?? wording };
};

const headers = (variables: readonly Variable[]): string[] =>
  variables.map((v) => v.column ?? v.name);

/** Columns whose headers are wordings, under suggested short names; others as they are. */
export function withShortNames(variables: Variable[]): Variable[] {
  const names = shortNames(headers(variables));
  return names ? variables.map((v, j) => named(v, names[j]!)) : variables;
}

interface Props {
  variables: Variable[];
  setVariables: (variables: Variable[]) => void;
}

/** Whether wordings get short names, told where there are any. */
export function ShortNamesChoice({ variables, setVariables }: Props) {
  const names = shortNames(headers(variables));
  if (!names) return null;
  const wordings = names.filter((name, j) => name !== headers(variables)[j]).length;
  const on = variables.some((v) => v.column !== undefined);
  return (
    <Hint>
      <Check
        checked={on}
        onChange={(next) =>
          setVariables(
            next ? withShortNames(variables) : variables.map((v) => named(v, v.column ?? v.name)),
          )
        }
        label={`${wordings === 1 ? "One column has a wording as its name. A short one stands" : `${wordings} columns have wordings as names. Short ones stand`} in sentences, diagram and tables; the wording stays as a hint. Change them in the heads below.`}
      />
    </Hint>
  );
}

/** The short name of a column, to be typed over; its wording beneath. */
export function ShortName({ variables, setVariables, at }: Props & { at: number }) {
  const variable = variables[at]!;
  const [text, setText] = useState(variable.name);
  const wanted = text.trim();
  const problem =
    wanted === ""
      ? "A column needs a name."
      : /["\n\t]/.test(wanted)
        ? "A name cannot hold quotation marks."
        : variables.some((v, j) => j !== at && v.name === wanted)
          ? `“${wanted}” is the name of another column.`
          : null;
  return (
    <>
      <TextInput
        bare
        aria-label={`Short name of ${variable.column}`}
        value={text}
        aria-invalid={problem !== null}
        title={problem ?? variable.column}
        onChange={(e) => setText(e.target.value)}
        onBlur={() => {
          if (problem === null && wanted !== variable.name)
            setVariables(variables.map((v, j) => (j === at ? named(v, wanted) : v)));
          else setText(variable.name);
        }}
      />
      <Wording title={variable.column}>{problem ?? variable.column}</Wording>
    </>
  );
}

const Hint = styled("div")({
  borderLeft: "3px solid var(--petrol)",
  paddingLeft: 10,
  "& .MuiFormControlLabel-label": { fontSize: 14 },
});

const Wording = styled("span")({
  display: "block",
  fontWeight: 400,
  color: "var(--quiet)",
  lineHeight: 1.3,
  overflow: "hidden",
  textOverflow: "ellipsis",
});
