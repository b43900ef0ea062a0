import Button from "@mui/material/Button";
import { listed, type SuspectedCode, type Variable } from "../../../core";
import type { ImportPreview } from "../../workers/importing";
import { Note } from "../ui/layout";

/** Columns that are named before the rest is counted. */
const NAMED = 3;

const columnsOf = ({ columns }: SuspectedCode): string =>
  columns.length > NAMED + 1
    ? `${columns.slice(0, NAMED).join(", ")} and ${columns.length - NAMED} more columns`
    : listed(columns);

const hasAll = (codes: readonly SuspectedCode[], variables: readonly Variable[]): boolean =>
  codes.every(({ code, columns }) =>
    variables.every((v) => !columns.includes(v.column ?? v.name) || v.missing?.includes(code)),
  );

/**
 * The columns with the suspected codes called missing; a level that was chosen by hand stays, one
 * that was guessed from the codes is guessed anew.
 */
export const withSuspected = (
  { suspected, variables: guessed }: Pick<ImportPreview, "suspected" | "variables">,
  variables: readonly Variable[],
): Variable[] =>
  variables.map((variable, j) => {
    const own = suspected.codes.filter((c) => c.columns.includes(variable.column ?? variable.name));
    if (own.length === 0) return variable;
    const missing = [...new Set([...(variable.missing ?? []), ...own.map((c) => c.code)])];
    const level =
      variable.level === guessed[j]!.level ? suspected.variables[j]!.level : variable.level;
    return { ...variable, missing, level };
  });

/** Asks about numbers that stand apart and look like codes for “no answer”. */
export function SuspectedCodes({
  preview,
  variables,
  accept,
}: {
  preview: ImportPreview;
  variables: Variable[];
  accept: (variables: Variable[]) => void;
}) {
  const { codes } = preview.suspected;
  if (codes.length === 0 || hasAll(codes, variables)) return null;
  const [only] = codes;
  return (
    <Note
      action={
        <Button size="small" onClick={() => accept(withSuspected(preview, variables))}>
          {codes.length === 1 ? `Read ${only!.code} as missing` : "Read them as missing"}
        </Button>
      }
    >
      {codes.map((c) => `${c.code} in ${columnsOf(c)}`).join("; ")}:{" "}
      {codes.length === 1 ? "a number" : "numbers"} far from all others, as questionnaires write for
      “no answer”. Read as answers, {codes.length === 1 ? "it moves" : "they move"} every mean.
    </Note>
  );
}
