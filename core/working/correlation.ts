import { pClause, percent, plain } from "../evidence";
import type { CorrelationCell, CorrelationTest } from "../screening";
import { operand, sourced, step } from "./paper";
import type { Working, WorkingStep } from "./types";

/** Where a correlation, its test and its interval come from; null where there is no correlation. */
export function correlationWorking(
  { x, y, pearson, spearman }: CorrelationCell,
  kind: "pearson" | "spearman",
  level: number,
): Working | null {
  const found = kind === "pearson" ? pearson : spearman;
  if (!found) return null;
  return {
    title: `${kind === "pearson" ? "Pearson" : "Spearman"} correlation of ${x} and ${y}`,
    steps: [
      kind === "pearson"
        ? step("r", "Σ (x − mean) (y − mean) / √(Σ (x − mean)² Σ (y − mean)²)", plain(found.r))
        : sourced(
            "r of ranks",
            "Pearson's r of the ranks; equal values share the mean of their ranks",
            plain(found.r),
            "Spearman 1904, Am J Psychol 15",
          ),
      ...testOfCorrelation(found),
      ...intervalOfCorrelation(found, kind, level),
    ],
    rows: `${found.n} rows with a value of both.`,
  };
}

function testOfCorrelation({ r, n, t, p }: CorrelationTest): WorkingStep[] {
  if (t === null) return [];
  return [
    step(
      "p",
      "t(n − 2) = r √(n − 2) / √(1 − r²)",
      `${operand(r)} × √(${n - 2}) / √(${plain(1 - r * r)}) = ${plain(t)}, two-tailed ${pClause(p)}`,
    ),
  ];
}

function intervalOfCorrelation(
  { r, n, ci }: CorrelationTest,
  kind: "pearson" | "spearman",
  level: number,
): WorkingStep[] {
  if (!ci) return [];
  const spread = kind === "pearson" ? "1 / √(n − 3)" : "√(1 + r²/2) / √(n − 3)";
  const se =
    kind === "pearson"
      ? `1 / √(${n - 3}) = ${plain(1 / Math.sqrt(n - 3))}`
      : `√(1 + ${plain(r * r)} / 2) / √(${n - 3}) = ${plain(Math.sqrt((1 + (r * r) / 2) / (n - 3)))}`;
  return [
    sourced(
      `${percent(level)} % interval`,
      `tanh(artanh r ± z × ${spread})`,
      `SE of artanh r: ${se}; limits of r ${plain(ci[0])} to ${plain(ci[1])}`,
      kind === "pearson" ? "Fisher 1921, Metron 1" : "Bonett & Wright 2000, Psychometrika 65",
    ),
  ];
}
