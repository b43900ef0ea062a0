import type { BootstrapSummary } from "../inference";
import { deltaTest } from "../inference";
import {
  compileExpression,
  divide,
  gradient,
  multiply,
  number,
  parameter,
  subtract,
  type Covariance,
  type Expression,
} from "../model";
import { zQuantile } from "../numerics/distributions";
import { standardDeviation } from "../numerics/moments";
import { dot } from "../numerics/orthogonal";
import { unmeasuredDifference } from "./e-values";
import { project, type Projection } from "./projection";
import type { LeftOut, LinearSensitivity, SensitivityPoint } from "./types";
import { leftOutWords, sensitivityWords } from "./words";

/**
 * Columns of an effect through one mediator, all by straight lines with the same covariates
 * everywhere.
 */
export interface LinearTriad {
  treatment: string;
  contrast: string;
  mediator: string;
  outcome: string;
  /** Units of the treatment that are compared. */
  distance: number;
  x: Float64Array;
  m: Float64Array;
  y: Float64Array;
  /** Everything else that explains both; `benchmark` where it may stand for something left out. */
  others: { label: string; values: Float64Array; benchmark: boolean }[];
}

/** Something left out: how it differs with the treatment, and what it does to the outcome. */
export interface Guess {
  difference: number;
  effect: number;
}

/** Shares of variance that are left, below which a fit counts as perfect. */
const EXACT = 1e-10;

/** Where the curve is told. */
export const RHOS = Array.from({ length: 39 }, (_, i) => (i - 19) / 20);

const sqrt = (a: Expression): Expression => ({ op: "sqrt", a });

/** ρ / sqrt(1 - ρ²) */
const slant = (rho: number): number => rho / Math.sqrt(1 - rho * rho);

/**
 * The indirect effect if the errors of mediator and outcome are correlated by ρ (Imai, Keele &
 * Yamamoto 2010, Statistical Science 25): D a (b - ρ / sqrt(1 - ρ²) σ_y / σ_m), b the coefficient
 * of the mediator, σ_y the residual SD of the outcome given the mediator too, σ_m that of the
 * mediator. The same as D a (σ₁/σ₂) [ρ~ - ρ sqrt((1 - ρ~²) / (1 - ρ²))].
 * @param ratio (σ_y / σ_m)²
 */
export const indirectAt = (
  a: Expression,
  b: Expression,
  ratio: Expression,
  distance: number,
  rho: number,
): Expression =>
  multiply(multiply(number(distance), a), subtract(b, multiply(number(slant(rho)), sqrt(ratio))));

/** Everything that is said of one effect. @returns null where columns determine one another */
export function linearSensitivity(
  triad: LinearTriad,
  level: number,
  guesses: readonly Guess[],
  resampled: (at: number) => BootstrapSummary | null = () => null,
): LinearSensitivity | null {
  const { x, m, y, others, distance } = triad;
  const covariates = others.map((c) => c.values);
  const ofMediator = project(m, [x, ...covariates]);
  const ofTotal = project(y, [x, ...covariates]);
  const ofOutcome = project(y, [x, m, ...covariates]);
  if (!ofMediator || !ofTotal || !ofOutcome) return null;
  // Without errors there is nothing that could be correlated.
  if ([ofMediator, ofOutcome].some((of) => 1 - of.rSquared < EXACT)) return null;
  const { n } = ofMediator;
  const errors = errorMoments(ofMediator, ofTotal, distance, level);
  const { s11, s22, s12, indirect, test } = errors;
  const curve = RHOS.map((rho, at) => ({ ...errors.point(rho), bootstrap: resampled(at) }));
  const rhoAtZero = s12 / Math.sqrt(s11 * s22);
  const r2Residual = rhoAtZero * rhoAtZero;
  const parts = partsOf(ofMediator, ofOutcome, distance);
  const sd = standardDeviation(y);
  const z = zQuantile(1 - (1 - level) / 2);
  const limit = Math.abs(parts.indirect) - z * parts.indirectSe;
  const adjusted = (covariate: string | null, guess: Guess): LeftOut => ({
    covariate,
    ...guess,
    ...leftOut(parts, guess),
    timesToZero: timesTo(Math.abs(parts.indirect), guess),
    timesToLimit: limit > 0 ? timesTo(limit, guess) : 0,
  });
  const found = {
    treatment: triad.treatment,
    contrast: triad.contrast,
    mediator: triad.mediator,
    outcome: triad.outcome,
    n,
    distance,
    sigmaOutcome: Math.sqrt(s11),
    sigmaMediator: Math.sqrt(s22),
    indirect: parts.indirect,
    total: distance * ofTotal.slopes[0]!,
    rhoAtZero,
    rhoOfInterval: intervalRhos(rhoAtZero, (rho) => {
      const own = test(indirect(rho));
      return own !== null && own.lower <= 0 && own.upper >= 0;
    }),
    rhoAtZeroDirect: zeroDirect(errors.theta, distance),
    r2Residual,
    r2Total: r2Residual * (1 - ofMediator.rSquared) * (1 - ofOutcome.rSquared),
    r2Mediator: ofMediator.rSquared,
    r2Outcome: ofOutcome.rSquared,
    curve,
    eValues: (["indirect", "direct", "total"] as const).map((effect) => {
      const [estimate, se] = [parts[effect], parts[`${effect}Se`]];
      return { ...unmeasuredDifference(effect, estimate, se, sd, level), estimate, se };
    }),
    leftOut: [
      ...others.flatMap(({ label, benchmark }, c) =>
        benchmark ? [adjusted(label, benchmarkOf(triad, ofOutcome, c))] : [],
      ),
      ...guesses.map((guess) => adjusted(null, guess)),
    ],
  };
  return { ...found, words: [...sensitivityWords(found, level), ...leftOutWords(found, level)] };
}

/**
 * The curve as a function of the total effect, the first path and the moments of both errors, with
 * robust errors.
 */
function errorMoments(
  ofMediator: Projection,
  ofTotal: Projection,
  distance: number,
  level: number,
) {
  const moment = (a: Projection, b: Projection): number => dot(a.residuals, b.residuals) / a.n;
  const s11 = moment(ofTotal, ofTotal);
  const s22 = moment(ofMediator, ofMediator);
  const s12 = moment(ofTotal, ofMediator);
  const theta = Float64Array.of(ofMediator.slopes[0]!, ofTotal.slopes[0]!, s11, s22, s12);
  const covariance = influenceCovariance(ofMediator, ofTotal, [s11, s22, s12]);
  const [e11, e22, e12] = [parameter(2), parameter(3), parameter(4)];
  const b = divide(e12, e22);
  const ratio = divide(subtract(e11, multiply(b, e12)), e22);
  const indirect = (rho: number): Expression => indirectAt(parameter(0), b, ratio, distance, rho);
  const direct = (rho: number): Expression =>
    subtract(multiply(number(distance), parameter(1)), indirect(rho));
  const value = (e: Expression): number => compileExpression(e)(theta, 0);
  const test = (e: Expression) => deltaTest(value(e), gradient(e, theta), covariance, level);
  const point = (rho: number): Omit<SensitivityPoint, "bootstrap"> => {
    const own = test(indirect(rho));
    const estimate = value(indirect(rho));
    return {
      rho,
      indirect: estimate,
      indirectSe: own?.se ?? 0,
      lower: own?.lower ?? estimate,
      upper: own?.upper ?? estimate,
      direct: value(direct(rho)),
      directSe: test(direct(rho))?.se ?? 0,
    };
  };
  return { s11, s22, s12, theta, indirect, test, point };
}

/** Both parts and their sum, with errors from the models. */
function partsOf(ofMediator: Projection, ofOutcome: Projection, distance: number) {
  const a = ofMediator.slopes[0]!;
  const [c, b] = [ofOutcome.slopes[0]!, ofOutcome.slopes[1]!];
  const va = ofMediator.covariance(0, 0);
  const [vc, vcb, vb] = [
    ofOutcome.covariance(0, 0),
    ofOutcome.covariance(0, 1),
    ofOutcome.covariance(1, 1),
  ];
  const d = Math.abs(distance);
  return {
    indirect: distance * a * b,
    direct: distance * c,
    total: distance * (c + a * b),
    indirectSe: d * Math.sqrt(a * a * vb + b * b * va),
    directSe: d * Math.sqrt(vc),
    totalSe: d * Math.sqrt(vc + 2 * a * vcb + a * a * vb + b * b * va),
  };
}

/**
 * Both parts once something left out is allowed for (VanderWeele 2010, Epidemiology 21); their sum
 * stays.
 */
export const leftOut = (
  { indirect, direct }: { indirect: number; direct: number },
  { difference, effect }: Guess,
): { indirect: number; direct: number } => ({
  indirect: indirect + difference * effect,
  direct: direct - difference * effect,
});

/**
 * So many times as strong in both relations that the product of the two is `needed`, whatever its
 * sign.
 */
function timesTo(needed: number, { difference, effect }: Guess): number | null {
  const product = Math.abs(difference * effect);
  return product > 0 ? Math.sqrt(needed / product) : null;
}

/**
 * What a covariate would do if it were the one that was left out.
 * @param c its place among the others
 */
function benchmarkOf(
  { x, m, others, distance }: LinearTriad,
  ofOutcome: Projection,
  c: number,
): Guess {
  const rest = others.filter((_, i) => i !== c).map((o) => o.values);
  const own = project(others[c]!.values, [x, m, ...rest]);
  return {
    difference: distance * (own?.slopes[0] ?? 0),
    effect: ofOutcome.slopes[c + 2]!,
  };
}

/**
 * Robust covariance of a, the total effect and the residual moments, from the influence of every
 * row on each.
 */
function influenceCovariance(
  ofMediator: Projection,
  ofTotal: Projection,
  [s11, s22, s12]: [number, number, number],
): Covariance {
  const [e1, e2] = [ofTotal.residuals, ofMediator.residuals];
  const { n } = ofMediator;
  const rows = [
    ofMediator.influence(0),
    ofTotal.influence(0),
    e1.map((v) => v * v - s11),
    e2.map((v) => v * v - s22),
    e1.map((v, i) => v * e2[i]! - s12),
  ];
  const size = rows.length;
  const values = new Float64Array(size * size);
  rows.forEach((a, j) => rows.forEach((b, k) => (values[j * size + k] = dot(a, b) / (n * n))));
  return { size, values };
}

/** Beyond this no correlation of errors is looked at. */
const FARTHEST = 0.999;
const STEPS = 400;

/**
 * To either side of the zero, where the interval first stops containing zero; null where it does
 * not.
 */
function intervalRhos(
  zero: number,
  holdsZero: (rho: number) => boolean,
): [number | null, number | null] {
  const towards = (end: number): number | null => {
    let inside = zero;
    for (let s = 1; s <= STEPS; s++) {
      const rho = zero + ((end - zero) * s) / STEPS;
      if (holdsZero(rho)) {
        inside = rho;
        continue;
      }
      let outside = rho;
      for (let round = 0; round < 60; round++) {
        const middle = (inside + outside) / 2;
        if (holdsZero(middle)) inside = middle;
        else outside = middle;
      }
      return (inside + outside) / 2;
    }
    return null;
  };
  return [towards(-FARTHEST), towards(FARTHEST)];
}

/** Where the direct effect is zero: the slant of ρ is (a b - total) / (a σ_y / σ_m). */
function zeroDirect(theta: Float64Array, distance: number): number[] {
  const [a, total, s11, s22, s12] = theta as unknown as [number, number, number, number, number];
  const b = s12 / s22;
  const spread = Math.sqrt((s11 - b * s12) / s22);
  const t = (a * b - total) / (a * spread);
  const rho = t / Math.sqrt(1 + t * t);
  return distance !== 0 && Number.isFinite(rho) && Math.abs(rho) < FARTHEST ? [rho] : [];
}
