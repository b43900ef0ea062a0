import { writeStatement, type Measure, type MeasureForm, type Statement } from "../theory";

/** A theory with its measures made in one way. */
export interface MeasuredOtherwise {
  name: string;
  theory: string;
}

/**
 * The three ways of measuring that are compared: scores first, then what engines estimate from the
 * items.
 */
const WAYS: { form: MeasureForm; like: MeasureForm[]; name: string }[] = [
  { form: "averages", like: ["averages", "sums"], name: "measured by averages of the items" },
  { form: "reflects", like: ["reflects"], name: "measured by latent variables (common factors)" },
  { form: "combines", like: ["combines"], name: "measured by composites (partial least squares)" },
];

/**
 * The same sentences with all measures made in one way that not all of them are made in now:
 * averages, latent variables, composites. Covariances, constraints and scales belong to latent
 * variables alone. None where nothing is measured by several items.
 */
export function measuredOtherwise(
  theory: string,
  statements: readonly Statement[],
): MeasuredOtherwise[] {
  const measures = statements.filter((s): s is Measure => s.kind === "measure");
  const several = measures.filter((m) => m.items.length > 1);
  return WAYS.flatMap(({ form, like, name }) => {
    if (several.every((m) => like.includes(m.form))) return [];
    const lines = theory.split(/\r?\n/);
    for (const s of statements) {
      if (s.kind === "measure" && !like.includes(s.form)) {
        const { kind, line, name: own, items, scale, answered } = s;
        lines[s.line - 1] = writeStatement({ kind, line, name: own, items, scale, answered, form });
      }
      if (form !== "reflects" && ["covary", "hold", "free"].includes(s.kind))
        lines[s.line - 1] = "";
    }
    return [{ name, theory: lines.join("\n") }];
  });
}
