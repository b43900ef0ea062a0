import { writeName, type CompiledTheory } from "../../theory";
import { plain } from "../../wording/numbers";
import type { ChangeEvidence } from "./types";
import type { FittedModel } from "./fit-model";
import type { ScoreTest } from "./score-tests";
import type { TheoryModel } from "./theory-model";

/** Score tests as changes of the theory, the largest first. */
export function changesOf(
  model: TheoryModel,
  fitted: FittedModel,
  theory: CompiledTheory,
  tests: readonly ScoreTest[],
): ChangeEvidence[] {
  const products = new Set(
    model.built.products.flatMap((p) => [p.key, ...p.items.map((i) => i.name)]),
  );
  return tests.map((test): ChangeEvidence => {
    const made = products.has(test.from) || products.has(test.to);
    return {
      ...test,
      words: wordsOf(test, fitted.spec.groups.length),
      change: made ? null : changeOf(test, theory),
      touches: touched(test, theory),
    };
  });
}

function wordsOf({ kind, arrowKind, from, to, mi, epc, group }: ScoreTest, groups: number): string {
  const where = groups > 1 ? ` in ${group}` : "";
  // The test lets go of one group, the line on groups of all of them.
  const all = groups > 2 ? ` Tried, it differs between all ${groups} groups.` : "";
  const gain = `χ² would fall by about ${plain(mi, 1)}`;
  switch (kind) {
    case "loading":
      return `Let “${to}” measure “${from}” as well${where}: ${gain}, loading about ${plain(epc, 2)}.`;
    case "covariance":
      return `Let what is left of “${from}” and “${to}” go together${where}: ${gain}, covariance about ${plain(epc, 2)}.`;
    case "path":
      return `Let “${to}” depend on “${from}”${where}: ${gain}, path about ${plain(epc, 2)}.`;
    case "release":
      return `Let ${nameOf({ arrowKind, from, to })} be its own${where}: ${gain}, about ${plain(epc, 2)} away from the common value.${all}`;
  }
}

function nameOf({ arrowKind, from, to }: Pick<ScoreTest, "arrowKind" | "from" | "to">): string {
  switch (arrowKind) {
    case "path":
      return `what “${from}” does to “${to}”`;
    case "intercept":
      return `the intercept of “${to}”`;
    case "covariance":
      return from === to
        ? `the variance of what is left of “${to}”`
        : `the covariance of “${from}” and “${to}”`;
  }
}

/** What a line of the theory would say. */
function changeOf(
  { kind, from, to, arrowKind }: ScoreTest,
  { groups }: CompiledTheory,
): ChangeEvidence["change"] {
  switch (kind) {
    case "loading":
      return { measure: from, item: to };
    case "covariance":
      return { line: `covary ${writeName(from)} with ${writeName(to)}` };
    case "path":
      return { line: `also ${writeName(from)} to ${writeName(to)}` };
    case "release":
      // Without a line on groups there is nothing to write it into.
      return groups
        ? {
            free: {
              kind: arrowKind === "covariance" && from === to ? "variance" : arrowKind,
              from,
              to,
            },
          }
        : null;
  }
}

/**
 * Hypotheses in which both variables stand, whose estimates the change would move most directly.
 */
function touched({ from, to, kind }: ScoreTest, theory: CompiledTheory): string[] {
  const names = kind === "loading" ? [from] : [from, to];
  const claims = [
    ...theory.hypotheses.map((h) => ({
      label: h.label,
      nodes: [h.from.name, h.to.name, ...h.chains.flat().map((r) => r.name)],
    })),
    ...theory.moderations.map((m) => ({
      label: m.label,
      nodes: [
        m.from.name,
        m.to.name,
        ...m.chain.map((r) => r.name),
        ...m.moderators.map((r) => r.name),
      ],
    })),
  ];
  return claims
    .filter(({ nodes }) => names.every((name) => nodes.includes(name)))
    .map(({ label }) => label);
}
