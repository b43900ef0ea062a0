import { pClause, plain } from "../evidence";
import type { StructureSection } from "../estimators";
import { two } from "./paper";
import type { Working, WorkingStep } from "./types";

/** Where the indices of fit of a model of means and covariances come from. */
export function fitWorking(section: StructureSection): Working | null {
  const { fit, information, counts } = section;
  if (!fit) return null;
  const { chi2, df, baseline, p, cfi, tli, rmsea } = fit.plain;
  const over = Math.max(chi2 - df, 0);
  const overBaseline = Math.max(chi2 - df, baseline.chi2 - baseline.df, 0);
  const steps: WorkingStep[] = [
    {
      what: "Degrees of freedom",
      formula: "means, variances and covariances − free parameters",
      numbers: `${counts.moments} − ${counts.parameters} = ${counts.moments - counts.parameters}${counts.moments - counts.parameters === df ? "" : `; the test has ${df}`}`,
      source: null,
    },
    {
      what: "χ²",
      formula: "from the least discrepancy between observed and implied moments",
      numbers: `${two(chi2)} on ${df} degrees of freedom${p === null ? "" : `, ${pClause(p)}`}`,
      source: null,
    },
  ];
  if (fit.chiSquared && df > 0) {
    steps.push(
      {
        what: "CFI",
        formula:
          "1 − max(χ² − df, 0) / max(χ² − df, χ²ᵦ − dfᵦ, 0), ᵦ: all observed variables uncorrelated",
        numbers: `1 − ${two(over)} / ${two(overBaseline)} = ${plain(cfi)}`,
        source: "Bentler 1990, Psychol Bull 107",
      },
      {
        what: "TLI",
        formula: "(χ²ᵦ/dfᵦ − χ²/df) / (χ²ᵦ/dfᵦ − 1)",
        numbers: `(${plain(baseline.chi2 / baseline.df, 2)} − ${plain(chi2 / df, 2)}) / (${plain(baseline.chi2 / baseline.df, 2)} − 1) = ${plain(tli)}`,
        source: "Tucker & Lewis 1973, Psychometrika 38",
      },
      {
        what: "RMSEA",
        formula: "√(groups × max(χ² − df, 0) / (n × df))",
        numbers: `√(${section.groups.length > 1 ? `${section.groups.length} × ` : ""}${two(over)} / (${sizeOf(over, df, rmsea, section)} × ${df})) = ${plain(rmsea)}`,
        source: "Steiger & Lind 1980; Browne & Cudeck 1993",
      },
    );
  }
  if (information)
    steps.push(
      {
        what: "AIC",
        formula: "−2 log L + 2 × parameters",
        numbers: `−2 × ${signed(two(information.logLikelihood))} + 2 × ${counts.parameters} = ${two(information.aic)}`,
        source: "Akaike 1974, IEEE Trans Automat Contr 19",
      },
      {
        what: "BIC",
        formula: "−2 log L + parameters × ln n",
        numbers: `−2 × ${signed(two(information.logLikelihood))} + ${counts.parameters} × ln ${counts.n} = ${two(information.bic)}`,
        source: "Schwarz 1978, Ann Stat 6",
      },
    );
  return { title: "Fit of the model", steps, rows: `${counts.n} cases.` };
}

const signed = (text: string): string => (text.startsWith("−") ? `(${text})` : text);

/** The size that entered: all cases, or one less where the discrepancy has divisor n − 1. */
function sizeOf(
  over: number,
  df: number,
  rmsea: number,
  { counts, groups }: StructureSection,
): string {
  if (rmsea === 0) return String(counts.n);
  const used = (groups.length * over) / (df * rmsea * rmsea);
  return String(Math.round(used));
}
