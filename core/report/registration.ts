import type { Registration } from "../study";
import { recipeWords } from "../derive";
import { completePlan, type StudyPlan } from "../study";
import { percent, thousands } from "../wording/numbers";
import type { Block, ReportDocument } from "./document";
import { linesOf, parseTheory, RESERVED } from "../theory";
import { tokenise } from "../theory/tokens";
import { settingWords } from "../registration/deviations";

const heading = (text: string): Block => ({ kind: "heading", level: 1, text });
const list = (items: readonly string[]): Block => ({
  kind: "list",
  items: items.map((item) => [item]),
});

/** Every word that may be the name of a column: those of measures are their own. */
function namesIn(theory: string): string[] {
  const lines = theory.split(/\r?\n/).map((line, at) => tokenise(line, at + 1).tokens);
  const measures = new Set(
    lines.flatMap((tokens) => (tokens[0]?.text === "measure" && tokens[1] ? [tokens[1].text] : [])),
  );
  return lines
    .flat()
    .filter(({ kind, text }) => kind === "name" || (kind === "word" && !RESERVED.has(text)))
    .flatMap(({ text }) => (measures.has(text) ? [] : [text]));
}

/**
 * A plan as a document for a registry: hypotheses, measures, what is left out, how it will be
 * analysed, and the text that runs.
 */
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
  // Which columns there will be is not laid down, so every name counts as one.
  const { complaints } = parseTheory(plan.theory, namesIn(plan.theory));
  const unread = [...new Set(complaints.map((c) => c.line))].map(
    (line) =>
      `The program could not read this line, so nothing would be tested of it: “${plan.theory.split(/\r?\n/)[line - 1]!.trim()}” (${complaints.find((c) => c.line === line)!.message})`,
  );
  const part = (name: string, items: readonly string[]): Block[] =>
    items.length === 0 ? [] : [heading(name), list(items)];
  return {
    title: `Plan: ${title || "Untitled study"}`,
    question: plan.question,
    leftOut: unread,
    language: "en-GB",
    decimal: ".",
    blocks: [
      {
        kind: "paragraph",
        text: [
          `Laid down on ${plan.when.slice(0, 10)}. One row of the data is one of the ${plan.unit}.`,
        ],
      },
      ...unread.map((text): Block => ({ kind: "paragraph", text: [text] })),
      ...part("Hypotheses", labelled),
      ...part("Measures", measures),
      ...part("Further sentences of the theory", rest),
      ...part(
        "Derived variables",
        plan.derived.map((d) => `${d.name}: ${recipeWords(d.recipe)}`),
      ),
      ...part("Left out of every analysis", filters),
      ...part("Expected sizes", plan.plan ? expectedWords(plan.plan) : []),
      ...part("People", plan.plan ? peopleWords(plan.plan, plan.unit) : []),
      ...part("Analysis", settingWords(plan.settings)),
    ],
  };
}

/** What is expected, as it would be read in a registry. */
function expectedWords(plan: Partial<StudyPlan>): string[] {
  const { sizes, correlations, reliabilities, sizesAmong, missing } = completePlan(plan);
  const among = sizesAmong === "constructs" ? "among what is measured" : "among the scores";
  return [
    ...sizes.map((s) => `${s.from.join(" × ")} on ${s.to}: ${s.size} (standardised, ${among})`),
    ...correlations.map((c) => `correlation of ${c.a} with ${c.b}: ${c.r}`),
    ...Object.entries(reliabilities).map(([name, r]) => `reliability of ${name}: ${r}`),
    ...(missing.share > 0
      ? [
          `${percent(missing.share)} % of the answers on outcomes missing${missing.on === null ? ", at random" : `, more of them where ${missing.on} is high`}`,
        ]
      : []),
  ];
}

const peopleWords = (plan: Partial<StudyPlan>, unit: string): string[] => {
  const { n, target, samples, replications, seed } = completePlan(plan);
  return [
    `${thousands(n)} ${unit}, for a wanted power of ${percent(target)} % (simulated with ${thousands(samples)} samples of ${thousands(replications)} bootstrap samples, seed ${seed})`,
  ];
};
