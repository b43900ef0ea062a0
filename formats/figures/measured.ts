import { plain, type CompositeConstruct, type Evidence, type StructureSection } from "../../core";

/** What a card stands for: a column, a common factor, or something made of its items. */
export type Measured = "observed" | "factor" | "composite";

export const structureOf = ({ sections }: Evidence): StructureSection | null =>
  sections.find((s) => s.kind === "structure") ?? null;

function compositeOf({ sections }: Evidence, name: string): CompositeConstruct | null {
  const section = sections.find((s) => s.kind === "composites");
  return section?.groups[0]?.constructs.find((c) => c.construct === name) ?? null;
}

export function measuredAs(evidence: Evidence, name: string): Measured {
  const latent = evidence.latent.find((l) => l.name === name);
  if (!latent) return "observed";
  return latent.form === "combines" ? "composite" : "factor";
}

/**
 * The number between a construct and one of its items: the weight in a composite, else the
 * standardised loading.
 */
export function itemNumber(
  evidence: Evidence,
  name: string,
  item: string,
): { value: number | null; words: "loading" | "weight" } {
  const composite = compositeOf(evidence, name);
  if (composite) {
    const own = composite.items.find((i) => i.item === item);
    return measuredAs(evidence, name) === "composite"
      ? { value: own?.weight.estimate ?? null, words: "weight" }
      : { value: own?.loading.estimate ?? null, words: "loading" };
  }
  const arrow = structureOf(evidence)?.arrows.find((a) => a.from === name && a.to === item);
  return { value: arrow?.full.estimate ?? null, words: "loading" };
}

const MODEL_WORDS = {
  linear: null,
  logistic: "yes or no, logistic",
  probit: "yes or no, probit",
  poisson: "count, Poisson",
  negative_binomial: "count, negative binomial",
};

/** How a response is modelled, where it is no straight line. */
export function modelWords({ sections }: Evidence, name: string): string | null {
  const section = sections.find((s) => s.kind === "responses");
  const model = section?.models.find((m) => m.outcome === name);
  return model ? MODEL_WORDS[model.family] : null;
}

/** A composite's card has a second line inside the first: so far from it. */
export const INSET = 3.5;

/**
 * The share of a variable's variance that its predictors explain, group by group where there are
 * several.
 * @returns none where nothing points to it, or where its model has no such share
 */
export function explainedShares(evidence: Evidence, name: string): number[] {
  const values = evidence.sections.flatMap((s): (number | null | undefined)[] => {
    if (s.kind === "equations")
      return s.equations.filter((e) => e.outcome === name).map((e) => e.r2);
    if (s.kind === "responses")
      return s.models.filter((m) => m.outcome === name).map((m) => m.fit.rSquared);
    if (s.kind === "composites")
      return s.groups.map(({ result }) => (result.consistent ?? result).r2[name]);
    if (s.kind !== "structure") return [];
    const explained = s.arrows.some((a) => a.role === "path" && a.to === name);
    return explained ? s.r2.filter((r) => r.variable === name).map((r) => r.value) : [];
  });
  return values.filter((v): v is number => v != null);
}

/** "R² = 0.31", or "R² = 0.31 | 0.28" with groups; empty where there is none. */
export function explainedWords(
  evidence: Evidence,
  name: string,
  write: (value: number) => string = (value) => plain(value, 2),
): string {
  const shares = explainedShares(evidence, name);
  return shares.length === 0 ? "" : `R² = ${shares.map(write).join(" | ")}`;
}
