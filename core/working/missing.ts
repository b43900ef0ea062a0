import { pClause, plain } from "../evidence";
import type { LittleResult, MardiaResult } from "../screening";
import { operand, sourced, step } from "./paper";
import type { Working } from "./types";

/** Where Little's test that values are missing completely at random comes from. */
export function littleWorking({
  n,
  variables,
  patterns,
  rowsAllMissing,
  df,
  d2,
  d2MlCovariance,
  p,
}: LittleResult): Working {
  const left = rowsAllMissing > 0 ? `; ${rowsAllMissing} without any value left out` : "";
  return {
    title: "Little's test",
    steps: [
      sourced(
        "χ²",
        "Σ over patterns of rows × (means − μ)′ Σ⁻¹ (means − μ), μ and Σ by EM for what the pattern has, Σ × n / (n − 1)",
        `${plain(d2MlCovariance)} × ${n - 1} / ${n} = ${plain(d2)}`,
        "Little 1988, J Am Stat Assoc 83",
      ),
      step(
        "Degrees of freedom, p",
        "Σ over patterns of variables observed − variables",
        `${df + variables.length} − ${variables.length} = ${df}${p === null ? "" : `; χ²(${df}) = ${plain(d2)}, ${pClause(p)}`}`,
      ),
    ],
    rows: `${n} rows in ${patterns} patterns of missing values over ${variables.join(", ")}${left}.`,
  };
}

/** Where the tests of multivariate normality come from. */
export function mardiaWorking(found: MardiaResult): Working {
  const { n, variables, skewness, skewnessChiSquare, skewnessDf, kurtosis, kurtosisZ } = found;
  const p = variables.length;
  const factor = ((p + 1) * (n + 1) * (n + 3)) / (n * ((n + 1) * (p + 1) - 6));
  const MARDIA = "Mardia 1970, Biometrika 57; 1974, Sankhya B 36";
  return {
    title: "Multivariate normality",
    steps: [
      sourced(
        "Skewness",
        "Σ over pairs of rows of m³ / n², m = (x − means)′ S⁻¹ (x′ − means), S with divisor n",
        plain(skewness),
        MARDIA,
      ),
      sourced(
        "Its χ²",
        "n × skewness / 6, times (p + 1) (n + 1) (n + 3) / (n ((n + 1) (p + 1) − 6)) for small samples",
        `${n} × ${plain(skewness)} / 6 = ${plain(skewnessChiSquare)}; ${plain(skewnessChiSquare)} × ${plain(factor)} = ${plain(found.skewnessChiSquareSmallSample)}; ${skewnessDf} degrees of freedom, ${pClause(found.skewnessPSmallSample)}`,
        MARDIA,
      ),
      sourced(
        "Kurtosis",
        "Σ over rows of m² / n, m = (x − means)′ S⁻¹ (x − means)",
        plain(kurtosis),
        MARDIA,
      ),
      sourced(
        "Its z",
        "(kurtosis − p (p + 2)) / √(8 p (p + 2) / n)",
        `(${operand(kurtosis)} − ${p * (p + 2)}) / √(${8 * p * (p + 2)} / ${n}) = ${plain(kurtosisZ)}, ${pClause(found.kurtosisP)}`,
        MARDIA,
      ),
    ],
    rows: `${n} rows complete on ${variables.join(", ")}.`,
  };
}
