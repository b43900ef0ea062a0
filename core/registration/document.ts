import { recipeWords } from "../derive";
import type { Block, ReportDocument } from "../report/document";
import { linesOf } from "../theory";
import { settingWords } from "./deviations";
import type { Registration } from "./plan";

const heading = (text: string): Block => ({ kind: "heading", level: 1, text });
const list = (items: readonly string[]): Block => ({
  kind: "list",
  items: items.map((item) => [item]),
});

/** A plan as a document for a registry: hypotheses, measures, what is left out, how it will be analysed, and the text that runs. */
export function registrationDocument(title: string, plan: Registration): ReportDocument {
  const measures = linesOf(plan.theory, "measure").map((line) => line.trim());
  const others = plan.theory
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter((line) => line !== "" && !measures.includes(line));
  const labelled = others.filter((line) => /^[\p{L}\p{N}_.]+: /u.test(line));
  const rest = others.filter((line) => !labelled.includes(line));
  const filters = plan.filters
    .filter((f) => f.active)
    .map((f) =>
      f.rule.kind === "condition"
        ? `${f.name}: rows where ${f.rule.formula}`
        : `${f.name}: ${f.rule.rows.length} rows by number`,
    );
  const part = (name: string, items: readonly string[]): Block[] =>
    items.length === 0 ? [] : [heading(name), list(items)];
  return {
    title: `Plan: ${title || "Untitled study"}`,
    question: plan.question,
    language: "en-GB",
    decimal: ".",
    blocks: [
      {
        kind: "paragraph",
        text: [
          `Laid down on ${plan.when.slice(0, 10)}. One row of the data is one of the ${plan.unit}.`,
        ],
      },
      ...part("Hypotheses", labelled),
      ...part("Measures", measures),
      ...part("Further sentences of the theory", rest),
      ...part(
        "Derived variables",
        plan.derived.map((d) => `${d.name}: ${recipeWords(d.recipe)}`),
      ),
      ...part("Left out of every analysis", filters),
      ...part("Analysis", settingWords(plan.settings)),
    ],
  };
}
