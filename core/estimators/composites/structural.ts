import { inverse, Matrix } from "ml-matrix";
import { choleskyInPlace } from "../../numerics/cholesky";
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
  const block = Float64Array.from(
    { length: q * q },
    (_, i) => values[places[Math.floor(i / q)]! * width + places[i % q]!]!,
  );
  // Symmetric matrices that are not positive definite have coefficients too, but nobody could say
  // of what.
  if (!block.every(Number.isFinite) || !isRegular(block, q)) return null;
  const inverted = inverse(
    new Matrix(places.map((i) => places.map((j) => values[i * width + j]!))),
  );
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

function isRegular(block: Float64Array, q: number): boolean {
  const factor = block.slice();
  return choleskyInPlace(factor, q, q) >= SINGULAR;
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
 * routes.
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
  return result;
}
