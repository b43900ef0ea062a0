import { plain, type DataEvidence } from "../evidence";
import { operand } from "./paper";
import type { Working, WorkingStep } from "./types";

type Described = DataEvidence["descriptives"][string];

const JOANES = "Joanes & Gill 1998, The Statistician 47";

/** Where the numbers that describe one variable come from. */
export function descriptionWorking(described: Described): Working {
  const { name, n, missing } = described;
  return {
    title: name,
    steps: [...centreAndSpread(described), ...shape(described), ...far(described)],
    rows: `${n} values${missing > 0 ? `, ${missing} missing left out` : ""}.`,
  };
}

function centreAndSpread({ n, mean, sd, median }: Described): WorkingStep[] {
  const list: WorkingStep[] = [];
  if (mean !== null)
    list.push({
      what: "Mean",
      formula: "Σ x / n",
      numbers: `${plain(n * mean)} / ${n} = ${plain(mean)}`,
      source: null,
    });
  if (sd !== null)
    list.push({
      what: "SD",
      formula: "√(Σ (x − mean)² / (n − 1))",
      numbers: `√(${plain(sd * sd * (n - 1))} / ${n - 1}) = ${plain(sd)}`,
      source: null,
    });
  if (median !== null)
    list.push({
      what: "Median",
      formula: null,
      numbers:
        n % 2 === 1
          ? `Value ${(n + 1) / 2} of ${n} in order: ${plain(median)}`
          : `Halfway between values ${n / 2} and ${n / 2 + 1} of ${n} in order: ${plain(median)}`,
      source:
        "Other percentages at place (n + 1) p, in between where that is no whole number (Hyndman & Fan 1996, type 6)",
    });
  return list;
}

/**
 * Skewness and kurtosis of the sample turned into estimates, with the errors they would have if the
 * variable were normal.
 */
function shape({ n, skewness, skewnessSe, excessKurtosis, excessKurtosisSe }: Described) {
  const list: WorkingStep[] = [];
  if (skewness !== null && skewnessSe !== null) {
    const factor = Math.sqrt(n * (n - 1)) / (n - 2);
    list.push({
      what: "Skewness",
      formula: "√(n (n − 1)) / (n − 2) × m₃ / m₂^1.5, m the moments about the mean",
      numbers: `${plain(factor)} × ${operand(skewness / factor)} = ${plain(skewness)}; SE = √(6 n (n − 1) / ((n − 2) (n + 1) (n + 3))) = ${plain(skewnessSe)}, so it is ${plain(skewness / skewnessSe, 1)} SE from 0`,
      source: JOANES,
    });
  }
  if (excessKurtosis !== null && excessKurtosisSe !== null) {
    const factor = (n - 1) / ((n - 2) * (n - 3));
    const g2 = (excessKurtosis / factor - 6) / (n + 1);
    list.push({
      what: "Excess kurtosis",
      formula: "(n − 1) / ((n − 2) (n − 3)) × ((n + 1) (m₄ / m₂² − 3) + 6)",
      numbers: `${plain(factor)} × (${n + 1} × ${operand(g2)} + 6) = ${plain(excessKurtosis)}; SE = ${plain(excessKurtosisSe)}, so it is ${plain(excessKurtosis / excessKurtosisSe, 1)} SE from 0`,
      source: JOANES,
    });
  }
  return list;
}

function far({ level, outliers }: Described): WorkingStep[] {
  const { median, mad, scale, rule, z } = outliers;
  if (level === "binary" || median === null || scale === null) return [];
  const spread =
    rule === "mad"
      ? `1.4826 × median distance from the median = 1.4826 × ${plain(mad)} = ${plain(scale)}`
      : `1.2533 × mean distance from the median = ${plain(scale)}, since more than half the values are equal`;
  const furthest = z.reduce((most, v) => (Math.abs(v) > Math.abs(most) ? v : most), 0);
  return [
    {
      what: "Outliers",
      formula: "z = (x − median) / spread, beyond 3.5 either way",
      numbers: `Spread: ${spread}. ${z.length === 0 ? "No value is that far from the median." : `${z.length} beyond 3.5, the furthest at z = ${plain(furthest, 1)}`}`,
      source: "Iglewicz & Hoaglin 1993, How to detect and handle outliers",
    },
  ];
}
