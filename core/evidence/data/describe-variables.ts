import { type Variable } from "../../data";
import { StudyProblem } from "../../problems";
import { describe, robustOutliers } from "../../screening";
import type { NumberReader } from "./columns";
import type { VariableEvidence } from "./types";

/** Every variable that can be read as numbers, described on the included rows. */
export function describeVariables(reader: NumberReader): Record<string, VariableEvidence> {
  const { dataset } = reader;
  const found: [name: string, evidence: VariableEvidence][] = [];
  for (const variable of dataset.variables) {
    if (variable.level === "identifier") continue;
    const evidence = describeOne(reader, variable);
    if (evidence) found.push([variable.name, evidence]);
  }
  return Object.fromEntries(found);
}

function describeOne(reader: NumberReader, variable: Variable): VariableEvidence | null {
  let values: Float64Array;
  try {
    values = reader.included(variable.name).values;
  } catch (error) {
    // A column of names has no moments; one that should hold numbers is reported among the
    // findings.
    if (error instanceof StudyProblem) return null;
    throw error;
  }
  const { rows, z, ...centre } = robustOutliers(values);
  const range = variable.range;
  const beyond = range
    ? Array.from(values.keys()).filter((i) => values[i]! < range[0] || values[i]! > range[1])
    : [];
  return {
    name: variable.name,
    label: variable.label ?? null,
    level: variable.level,
    origin: reader.dataset.origins.get(variable.name)!,
    ...describe(values),
    outliers: { ...centre, rows: rows.map((i) => reader.fileRow(i)), z },
    rangeErrors: beyond.map((i) => ({ row: reader.fileRow(i), value: values[i]! })),
  };
}
