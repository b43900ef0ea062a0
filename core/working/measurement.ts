import { plain } from "../evidence";
import type { MeasurementEvidence } from "../estimators";
import { htmtSteps } from "./discriminant";
import type { Working, WorkingStep } from "./types";

/**
 * Where the reliability and the variance extracted of latent variables come from: their
 * standardised loadings.
 */
export function measurementWorking({ factors, items, group, htmt }: MeasurementEvidence): Working {
  return {
    title: `How items measure${group === "" ? "" : `, ${group}`}`,
    steps: [
      ...factors
        .filter((f) => f.items > 1)
        .flatMap((f): WorkingStep[] => {
          const loadings = items.filter((i) => i.factor === f.factor).map((i) => i.standardised);
          const sum = loadings.reduce((a, b) => a + b, 0);
          const squares = loadings.reduce((a, b) => a + b * b, 0);
          const rest = loadings.reduce((a, b) => a + 1 - b * b, 0);
          return [
            {
              what: `AVE of ${f.factor}`,
              formula: "Σ λ² / items, λ the standardised loadings",
              numbers: `${plain(squares)} / ${loadings.length} = ${plain(squares / loadings.length)}; √AVE ${plain(f.rootAve)}`,
              source: "Fornell & Larcker 1981, J Marketing Res 18",
            },
            {
              what: `Composite reliability of ${f.factor}`,
              formula: "(Σ λ)² / ((Σ λ)² + Σ (1 − λ²))",
              numbers: `${plain(sum)}² / (${plain(sum)}² + ${plain(rest)}) = ${plain((sum * sum) / (sum * sum + rest))}`,
              source: "Jöreskog 1971, Psychometrika 36",
            },
          ];
        }),
      ...htmtSteps(htmt),
    ],
    rows: "From the loadings of the fitted model, and the correlations of the items.",
  };
}
