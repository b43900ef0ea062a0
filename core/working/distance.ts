import { pClause, plain } from "../evidence";
import type { MahalanobisResult } from "../screening";
import { sourced } from "./paper";
import type { Working } from "./types";

/**
 * Where the distance of one row from the middle of all comes from; null where the row is not told.
 */
export function distanceWorking(result: MahalanobisResult, row: number): Working | null {
  const found = result.top.find((r) => r.row === row);
  if (!found) return null;
  const { n, df, variables, sum } = result;
  return {
    title: `Row ${row}`,
    steps: [
      sourced(
        "Squared distance",
        "(x − means)′ S⁻¹ (x − means), S the covariance of the variables (divisor n − 1)",
        `over ${variables.join(", ")}: ${plain(found.d2)}; all rows together ${plain(sum)} = (${n} − 1) × ${df}`,
        "Mahalanobis 1936, Proc Nat Inst Sci India 2",
      ),
      sourced(
        "p",
        "Pr(χ² > squared distance), as many degrees of freedom as variables",
        `χ²(${df}) = ${plain(found.d2)}, ${pClause(found.p)}`,
        "Tabachnick & Fidell 2019, Using Multivariate Statistics",
      ),
    ],
    rows: `${n} rows complete on these variables.`,
  };
}
