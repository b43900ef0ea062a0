import { normalTest } from "../../model";
import type { TableSection } from "../sections";
import type { Arrow } from "./arrows";
import type { BuiltModel } from "./build-model";
import type { MaximumLikelihoodFit } from "./maximum-likelihood";

type Row = TableSection["rows"][number];

const ESTIMATE_COLUMNS = [
  { key: "b", label: "estimate" },
  { key: "se", label: "SE" },
  { key: "z", label: "z" },
  { key: "p", label: "p", kind: "p" as const },
  { key: "standardised", label: "standardised" },
];

/** What a model of latent variables says besides its effects: how well it fits, how items measure, what explains what. */
export function structureTables(
  built: BuiltModel,
  fit: MaximumLikelihoodFit,
  level: number,
): TableSection[] {
  return [fitTable(fit), measurementTable(built, fit, level), pathTable(built, fit, level)];
}

function fitTable({ measures: m }: MaximumLikelihoodFit): TableSection {
  const row = (measure: string, value: number | null, note = ""): Row => ({ measure, value, note });
  return {
    kind: "table",
    title: "Fit of the model",
    columns: [
      { key: "measure", label: "measure" },
      { key: "value", label: "value" },
      { key: "note", label: "", kind: "words" },
    ],
    rows: [
      row("χ²", m.chi2, `${m.df} degrees of freedom`),
      row("p of χ²", m.p, "exact fit"),
      row("CFI", m.cfi),
      row("TLI", m.tli),
      row("RMSEA", m.rmsea),
      row("RMSEA, 90 % CI lower", m.rmseaLimits[0]),
      row("RMSEA, 90 % CI upper", m.rmseaLimits[1]),
      row("p of close fit", m.closeFit, "RMSEA of .05 or less"),
      row("SRMR", m.srmr),
      row("log-likelihood", m.logLikelihood),
      row("AIC", m.aic),
      row("BIC", m.bic),
      row("sample-size adjusted BIC", m.sabic),
    ],
    note: `Maximum likelihood with a mean structure; baseline model of uncorrelated variables: χ² ${m.baseline.chi2.toFixed(2)} with ${m.baseline.df} degrees of freedom.`,
  };
}

function measurementTable(
  built: BuiltModel,
  fit: MaximumLikelihoodFit,
  level: number,
): TableSection {
  const items = new Set(built.factors.flatMap((m) => m.items.map((item) => item.ref.name)));
  const loadings = built.arrows.filter((a) => a.kind === "path" && items.has(a.to));
  return {
    kind: "table",
    title: "Measurement",
    columns: [
      { key: "factor", label: "latent variable" },
      { key: "item", label: "item", kind: "words" },
      ...ESTIMATE_COLUMNS,
      { key: "r2", label: "R²" },
    ],
    rows: loadings.map((arrow) => ({
      factor: arrow.from,
      item: arrow.to,
      ...estimateOf(built, fit, arrow, level),
      r2: explained(built, fit, arrow.to),
    })),
    note: "Loadings; the first item of each latent variable gives it its scale. Reversed items are turned round. Standardised: in implied SDs of both.",
  };
}

function pathTable(built: BuiltModel, fit: MaximumLikelihoodFit, level: number): TableSection {
  const items = new Set(built.factors.flatMap((m) => m.items.map((item) => item.ref.name)));
  const paths = built.arrows.filter((a) => a.kind === "path" && !items.has(a.to));
  return {
    kind: "table",
    title: "Structural paths",
    columns: [
      { key: "outcome", label: "outcome" },
      { key: "predictor", label: "explained by", kind: "words" },
      ...ESTIMATE_COLUMNS,
      { key: "r2", label: "R² of the outcome" },
    ],
    rows: paths.map((arrow) => ({
      outcome: arrow.to,
      predictor: arrow.from,
      ...estimateOf(built, fit, arrow, level),
      r2: explained(built, fit, arrow.to),
    })),
    note: "Standard errors from the expected information; z tests.",
  };
}

function estimateOf(
  { whole }: BuiltModel,
  { theta, covariance, implied }: MaximumLikelihoodFit,
  { from, to, label, value }: Arrow,
  level: number,
): Row {
  const sd = (name: string): number => {
    const i = whole.variables.indexOf(name);
    return Math.sqrt(implied.E[i * implied.v + i]!);
  };
  const at = label === null ? -1 : whole.parameters.indexOf(label);
  const b = at < 0 ? value : theta[at]!;
  const test =
    at < 0 || !covariance ? null : normalTest(b, covariance[at * implied.q + at]!, level);
  const standardised = (b * sd(from)) / sd(to);
  return {
    b,
    se: test?.se ?? null,
    z: test?.z ?? null,
    p: test?.p ?? null,
    standardised: Number.isFinite(standardised) ? standardised : null,
  };
}

/** 1 - residual variance over implied variance. */
export function explained(
  { whole }: BuiltModel,
  { implied }: MaximumLikelihoodFit,
  name: string,
): number {
  const i = whole.variables.indexOf(name);
  const at = i * implied.v + i;
  return 1 - implied.S[at]! / implied.E[at]!;
}
