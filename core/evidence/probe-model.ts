import { pow } from "../numerics/elementary";
import { coefficientTest, inverseLink, type CoefficientTest, type Link } from "../model";

/** One equation as a function of its columns: all that a picture of it needs. */
export interface ProbeModel {
  outcome: string;
  /**
   * How the linear predictor becomes the mean of the outcome; coefficients are on the scale of the
   * predictor.
   */
  link: Link;
  /** Of the outcome in the sample. */
  outcomeMean: number;
  outcomeSd: number;
  /**
   * Coefficients, the outcome (or its linear predictor) where all columns are at their means first,
   * of columns about their means; products are of columns about their centres.
   */
  b: number[];
  /** Their covariance under the chosen errors, row-major; null where it is not available. */
  covariance: number[] | null;
  /** Null where tests are z tests. */
  df: number | null;
  columns: {
    key: string;
    variable: string;
    /** Sample mean: where a column stands when nothing else is said of it. */
    mean: number;
    sd: number;
    centre: number;
    /** Keys of the components of a product. */
    components: string[] | null;
  }[];
}

/**
 * The row of the design about the means of its columns, at given column values and all others at
 * their means: numbers stay small however far the data lie from zero.
 */
export function designRow({ columns }: ProbeModel, values: ReadonlyMap<string, number>): number[] {
  const byKey = new Map(columns.map((c) => [c.key, c]));
  const valueOf = (key: string): number => values.get(key) ?? byKey.get(key)!.mean;
  return [
    1,
    ...columns.map(
      (c) =>
        (c.components
          ? c.components.reduce((all, key) => all * (valueOf(key) - byKey.get(key)!.centre), 1)
          : valueOf(c.key)) - c.mean,
    ),
  ];
}

/**
 * How the row of the design changes with one column: products that contain it change with their
 * other components.
 */
function slopeRow(
  { columns }: ProbeModel,
  focal: string,
  values: ReadonlyMap<string, number>,
): number[] {
  const byKey = new Map(columns.map((c) => [c.key, c]));
  const about = (key: string): number =>
    (values.get(key) ?? byKey.get(key)!.mean) - byKey.get(key)!.centre;
  return [
    0,
    ...columns.map((c) => {
      if (!c.components) return c.key === focal ? 1 : 0;
      const power = c.components.filter((key) => key === focal).length;
      const rest = c.components.filter((key) => key !== focal);
      // The slope of a square is twice the column itself.
      return power === 0
        ? 0
        : power * pow(about(focal), power - 1) * rest.reduce((all, key) => all * about(key), 1);
    }),
  ];
}

export interface Reading {
  estimate: number;
  se: number | null;
}

function read({ b, covariance }: ProbeModel, row: number[]): Reading {
  const p = b.length;
  let estimate = 0;
  let variance = 0;
  for (let i = 0; i < p; i++) {
    estimate += row[i]! * b[i]!;
    if (covariance && row[i] !== 0)
      for (let j = 0; j < p; j++) variance += row[i]! * row[j]! * covariance[i * p + j]!;
  }
  return { estimate, se: covariance ? Math.sqrt(Math.max(0, variance)) : null };
}

/**
 * The predicted outcome at column values, all other columns at their sample means, with the
 * standard error of the mean.
 */
export const predictAt = (model: ProbeModel, values: ReadonlyMap<string, number>): Reading =>
  read(model, designRow(model, values));

/** The slope of a column at values of the others. */
export const effectAt = (
  model: ProbeModel,
  focal: string,
  values: ReadonlyMap<string, number>,
): Reading => read(model, slopeRow(model, focal, values));

/** The t test and interval of a slope that was read off. */
export const testOf = (
  { estimate, se }: Reading,
  { df }: ProbeModel,
  level: number,
): CoefficientTest | null =>
  se === null ? null : coefficientTest(estimate, se * se, df ?? Infinity, level);

/** The mean of the outcome at a linear predictor. */
export const responseOf = ({ link }: ProbeModel, eta: number): number =>
  inverseLink(link).mean(eta);

/** A predicted mean with limits, formed on the scale of the linear predictor and carried over. */
export interface ResponseReading {
  estimate: number;
  lower: number | null;
  upper: number | null;
}

/** @param critical two-sided critical value of the limits */
export function responseAt(
  model: ProbeModel,
  values: ReadonlyMap<string, number>,
  critical: number,
): ResponseReading {
  const { estimate, se } = predictAt(model, values);
  const limit = (sign: number): number | null =>
    se === null ? null : responseOf(model, estimate + sign * critical * se);
  return { estimate: responseOf(model, estimate), lower: limit(-1), upper: limit(1) };
}

/**
 * How fast the mean of the outcome rises with a column at a place: the slope of the curve there,
 * without an error of its own.
 */
export const responseSlopeAt = (
  model: ProbeModel,
  focal: string,
  values: ReadonlyMap<string, number>,
): number =>
  inverseLink(model.link).slope(predictAt(model, values).estimate) *
  effectAt(model, focal, values).estimate;
