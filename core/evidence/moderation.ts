import {
  conditionalId,
  probeGrid,
  valuesOf,
  atWords,
  type Moderator,
  type Combination,
} from "../effects";
import type { Line } from "../estimators";
import {
  falseDiscovery,
  johnsonNeyman,
  pointwiseCritical,
  simultaneousCritical,
  type LinearSlope,
} from "../inference";
import { byCovariance, without } from "../model";
import { extent, mean, standardDeviation } from "../numerics/moments";
import { studentQuantile } from "../numerics/distributions";
import { own } from "../data/own";
import type { Prepared } from "../preparation";
import type { CovarianceKind } from "../study";
import { crossings } from "./crossings";
import { LineReader } from "./line-reader";
import { designRow, predictAt, responseAt, type ProbeModel } from "./probe-model";
import type {
  ConditionalSlope,
  JohnsonNeymanSet,
  LinePoint,
  ModerationEvidence,
} from "./moderation-types";

/** Everything about moderated slopes, by equation and column. */
export function moderationEvidence(prepared: Prepared, level: number): ModerationEvidence[] {
  return (prepared.fit.lines?.() ?? []).flatMap((line) => {
    const involved = new Set(
      line.columns.flatMap((c) => c.components?.map((part) => part.key) ?? []),
    );
    return line.columns
      .filter((c) => involved.has(c.key))
      .map((c) => new SlopeReader(prepared, line, c.key, level))
      .filter((reader) => reader.moderated)
      .map((reader) => reader.evidence());
  });
}

class SlopeReader {
  private readonly polynomial: SlopeTerm[];
  private readonly moderators: Moderator[];
  private readonly reader: LineReader;
  private endsHeld: number[] | null = null;

  constructor(
    private readonly prepared: Prepared,
    private readonly line: Line,
    private readonly key: string,
    private readonly level: number,
  ) {
    const { context } = prepared;
    this.reader = new LineReader(line, context.centre, level);
    this.polynomial = slopeTerms(line, key);
    const keys = new Set(this.polynomial.flatMap((t) => t.moderators));
    this.moderators = context.moderators.filter((m) => m.columns.some((c) => keys.has(c.key)));
  }

  /**
   * Does a moderator of the theory change it? A product of a treatment with its mediator alone is
   * none.
   */
  get moderated(): boolean {
    return this.moderators.length > 0;
  }

  evidence(): ModerationEvidence {
    const { moderators } = this;
    const { outcome, columns } = this.line;
    const column = columns.find((c) => c.key === this.key)!;
    const grid = probeGrid(moderators);
    const model = this.model();
    return {
      id: `${this.key} on ${outcome}`,
      outcome,
      focal: this.key,
      focalLabel: column.label,
      focalVariable: column.variable,
      moderators: moderators.map(({ name, kind, columns: own, probes }) => ({
        name,
        kind,
        columns: own.map((c) => c.key),
        probes: probes.map(({ label, value, centred }) => ({
          label,
          value,
          centred: Object.fromEntries(centred),
        })),
      })),
      path: this.prepared.theory.paths.some((p) => p.from === column.variable && p.to === outcome),
      model,
      slopes: grid.map((combination) =>
        this.slope(combination, this.functional(this.polynomial, valuesOf(combination))),
      ),
      twoWay: this.twoWay(),
      johnsonNeyman: this.moderators.flatMap((over) => this.alongOne(over)),
      crossings: crossings(this.reader, this.key, this.moderators),
      lines: grid.map((combination) => ({
        words: atWords(combination),
        points: this.ends(combination, model),
      })),
    };
  }

  /**
   * Weights of the line's coefficients that give a slope its value; columns that are no moderators
   * stay at their means.
   */
  private functional(terms: SlopeTerm[], values: ReadonlyMap<string, number>): Float64Array {
    const g = new Float64Array(this.line.b.length);
    const { centre } = this.prepared.context;
    const value = (key: string): number => {
      const stated = values.get(key);
      if (stated !== undefined) return stated;
      return mean(this.line.columns.find((c) => c.key === key)!.values) - centre(key);
    };
    for (const { moderators, at, weight } of terms)
      g[at] = g[at]! + weight * moderators.reduce((all, key) => all * value(key), 1);
    return g;
  }

  private slope(combination: Combination, g: Float64Array): ConditionalSlope {
    // Where every variable is a z-score, t limits would take the SDs as known.
    const known = !this.prepared.fit.standardised;
    return {
      at: atRecord(combination),
      words: atWords(combination),
      effect: this.effectId(atWords(combination)),
      estimate: this.reader.value(g),
      errors: byCovariance((kind) => (known ? this.reader.test(g, kind) : null)),
    };
  }

  private effectId(words: string): string | null {
    const { outcome, columns } = this.line;
    const pair = this.prepared.context.pairs.find((p) => p.from === this.key && p.to === outcome);
    const variable = columns.find((c) => c.key === this.key)!.variable;
    return pair && pair.routes.some((r) => r.nodes.length === 2)
      ? conditionalId(pair, [variable, outcome], words)
      : null;
  }

  /** The slope along one numeric moderator, the others at each of their probes. */
  private alongOne(over: Moderator): JohnsonNeymanSet[] {
    if (over.kind !== "numeric") return [];
    const others = this.moderators.filter((m) => m !== over);
    return probeGrid(others).map((combination) =>
      this.johnsonNeyman(this.polynomial, over, combination),
    );
  }

  private johnsonNeyman(
    polynomial: SlopeTerm[],
    over: Moderator,
    combination: Combination,
  ): JohnsonNeymanSet {
    const column = over.columns[0]!;
    const at = (value: number): Float64Array =>
      this.functional(polynomial, new Map([...valuesOf(combination), [column.key, value]]));
    const g0 = at(0);
    const g1 = at(1).map((v, i) => v - g0[i]!);
    const centre = this.prepared.context.centre(column.key);
    return {
      over: over.name,
      fixed: atRecord(combination),
      words: combination.length > 0 ? atWords(combination) : "",
      tests: byCovariance((kind) => {
        const [v11, v13, v33] = [
          this.reader.form(g0, g0, kind),
          this.reader.form(g0, g1, kind),
          this.reader.form(g1, g1, kind),
        ];
        if (!Number.isFinite(v11 + v33)) return null;
        const df = this.reader.dfAlong(over, at, kind);
        const slope: LinearSlope = {
          b1: this.reader.value(g0),
          b3: this.reader.value(g1),
          v11,
          v13,
          v33,
          centre,
          df,
        };
        return {
          pointwise: johnsonNeyman(slope, pointwiseCritical(df, this.level), column.values),
          simultaneous: johnsonNeyman(slope, simultaneousCritical(df, this.level), column.values),
          falseDiscovery: falseDiscovery(slope, this.level, column.values),
        };
      }),
    };
  }

  /** The effect of one moderator on the slope, along another: b_xw + b_xwz z. */
  private twoWay(): ModerationEvidence["twoWay"] {
    return this.moderators.flatMap((first) =>
      this.moderators.flatMap((second) => {
        if (first === second || first.columns.length > 1) return [];
        const key = first.columns[0]!.key;
        const polynomial = this.polynomial
          .filter((t) => t.moderators.includes(key))
          .map((t) => ({ ...t, moderators: t.moderators.filter((m) => m !== key) }));
        if (
          !polynomial.some((t) => t.moderators.some((m) => second.columns.some((c) => c.key === m)))
        )
          return [];
        const slopes = probeGrid([second]).map((c) =>
          this.slope(c, this.functional(polynomial, valuesOf(c))),
        );
        const jn = second.kind === "numeric" ? this.johnsonNeyman(polynomial, second, []) : null;
        return [{ with: first.name, over: second.name, slopes, johnsonNeyman: jn }];
      }),
    );
  }

  /**
   * Points of one line: where the predictor is as stated, else a standard deviation below and above
   * its mean, or its two values.
   */
  private ends(combination: Combination, model: ProbeModel): LinePoint[] {
    const { context, study } = this.prepared;
    const column = this.line.columns.find((c) => c.key === this.key)!;
    const stated = (own(study.settings.probes, column.variable) ?? []).filter(
      (v) => typeof v === "number",
    );
    const ends = (this.endsHeld ??= stated.length > 0 ? stated : endsOf(column.values));
    const { centre } = context;
    const moderatorValues = [...valuesOf(combination)].map(
      ([key, value]) => [key, value + centre(key)] as const,
    );
    return ends.map((x) => {
      const values = new Map([...moderatorValues, [this.key, x] as const]);
      const predicted = predictAt({ ...model, covariance: null }, values).estimate;
      return {
        at: { ...atRecord(combination), [this.key]: x },
        predicted,
        response: responseAt(model, values, pointwiseCritical(model.df ?? Infinity, this.level)),
        errors: byCovariance((kind) => {
          const { se } = predictAt({ ...model, covariance: this.block(kind) }, values);
          if (se === null) return null;
          const df = this.line.df(kind, designRow(model, values));
          const reach = studentQuantile(1 - (1 - this.level) / 2, df) * se;
          return { se, lower: predicted - reach, upper: predicted + reach };
        }),
      };
    });
  }

  /** Covariance of the coefficients, row-major; null where it is not available. */
  private block(kind: CovarianceKind): number[] | null {
    const { values } = this.line.covariances[kind];
    return values.every(Number.isFinite) ? [...values] : null;
  }

  /** The equation as a function of its columns, under the errors in use. */
  private model(): ProbeModel {
    const { line, prepared } = this;
    const numeric = this.moderators.filter((m) => m.kind === "numeric");
    const kind = prepared.errors;
    const place = this.middle();
    const dfs = numeric.map((over) => {
      const key = over.columns[0]!.key;
      return this.reader.dfAlong(
        over,
        (w) => this.functional(this.polynomial, new Map([...place, [key, w]])),
        kind,
      );
    });
    const df =
      dfs.length > 0 ? Math.min(...dfs) : line.df(kind, this.functional(this.polynomial, place));
    return {
      outcome: line.outcome,
      link: line.link ?? "identity",
      outcomeMean: line.outcomeMean,
      outcomeSd: line.outcomeSd,
      b: [...line.b],
      covariance: this.block(kind),
      df: df === Infinity ? null : df,
      columns: line.columns.map((c) => ({
        key: c.key,
        variable: c.variable,
        mean: mean(c.values),
        sd: c.sd,
        centre: c.components ? 0 : prepared.context.centre(c.key),
        components: c.components?.map((part) => part.key) ?? null,
      })),
    };
  }

  /** Every moderator column at its mean, about its centre. */
  private middle(): Map<string, number> {
    return new Map(
      this.moderators.flatMap((m) =>
        m.columns.map(
          (c) => [c.key, mean(c.values) - this.prepared.context.centre(c.key)] as [string, number],
        ),
      ),
    );
  }
}

/** A standard deviation below and above the mean, or the two values that occur. */
function endsOf(values: Float64Array): [number, number] {
  const [min, max] = extent(values);
  if (values.every((v) => v === min || v === max)) return [min, max];
  const [m, sd] = [mean(values), standardDeviation(values)];
  return [m - sd, m + sd];
}

const atRecord = (combination: Combination): Record<string, number | string> =>
  Object.fromEntries(
    combination.map(({ probe, moderator }) => [moderator.name, probe.value ?? probe.label]),
  );

/**
 * A part of a slope: a coefficient of the line, times a weight and the moderators about their
 * centres.
 */
interface SlopeTerm {
  moderators: string[];
  at: number;
  weight: number;
}

/**
 * The slope of a column of a line: its own coefficient, and those of its products; that of a square
 * counts twice.
 */
const slopeTerms = ({ columns }: Line, key: string): SlopeTerm[] =>
  columns.flatMap((column, i) => {
    const keys = column.components?.map((c) => c.key) ?? [column.key];
    const weight = keys.filter((k) => k === key).length;
    return weight === 0 ? [] : [{ moderators: without(keys, key).sort(), at: i + 1, weight }];
  });
