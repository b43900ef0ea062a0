import { pClause, plain, thousands } from "../evidence";
import type {
  ChangeEvidence,
  DifferenceEvidence,
  FitEvidence,
  StructureSection,
} from "../estimators";
import { sourced, step, two } from "./paper";
import type { Working, WorkingStep } from "./types";

const SATORRA = "Satorra & Bentler 2001, Psychometrika 66";

interface Compared {
  chi2: number;
  df: number;
  /** Null where the statistic is not scaled. */
  scaling: number | null;
}

const comparedOf = ({ plain: { chi2, df }, satorraBentler }: FitEvidence): Compared => ({
  chi2,
  df,
  scaling: satorraBentler?.scaling ?? null,
});

/**
 * Where the test of a difference in fit comes from.
 * @param tight the fit of the model that holds more fixed; null where only the difference is known
 * @param loose the fit of the other
 */
export function differenceWorking(
  title: string,
  difference: Pick<DifferenceEvidence, "chi2" | "df" | "p" | "scaled"> &
    Partial<Pick<DifferenceEvidence, "wald">>,
  { tight, loose }: { tight: Compared | null; loose: Compared | null },
  n: number,
): Working {
  const { chi2, df, p, scaled, wald } = difference;
  const steps: WorkingStep[] = [
    step(
      "Δχ²",
      "χ² of the model that holds more fixed − χ² of the other",
      tight && loose
        ? `${two(tight.chi2)} − ${two(loose.chi2)} = ${two(tight.chi2 - loose.chi2)}`
        : two(chi2),
    ),
    step(
      "Δdf, p",
      "degrees of freedom likewise",
      `${tight && loose ? `${tight.df} − ${loose.df} = ${df}; ` : ""}χ²(${df}) = ${two(chi2)}, ${pClause(p)}`,
    ),
  ];
  if (scaled) {
    const known =
      tight && loose && tight.scaling !== null && (loose.scaling !== null || loose.df === 0);
    if (known)
      steps.push(
        sourced(
          "Scaling factor",
          "(df₁ c₁ − df₀ c₀) / (df₁ − df₀), ₁ the model that holds more fixed",
          `(${tight.df} × ${plain(tight.scaling)} − ${loose.df} × ${plain(loose.df === 0 ? 1 : loose.scaling)}) / ${df} = ${plain(scaled.scaling)}`,
          SATORRA,
        ),
      );
    steps.push(
      sourced(
        "Scaled Δχ²",
        "Δχ² / scaling factor",
        `${two(chi2)} / ${plain(scaled.scaling)} = ${two(scaled.chi2)}, ${pClause(scaled.p)}`,
        SATORRA,
      ),
    );
  }
  if (wald)
    steps.push(
      sourced(
        "Wald χ²",
        "d′ V⁻¹ d, d the differences of the estimates, V their covariance",
        `χ²(${wald.df}) = ${two(wald.wald)}, ${pClause(wald.p)}`,
        "Wald 1943, Trans Am Math Soc 54",
      ),
    );
  return { title, steps, rows: `${thousands(n)} cases, the same in both models.` };
}

/**
 * The working of one step of the comparison of groups, against the one before; of the first its fit
 * alone.
 */
export function invarianceWorking(section: StructureSection, at: number): Working | null {
  const { invariance, counts } = section;
  const [now, before] = [invariance[at], invariance[at - 1]];
  if (!now?.fit) return null;
  const { chi2, df, cfi, rmsea } = now.fit.plain;
  const own = step(
    "Fit of this step",
    null,
    `χ² ${two(chi2)} on ${df} degrees of freedom; CFI ${plain(cfi)}, RMSEA ${plain(rmsea)}, over ${section.groups.length} groups together`,
  );
  if (!now.difference || !before?.fit)
    return { title: now.words, steps: [own], rows: `${thousands(counts.n)} cases.` };
  const found = differenceWorking(
    `${now.words}, against: ${before.words}`,
    now.difference,
    { tight: comparedOf(now.fit), loose: comparedOf(before.fit) },
    counts.n,
  );
  return {
    ...found,
    steps: [
      own,
      ...found.steps,
      step(
        "ΔCFI",
        null,
        `${plain(cfi)} − ${plain(before.fit.plain.cfi)} = ${plain(cfi - before.fit.plain.cfi)}`,
      ),
    ],
  };
}

/** Where the score test of a change comes from, and what would be expected of it. */
export function changeWorking(change: ChangeEvidence, { counts }: StructureSection): Working {
  const { arrow, mi, p, epc, sepc, kind } = change;
  return {
    title: arrow,
    steps: [
      sourced(
        "Score test",
        "s² / v, s the slope of the log likelihood where the arrow is held, v its information once all else is estimated",
        `χ²(1) = ${two(mi)}, ${pClause(p)}`,
        "Rao 1948, Proc Camb Phil Soc 44; Sörbom 1989, Psychometrika 54",
      ),
      sourced(
        kind === "release" ? "Expected difference from the common value" : "Expected value",
        "s / v = sign of s × √(χ² / v)",
        `${plain(epc)}, with a standard error of about |${plain(epc)}| / √${two(mi)} = ${plain(Math.abs(epc) / Math.sqrt(mi))}`,
        "Saris, Satorra & Sörbom 1987, Sociological Methodology 17",
      ),
      ...(sepc === null ? [] : [step("In SDs", "expected value × SD / SD", plain(sepc))]),
    ],
    rows: `${thousands(counts.n)} cases.`,
  };
}
