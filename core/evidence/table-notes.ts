import { listed } from "../wording";
import type { ClaimTest, HypothesisEvidence } from "./types";
import { referenceName } from "./wording";

/** What limits and p of a table of claims rest on, said once; nothing where there are none. */
export function restsOn(claims: readonly { claim: ClaimTest | null }[]): string {
  const tests = claims.flatMap(({ claim }) => (claim && !claim.joint ? [claim] : []));
  const kinds = new Set(tests.map((t) => referenceName({ ...t, df: null }).replace("(–)", "")));
  if (kinds.size === 0) return "";
  const tail = claims.some(({ claim }) => claim?.tail === "one")
    ? "directional hypotheses one-tailed, the others two-tailed"
    : "two-tailed";
  return `Intervals and p by ${[...kinds].join(" and ")}; ${tail}.`;
}

/**
 * What the estimates of a table of claims are, where they are not all coefficients; nothing where
 * they are.
 */
export function measuresOf(
  hypotheses: readonly Pick<HypothesisEvidence, "label" | "measure" | "claim">[],
): string {
  const told = hypotheses.filter(({ claim }) => claim !== null && claim.joint === null);
  const measures = [...new Set(told.map((h) => h.measure))];
  if (measures.every((measure) => measure === "b")) return "";
  const parts = measures.map((measure) => {
    const labels = told.filter((h) => h.measure === measure).map((h) => h.label);
    return measures.length === 1 ? measure : `${measure} (${listed(labels)})`;
  });
  return `Estimates: ${parts.join("; ")}.`;
}
