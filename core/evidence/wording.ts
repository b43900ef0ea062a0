import type { Evidence, Verdict } from "./types";
import type { JointTest } from "../inference";
import { INTERVAL_WORDS } from "../wording/intervals";
import { dfWords, pClause, plain } from "../wording/numbers";

export { INTERVAL_WORDS };

/** A joint test in one phrase: “Joint test F(2, 116) = 4.12, p = .019, HC3 errors”. */
export function jointWords({ reference, statistic, df1, df2, p, errors }: JointTest): string {
  const by = errors === undefined ? "" : `, ${errors} errors`;
  if (reference === "F")
    return `Joint test F(${df1}, ${dfWords(df2)}) = ${plain(statistic, 2)}, ${pClause(p)}${by}`;
  if (reference === "chi2")
    return `Joint test χ²(${df1}) = ${plain(statistic, 2)}, ${pClause(p)}${by}`;
  return `Joint bootstrap test of the ${df1} effects, T = ${plain(statistic, 2)}, ${pClause(p)}`;
}

/** What a verdict is called, on screens and in tables. */
export const VERDICT_WORDS: Record<Verdict, string> = {
  supported: "supported",
  not_supported: "not supported",
  opposite: "opposite direction",
  unsettled: "unsettled",
  undirected: "needs a comparison",
  not_testable: "cannot be tested",
  pending: "not yet known",
};

/** Who is not in the sample, and why: filters and missing values are different reasons. */
export function sampleWords({ sample, unit }: Pick<Evidence, "sample" | "unit">): string {
  const missing = sample.dropped.length;
  const filtered = sample.rowsRead - sample.n - missing;
  const parts = [
    ...(missing > 0
      ? [
          sample.keepsIncomplete
            ? `${missing} left out without any answer`
            : `${missing} left out for missing values`,
        ]
      : []),
    ...(filtered > 0 ? [`${filtered} left out by filters`] : []),
  ];
  return `${unit} used, ${parts.length > 0 ? parts.join(", ") : "nobody left out"}`;
}

/** What an interval is called: the t-based one is not the delta method. */
export const intervalName = ({
  method,
  reference,
}: {
  method: string;
  reference: string;
}): string => (reference === "t" ? "t-based" : INTERVAL_WORDS[method]!);

/** What a p value rests on, for pages on which several kinds stand. */
export const referenceName = ({
  reference,
  df,
}: {
  reference: string;
  df: number | null;
}): string =>
  reference === "t"
    ? `t(${dfWords(df)})`
    : reference === "z"
      ? "z"
      : reference === "monte_carlo"
        ? "Monte Carlo"
        : "bootstrap";

/** The errors in use, by their name. */
export const errorsName = (errors: string): string =>
  errors === "CR2" ? "cluster-robust (CR2)" : errors;

/** What one unit of a coefficient or effect is. */
export function unitWords({
  settings,
  units,
  sections,
}: Pick<Evidence, "settings" | "units" | "sections">): string {
  if (settings.centring === "standardised") return "z-scores";
  const steps = sections.some((s) => s.kind === "composites" && s.steps.length > 0);
  const scores = steps ? "SDs of scores or steps" : "SDs of scores";
  return { raw: "raw units", sd: scores, response: "differences of means" }[units];
}
