import { plain } from "../evidence";
import type { CompositeConstruct, CompositeResult, CompositeSection } from "../estimators";
import { htmtSteps } from "./discriminant";
import type { Working, WorkingStep } from "./types";

type Group = CompositeSection["groups"][number];

const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);

const ofGroup = (group: string): string => (group === "" || group === "all" ? "" : `, ${group}`);

/**
 * Where reliability, variance extracted and ratios between constructs come from: weights, loadings,
 * correlations of items.
 */
export function compositeMeasurementWorking({ group, constructs, htmt }: Group): Working {
  // Items that are regressed on need not hang together, so nothing is made of their correlations.
  const together = constructs.filter(
    ({ weighting }) => weighting === "correlation" || weighting === "equal",
  );
  const names = new Set(together.map((c) => c.construct));
  const pairs = htmt.filter((p) => names.has(p.first) && names.has(p.second));
  return {
    title: `How items measure${ofGroup(group)}`,
    steps: [...together.flatMap(constructSteps), ...htmtSteps(pairs)],
    rows: "From the weights and loadings of the model, and the correlations of the items.",
  };
}

function constructSteps({
  construct,
  items,
  quality,
  rootAve,
  weighting,
}: CompositeConstruct): WorkingStep[] {
  const loadings = items.map((i) => i.loading.estimate);
  const total = sum(loadings);
  const squares = sum(loadings.map((l) => l * l));
  const rest = items.length - squares;
  const weights = items.map((i) => i.weight.estimate);
  const w2 = sum(weights.map((w) => w * w));
  const w4 = sum(weights.map((w) => w * w * w * w));
  return [
    {
      what: `AVE of ${construct}`,
      formula: "Σ λ² / items, λ the loadings",
      numbers: `${plain(squares, 4)} / ${items.length} = ${plain(quality.ave)}; √AVE ${plain(rootAve)}`,
      source: "Fornell & Larcker 1981, J Marketing Res 18",
    },
    {
      what: `Composite reliability of ${construct}`,
      formula: "(Σ λ)² / ((Σ λ)² + Σ (1 − λ²))",
      numbers: `${plain(total, 4)}² / (${plain(total, 4)}² + ${plain(rest, 4)}) = ${plain(quality.compositeReliability)}`,
      source: "Jöreskog 1971, Psychometrika 36",
    },
    ...(weighting === "correlation"
      ? [
          {
            what: `rho_A of ${construct}`,
            formula:
              "(Σ w²)² (1 − Σ w²) / ((Σ w²)² − Σ w⁴), w the weights of a score of variance one",
            numbers: `${plain(w2, 4)}² × (1 − ${plain(w2, 4)}) / (${plain(w2, 4)}² − ${plain(w4, 4)}) = ${plain(quality.rhoA)}`,
            source: "Dijkstra & Henseler 2015, MIS Quarterly 39",
          },
        ]
      : []),
  ];
}

/** Where sizes of paths and misfit come from. */
export function compositePathsWorking({ group, paths, result }: Group): Working {
  const structure = result.stageTwo ?? result.consistent ?? result;
  return {
    title: `Sizes of paths and misfit${ofGroup(group)}`,
    steps: [
      ...paths.flatMap(({ from, to, estimate, f2, vif }): WorkingStep[] => {
        const r2 = structure.r2[to];
        // A product of scores has an SD of its own.
        const beta = result.stageTwo?.coefficientsStandardisedProduct[to]?.[from] ?? estimate;
        if (f2 === null || vif === null || r2 == null) return [];
        return [
          {
            what: `f² of ${from.replace(" x ", " × ")} on ${to}`,
            formula:
              "β² / (VIF × (1 − R²)), β per SD: what R² loses without it, against what is left unexplained",
            numbers: `${plain(Math.abs(beta), 4)}² / (${plain(vif, 4)} × (1 − ${plain(r2, 4)})) = ${plain(f2)}`,
            source: "Cohen 1988, Statistical Power Analysis",
          },
        ];
      }),
      ...misfitSteps(result),
    ],
    rows: "From the coefficients of the model, and the correlations that it implies.",
  };
}

function misfitSteps(result: CompositeResult): WorkingStep[] {
  const fit = result.consistent?.fit ?? result.fit;
  const p = Object.values(result.weights).reduce(
    (count, own) => count + Object.keys(own).length,
    0,
  );
  if (!fit) return [];
  return (["saturated", "estimated"] as const).flatMap((model): WorkingStep[] => {
    const own = fit[model];
    if (!own) return [];
    return [
      {
        what:
          model === "saturated" ? "SRMR, all constructs correlate" : "SRMR, paths of the theory",
        formula:
          "√(d_ULS / (p (p + 1) / 2)): d_ULS sums squared residual correlations of p items, each once",
        numbers: `√(${plain(own.dUls, 4)} / (${p} × ${p + 1} / 2)) = ${plain(own.srmr)}`,
        source: "Hu & Bentler 1999, Struct Equ Modeling 6",
      },
    ];
  });
}
