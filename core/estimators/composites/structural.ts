import { LuDecomposition, Matrix } from "ml-matrix";
import { SINGULAR } from "./specification";

/** One equation among standardised variables. */
export interface EquationResult {
  outcome: string;
  predictors: string[];
  coefficients: number[];
  r2: number;
  adjustedR2: number;
  /**
   * What each predictor adds: (R² - R² without it) / (1 - R²) (Cohen 1988); the scores stay as they
   * are.
   */
  f2: number[];
  /** Variance inflation of each predictor by the others. */
  vif: number[];
}

/** A covariance matrix with names. */
export interface NamedMatrix {
  names: string[];
  /** Row-major. */
  values: Float64Array;
}

/**
 * Least squares from covariances of variables of variance one (products of scores have their own).
 * @param n cases, for the adjusted R²
 * @returns null where predictors are singular
 */
export function regressionFrom(
  { names, values }: NamedMatrix,
  outcome: string,
  predictors: string[],
  n: number,
): EquationResult | null {
  const at = new Map(names.map((name, i) => [name, i]));
  const width = names.length;
  const q = predictors.length;
  const y = at.get(outcome)!;
  const places = predictors.map((name) => at.get(name)!);
  const block = new Matrix(places.map((i) => places.map((j) => values[i * width + j]!)));
  const inverted = regularInverse(block);
  if (!inverted) return null;
  const cy = places.map((i) => values[i * width + y]!);
  const coefficients = places.map((_, i) =>
    cy.reduce((sum, c, j) => sum + inverted.get(i, j) * c, 0),
  );
  const r2 = coefficients.reduce((sum, b, i) => sum + b * cy[i]!, 0);
  return {
    outcome,
    predictors,
    coefficients,
    r2,
    adjustedR2: 1 - ((1 - r2) * (n - 1)) / (n - q - 1),
    f2: coefficients.map((b, i) => (b * b) / inverted.get(i, i) / (1 - r2)),
    vif: places.map((place, i) => inverted.get(i, i) * values[place * width + place]!),
  };
}

/**
 * The inverse of predictors' covariances; null where one of them hardly leaves anything of another.
 * Corrected correlations may be no covariances of anything (one beyond 1): their equations have
 * coefficients all the same, which is said beside them.
 */
function regularInverse(block: Matrix): Matrix | null {
  const q = block.rows;
  if (!block.to1DArray().every(Number.isFinite)) return null;
  const lu = new LuDecomposition(block);
  if (lu.isSingular()) return null;
  const inverted = lu.solve(Matrix.eye(q));
  const left = (j: number): number => Math.abs(1 / (inverted.get(j, j) * block.get(j, j)));
  return Array.from({ length: q }, (_, j) => left(j)).every((share) => share >= SINGULAR)
    ? inverted
    : null;
}

/**
 * Effects along the paths, by name: `A -> B -> C` for one route, `A -> C` for all routes of a pair.
 */
export interface PathEffects {
  specificIndirect: Record<string, number>;
  totalIndirect: Record<string, number>;
  total: Record<string, number>;
}

/**
 * Every directed route of two paths or more is a specific indirect effect; totals are sums over
 * routes. What a coefficient without a value (NaN) enters is left out.
 */
export function effectsAlong(
  equations: readonly Pick<EquationResult, "outcome" | "predictors" | "coefficients">[],
): PathEffects {
  const result: PathEffects = { specificIndirect: {}, totalIndirect: {}, total: {} };
  const next = new Map<string, [string, number][]>();
  for (const { outcome, predictors, coefficients } of equations)
    predictors.forEach((from, i) => {
      const list = next.get(from) ?? [];
      list.push([outcome, coefficients[i]!]);
      next.set(from, list);
    });
  const add = (record: Record<string, number>, key: string, value: number): void => {
    record[key] = (record[key] ?? 0) + value;
  };
  const walk = (route: string[], value: number): void => {
    for (const [to, b] of next.get(route.at(-1)!) ?? []) {
      const here = [...route, to];
      const product = value * b;
      const pair = `${route[0]} -> ${to}`;
      add(result.total, pair, product);
      if (here.length > 2) {
        result.specificIndirect[here.join(" -> ")] = product;
        add(result.totalIndirect, pair, product);
      }
      walk(here, product);
    }
  };
  for (const from of next.keys()) walk([from], 1);
  const known = (record: Record<string, number>): Record<string, number> =>
    Object.fromEntries(Object.entries(record).filter(([, value]) => !Number.isNaN(value)));
  return {
    specificIndirect: known(result.specificIndirect),
    totalIndirect: known(result.totalIndirect),
    total: known(result.total),
  };
}
