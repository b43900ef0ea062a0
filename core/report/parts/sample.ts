import { isFromMoments, type DataEvidence, type Evidence } from "../../evidence";
import { columnsOfRecipe } from "../../derive";
import type { StudyDefinition } from "../../study";
import { parseTheory } from "../../theory";
import { heading, paragraphs, type Part } from "../context";
import type { Figures } from "../figures";
import { listed } from "../../wording";

/** Who was analysed, who was left out and why, and what screening found. */
export const sample: Part = ({ evidence, data, definition, write }) => {
  const { sample: used, unit } = evidence;
  const noun = unit || "cases";
  const filtered = used.excluded.filter(({ rows }) => rows.length > 0);
  const left = [
    ...filtered.map(({ filter, rows }) => `${rows.length} by the filter “${filter}”`),
    ...(used.dropped.length > 0
      ? [
          `${used.dropped.length} ${used.keepsIncomplete ? "without any answer to" : "with missing values on"} the variables of the model`,
        ]
      : []),
  ];
  const missing = Object.entries(used.missing)
    .filter(([, count]) => count > 0)
    .map(([name, count]) => `${name} (${count})`);
  const model = variablesOfModel(evidence, definition);
  const codes = missingCodes(definition, model);
  const little = littleWords(data, model, write, used.dropped.length > 0);
  return [
    heading("Sample and screening"),
    ...paragraphs([
      isFromMoments(evidence)
        ? `The analysis rests on the means and covariances of ${write.count(used.n)} ${noun}; their single values were not known, so nothing could be screened or resampled.`
        : `The data hold ${write.count(used.rowsRead)} ${noun}; ${write.count(used.n)} entered the analysis${left.length > 0 ? `. Left out were ${listed(left)}` : ""}.`,
      missing.length > 0 ? `Values were missing on ${listed(missing)}.` : "",
      codes.length > 0 ? `Treated as missing: ${listed(codes)}.` : "",
      definition.corrections.length > 0
        ? `${definition.corrections.length} ${definition.corrections.length === 1 ? "value was" : "values were"} corrected by hand before the analysis.`
        : "",
      little,
      ...(data
        ? data.findings
            .filter((f) => f.weight === "look")
            .filter((f) => f.variables.length === 0 || f.variables.some((name) => model.has(name)))
            .map((f) => firstSentence(f.message))
        : []),
    ]),
  ];
};

/** Everything that enters the model: variables, items of its measures, what they are made of. */
function variablesOfModel(
  evidence: Evidence,
  { theory, settings, variables, derived }: StudyDefinition,
) {
  const { predictors, mediators, outcomes, moderators, covariates } = evidence.roles;
  const names = new Set([...predictors, ...mediators, ...outcomes, ...moderators, ...covariates]);
  for (const { name, items } of evidence.latent) for (const one of [name, ...items]) names.add(one);
  const { statements } = parseTheory(
    theory,
    variables.map((v) => v.name),
  );
  for (const s of statements)
    if (s.kind === "measure" && names.has(s.name.name))
      for (const item of s.items) names.add(item.ref.name);
  // What a derived variable of the model is made of, those made last first.
  for (const { name, recipe } of [...derived].reverse())
    if (names.has(name)) for (const source of columnsOfRecipe(recipe)) names.add(source);
  for (const name of [settings.cluster, settings.strata]) if (name !== null) names.add(name);
  return names;
}

/** Columns that share their codes, together: named while they are few, else counted. */
function missingCodes({ variables }: StudyDefinition, model: ReadonlySet<string>): string[] {
  const byCodes = new Map<string, string[]>();
  for (const { name, missing = [] } of variables) {
    if (missing.length === 0 || !model.has(name)) continue;
    const codes = missing.join(", ");
    byCodes.set(codes, [...(byCodes.get(codes) ?? []), name]);
  }
  return [...byCodes].map(
    ([codes, names]) =>
      `${codes} on ${names.length <= 4 ? listed(names) : `${names.length} columns`}`,
  );
}

/** Little's test of the screened variables, where rows with gaps were left out. */
function littleWords(
  data: DataEvidence | null,
  model: ReadonlySet<string>,
  write: Figures,
  dropped: boolean,
): string {
  const set = data?.sets.find((s) => s.variables.some((name) => model.has(name)));
  const found = dropped ? set?.little.value : null;
  if (!found || found.p === null || found.df <= 0) return "";
  return `Little's test that values are missing completely at random, on ${listed(found.variables)}: χ²(${found.df}) = ${write.number(found.d2, 2)}, ${write.pClause(found.p)}.`;
}

/** What was found, without the advice that follows it. */
const firstSentence = (message: string): string =>
  /^.*?[.!?](?= [\p{Lu}“]|$)/u.exec(message)?.[0] ?? message;
