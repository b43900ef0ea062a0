import {
  compileTheory,
  parseTheory,
  StudyProblem,
  type CompiledTheory,
  type Measure,
  type StudyDefinition,
} from "../../../core";

/** The theory, where it can be read; else what is wrong with it. */
export function readTheory({
  theory,
  variables,
  derived,
}: StudyDefinition):
  | { theory: CompiledTheory; measures: Measure[]; problem: null }
  | { theory: null; problem: string | null } {
  const names = [...variables, ...derived].map((v) => v.name);
  const { statements, complaints } = parseTheory(theory, names);
  const claims = statements.some((s) => s.kind === "hypothesis" || s.kind === "moderation");
  if (!claims) return { theory: null, problem: complaints[0]?.message ?? null };
  try {
    return {
      theory: compileTheory(statements),
      measures: statements.filter((s) => s.kind === "measure"),
      problem: null,
    };
  } catch (error) {
    if (!(error instanceof StudyProblem)) throw error;
    return { theory: null, problem: error.message };
  }
}

/** What a card of the picture is: a scale of so many items, a column. */
export function cardWords(
  { variables }: StudyDefinition,
  measures: readonly Measure[],
  name: string,
): string {
  const measure = measures.find((m) => m.name.name === name);
  if (!measure) return variables.find((v) => v.name === name)?.level ?? "";
  const { form, items } = measure;
  const kind = form === "reflects" ? "latent" : form === "combines" ? "composite" : "scale";
  return `${kind}, ${items.length} items`;
}
