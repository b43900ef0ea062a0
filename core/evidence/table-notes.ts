import { listed } from "../wording";
import type { ClaimTest, HypothesisEvidence } from "./types";
import { errorsName, referenceName } from "./wording";

/**
 * What limits and p of a table of claims rest on, said once; nothing where there are none.
 * @param errors behind t, z and F; classical ones need no word
 */
export function restsOn(
  claims: readonly { claim: ClaimTest | null }[],
  errors = "classical",
): string {
  const robust = errors === "classical" ? "" : ` (${errorsName(errors)} errors)`;
  const tests = claims.flatMap(({ claim }) =>
    claim && !claim.joint && claim.p !== null ? [claim] : [],
  );
  const named = (test: ClaimTest): string => {
    const name = referenceName({ ...test, df: null }).replace("(–)", "");
    return test.reference === "t" || test.reference === "z" ? `${name}${robust}` : name;
  };
  const joint = claims.flatMap(({ claim }) => (claim?.joint ? [claim.joint.reference] : []));
  const kinds = new Set([
    ...tests.map(named),
    ...joint.map((reference) => JOINT_WORDS[reference](robust)),
  ]);
  if (kinds.size === 0) return "";
  const tail = claims.some(({ claim }) => claim?.tail === "one")
    ? "directional hypotheses one-tailed, the others two-tailed"
    : "two-tailed";
  return `${tests.length > 0 ? "Intervals and p" : "p"} by ${listed([...kinds])}; ${tail}.`;
}

const JOINT_WORDS = {
  F: (robust: string) => `${robust === "" ? "F" : "robust Wald F"}${robust}`,
  chi2: (robust: string) => `Wald χ²${robust}`,
  bootstrap: () => "a joint bootstrap test (T)",
};

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
