import type { TypedColumn, Variable } from "../data";
import { at as polynomialAt, compileExpression, derivative, type Polynomial } from "../model";
import { choleskyInPlace, choleskySolveInPlace } from "../numerics/cholesky";
import { correlation, mean, standardDeviation } from "../numerics/moments";
import type { Prepared } from "../preparation";
import type { Measure } from "../theory";
import { arrowsOf, nodesOfTheory, type Arrow } from "./arrows";
import { NORMAL, SKEWED } from "./marginal";
import type { ExpectedCorrelation, ExpectedSize, ExpectedVariable, StudyPlan } from "../study";
import { MOST_ANSWERS, plannedColumn } from "./variables";

/** Beyond this skewness a continuous variable is planned with a long tail. */
const SKEWED_FROM = 1;
const decimals = (value: number): number => Math.round(value * 1000) / 1000;

/**
 * What another study, or an earlier one, found, as what is expected of the next: standardised
 * paths, correlations of predictors, reliabilities, how variables lie. Among scores where measures
 * are scores; among constructs where they are estimated from their items. Outcomes in steps are
 * planned on the scale of the scores behind them, so their paths are divided by how much steps
 * weaken a relation (the biserial correction, Pearson 1909).
 */
export function expectationsOf(prepared: Prepared, plan: StudyPlan): StudyPlan {
  const { theory, measures, dataset, sample } = prepared;
  const latent = new Set(measures.map((m) => m.name.name));
  const scores = new Scores(prepared);
  const variables = expectedVariables(prepared);
  const expected = { ...plan, variables };
  const sizes = arrowsOf(theory).flatMap((arrow): ExpectedSize[] => {
    const estimated = latent.size > 0 ? sizeByEngine(prepared, arrow) : null;
    const size = estimated ?? scores.size(arrow);
    if (size === null || !Number.isFinite(size)) return [];
    const weaker = latent.has(arrow.to) ? 1 : weakening(prepared, expected, arrow.to);
    return [{ from: arrow.from, to: arrow.to, size: decimals(size / weaker) }];
  });
  const { exogenous } = nodesOfTheory(theory);
  const correlations = exogenous.flatMap((a, i) =>
    exogenous.slice(i + 1).flatMap((b): ExpectedCorrelation[] => {
      const r = scores.correlation(a, b);
      return Number.isFinite(r) && r !== 0 ? [{ a, b, r: decimals(r) }] : [];
    }),
  );
  const reliabilities = Object.fromEntries(
    dataset.measures.flatMap((m) => {
      const found = scores.reliability(m);
      return found === null ? [] : [[m.name.name, decimals(found)]];
    }),
  );
  const lost = sample.rowsRead > 0 ? sample.dropped.length / sample.rowsRead : 0;
  return {
    ...plan,
    sizes,
    correlations,
    variables,
    reliabilities,
    sizesAmong: "scores",
    missing: { share: 0, on: null },
    n: lost < 1 ? sample.n : plan.n,
  };
}

/** How much weaker an outcome in steps is related to anything than the score behind it. */
function weakening({ study }: Prepared, plan: StudyPlan, outcome: string): number {
  const variable = study.variables.find((v) => v.name === outcome);
  if (!variable) return 1;
  const { marginal } = plannedColumn(variable, plan);
  // A long tail is that of the residual: the path itself stays what it is.
  return marginal === NORMAL || marginal === SKEWED ? 1 : marginal.hermite[0]!;
}

/** Scores of the variables of a theory on the rows of the sample, in z-scores. */
class Scores {
  private readonly known = new Map<string, Float64Array | null>();

  constructor(private readonly prepared: Prepared) {}

  size({ from, to }: Arrow): number | null {
    const equation = arrowsOf(this.prepared.theory).filter((a) => a.to === to);
    const y = this.of(to);
    const columns = equation.map((a) => this.product(a.from));
    if (!y || columns.some((c) => c === null)) return null;
    const own = equation.findIndex((a) => a.from.join("\u0000") === from.join("\u0000"));
    return regression(columns as Float64Array[], y)?.[own] ?? null;
  }

  correlation(a: string, b: string): number {
    const [x, y] = [this.of(a), this.of(b)];
    return x && y ? correlation(x, y) : NaN;
  }

  /** Of the mean of the items as they stand in z-scores, from their mean correlation. */
  reliability(measure: Measure): number | null {
    const items = this.items(measure);
    const k = items.length;
    if (k < 2) return null;
    let sum = 0;
    items.forEach((a, i) => items.slice(i + 1).forEach((b) => (sum += correlation(a, b))));
    const r = (2 * sum) / (k * (k - 1));
    const found = (k * r) / (1 + (k - 1) * r);
    return found > 0.01 && found < 1 ? found : null;
  }

  private product(names: readonly string[]): Float64Array | null {
    const columns = names.map((name) => this.of(name));
    if (columns.some((c) => c === null)) return null;
    const [first, ...others] = columns as Float64Array[];
    return first!.map((v, i) => others.reduce((product, c) => product * c[i]!, v));
  }

  private of(name: string): Float64Array | null {
    let made = this.known.get(name);
    if (made === undefined) this.known.set(name, (made = this.make(name)));
    return made;
  }

  private make(name: string): Float64Array | null {
    const column = this.prepared.typed.get(name);
    if (column) return this.standard(column);
    const measure = this.prepared.dataset.measures.find((m) => m.name.name === name);
    if (!measure) return null;
    const items = this.items(measure);
    const [first, ...others] = items;
    return (
      first?.map((v, i) => others.reduce((sum, item) => sum + item[i]!, v) / items.length) ?? null
    );
  }

  /** Items of a measure in z-scores, reversed ones turned. */
  private items(measure: Measure): Float64Array[] {
    return measure.items.flatMap(({ ref, reversed }) => {
      const column = this.column(ref.name);
      const z = column && this.standard(column);
      return z ? [reversed ? z.map((v) => -v) : z] : [];
    });
  }

  private column(name: string): TypedColumn | null {
    const known = this.prepared.typed.get(name);
    if (known) return known;
    const { table, variables } = this.prepared.dataset;
    const column = table.columns.find((c) => c.name === name);
    const variable = variables.find((v) => v.name === name);
    if (!column || !variable) return null;
    const values = Float64Array.from(column.codes, (code) => Number(column.dictionary[code]!));
    return { name, values, levels: null };
  }

  private standard({ values }: TypedColumn): Float64Array | null {
    const picked = Float64Array.from(this.prepared.sample.rows, (row) => values[row]!);
    const present = picked.filter((v) => Number.isFinite(v));
    if (present.length < 3) return null;
    const [m, sd] = [mean(present), standardDeviation(present)];
    return sd > 0 ? picked.map((v) => (Number.isFinite(v) ? (v - m) / sd : 0)) : null;
  }
}

/**
 * Coefficients of y on columns, all about their means; null where columns determine one another.
 */
function regression(columns: Float64Array[], y: Float64Array): Float64Array | null {
  const k = columns.length;
  const centred = columns.map((c) => {
    const m = mean(c);
    return c.map((v) => v - m);
  });
  const gram = new Float64Array(k * k);
  const b = new Float64Array(k);
  centred.forEach((x, i) => {
    b[i] = x.reduce((sum, v, row) => sum + v * y[row]!, 0);
    centred.forEach((z, j) => (gram[i * k + j] = x.reduce((sum, v, row) => sum + v * z[row]!, 0)));
  });
  if (!(choleskyInPlace(gram, k, k) > 1e-10)) return null;
  choleskySolveInPlace(gram, k, k, b);
  return b;
}

/**
 * An arrow as the engine has it, where its constructs are estimated from items: its slope at the
 * means, in SDs.
 */
function sizeByEngine({ fit, context, theta }: Prepared, { from, to }: Arrow): number | null {
  const [first, ...others] = from;
  const value = (e: Parameters<typeof compileExpression>[0]): number =>
    compileExpression(e)(theta, 0);
  try {
    let slope: Polynomial = fit.slope(to, first!);
    let scale = value(context.sd(first!)) / value(context.sd(to));
    for (const moderator of others) {
      slope = derivative(slope, moderator);
      scale *= value(context.sd(moderator));
    }
    const centre = new Map(
      slope.flatMap((t) => t.moderators).map((key) => [key, -context.centre(key)] as const),
    );
    return value(polynomialAt(slope, centre)) * scale;
  } catch {
    // A categorical predictor has several columns, and none of its own name.
    return null;
  }
}

function expectedVariables(prepared: Prepared): Record<string, ExpectedVariable> {
  const out: Record<string, ExpectedVariable> = {};
  for (const variable of prepared.study.variables) {
    const column = prepared.typed.get(variable.name);
    if (!column) continue;
    const values = Float64Array.from(prepared.sample.rows, (row) => column.values[row]!).filter(
      (v) => Number.isFinite(v),
    );
    const names = column.levels ?? answersIn(variable, values);
    const found = names
      ? sharesOf(
          variable,
          names,
          column.levels ? values : values.map((v) => names.indexOf(String(v))),
        )
      : shapeOf(values);
    if (found) out[variable.name] = found;
  }
  return out;
}

const noPlan = { variables: {} } as unknown as StudyPlan;

/**
 * Answers of an ordinal variable: those it may have, else those that were given; null where these
 * are no few whole numbers.
 */
function answersIn(variable: Variable, values: Float64Array): string[] | null {
  const { texts } = plannedColumn(variable, noPlan);
  const given = [...new Set(values)].sort((a, b) => a - b);
  if (texts && given.every((v) => texts.includes(String(v)))) return texts;
  const few = given.length <= MOST_ANSWERS && given.every((v) => Number.isInteger(v));
  return variable.level === "ordinal" && few ? given.map(String) : null;
}

/** Levels that occur, with their shares; levels that are declared have to occur all. */
function sharesOf(
  { levels }: Variable,
  names: readonly string[],
  codes: Float64Array,
): ExpectedVariable | null {
  const counts = names.map((_, k) => codes.reduce((sum, c) => sum + (c === k ? 1 : 0), 0));
  const there = names.flatMap((name, k) => (counts[k]! > 0 ? [{ name, count: counts[k]! }] : []));
  if (there.length < 2 || (levels && there.length < levels.length)) return null;
  return {
    shares: there.map(({ count }) => count / codes.length),
    ...(levels ? {} : { answers: there.map(({ name }) => name) }),
  };
}

function shapeOf(values: Float64Array): ExpectedVariable | null {
  const m = mean(values);
  const sd = standardDeviation(values);
  const whole = values.every((v) => Number.isInteger(v) && v >= 0);
  if (whole && m > 0 && m < 30 && sd * sd < 4 * m && sd * sd > m / 3)
    return { shape: "count", mean: decimals(m) };
  const skewness =
    values.reduce((sum, v) => sum + ((v - m) / sd) * ((v - m) / sd) * ((v - m) / sd), 0) /
    values.length;
  return skewness > SKEWED_FROM ? { shape: "skewed" } : null;
}
