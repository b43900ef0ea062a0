import {
  compileGradient,
  parametersOf,
  quadraticForm,
  type CovarianceRule,
  type Expression,
  type GradientAdder,
  type Kernel,
  type Resample,
  type ResampleCovariance,
} from "../model";
import { RandomStream, streamIndex } from "../numerics/random";
import { WeightedSums } from "../numerics/weighted-sums";

/**
 * How rows are drawn: rows one by one, rows within strata, or whole clusters; `members` are row
 * positions.
 */
export type Scheme = { kind: "rows" } | { kind: "strata" | "clusters"; members: Int32Array[] };

/** How replicates are made, whatever the model. */
export interface ResamplingPlan {
  scheme: Scheme;
  seed: number;
  /**
   * Functions of the parameters whose standard error is wanted in every replicate, for the
   * bootstrap-t.
   */
  studentised: { rule: CovarianceRule; functions: Expression[] } | null;
  /** Samples that were made elsewhere, as row positions; drawn where there are none. */
  given?: Int32Array[] | null;
}

/** Replicate parameter vectors, row-major count x size; a failed one is all NaN. */
export interface ReplicateBlock {
  first: number;
  count: number;
  size: number;
  values: Float64Array;
  /** Delta-method errors of the functions asked for, row-major; NaN where there is none. */
  errors: Float64Array | null;
}

/** Makes the scheme of a grouping column: one member list per distinct value. */
export function groupedScheme(kind: "strata" | "clusters", values: ArrayLike<number>): Scheme {
  const groups = new Map<number, number[]>();
  for (let i = 0; i < values.length; i++) {
    const group = groups.get(values[i]!);
    if (group) group.push(i);
    else groups.set(values[i]!, [i]);
  }
  return { kind, members: [...groups.values()].map((rows) => Int32Array.from(rows)) };
}

/** The stratum of each row where rows are drawn within strata, else null. */
export function strataOf(scheme: Scheme, n: number): Int32Array | null {
  if (scheme.kind !== "strata") return null;
  const strata = new Int32Array(n);
  scheme.members.forEach((rows, s) => rows.forEach((row) => (strata[row] = s)));
  return strata;
}

/**
 * Bootstrap replicates and jackknife values of the parameter vector of any kernel. Replicate r
 * depends on (seed, r) only, so any split over workers gives the same numbers. The cost of a
 * replicate grows linearly with the units drawn, that of leaving one out does not grow at all.
 */
export class Resampler {
  private readonly draws: Draws;
  private readonly stream = new RandomStream();
  private readonly studentiser: Studentiser | null;

  constructor(
    private readonly kernel: Kernel,
    private readonly plan: ResamplingPlan,
  ) {
    this.draws = new Draws(kernel, plan.scheme);
    this.studentiser = plan.studentised && studentiserOf(kernel, plan.studentised);
  }

  /** Replicates first .. first + count - 1. */
  replicates(first: number, count: number): ReplicateBlock {
    const { kernel, draws, studentiser, stream, plan } = this;
    const { size } = kernel;
    const values = new Float64Array(count * size);
    const functions = studentiser?.count ?? 0;
    const errors = studentiser && new Float64Array(count * functions);
    for (let r = 0; r < count; r++) {
      const given = plan.given?.[first + r];
      stream.key(plan.seed, streamIndex("bootstrap", first + r));
      const resample = given ? draws.take(given) : draws.draw(stream);
      if (!kernel.refit(resample, values, r * size)) values.fill(NaN, r * size, (r + 1) * size);
      else if (errors)
        studentiser!.find(resample.weights(), values, r * size, errors, r * functions);
    }
    return { first, count, size, values, errors };
  }

  /**
   * Gives its memory to the next run, where many short ones follow each other; nothing may be asked
   * of it afterwards.
   */
  release(): void {
    this.draws.release();
  }

  /** Units that can be left out: rows, or clusters where these are drawn. */
  get units(): number {
    return this.draws.units;
  }

  /** Parameter vectors with one unit left out in turn: units first .. first + count - 1, or all. */
  jackknife(first = 0, count = this.units): ReplicateBlock {
    const { kernel, draws } = this;
    const { size } = kernel;
    const values = new Float64Array(count * size);
    draws.takeAll();
    for (let r = 0; r < count; r++) {
      if (!kernel.refit(draws.without(first + r), values, r * size))
        values.fill(NaN, r * size, (r + 1) * size);
    }
    return { first, count, size, values, errors: null };
  }
}

/** Draws units, and hands each resample on as weights, sums and cross-products. */
class Draws {
  readonly units: number;
  /** How often each unit was drawn. */
  private readonly counts: Float64Array;
  /** Rows of each unit; null where a unit is a row. */
  private readonly sizes: Float64Array | null;
  private readonly sums: WeightedSums | null;
  private readonly rowWeights: Float64Array;
  private readonly resample: Resample;
  /** The unit left out last, or -1. */
  private away = -1;
  private all: { total: number; packed: Float64Array[] | null } | null = null;

  constructor(
    { n, columns }: Kernel,
    private readonly scheme: Scheme,
  ) {
    const members = scheme.kind === "clusters" ? scheme.members : null;
    this.units = members?.length ?? n;
    this.counts = new Float64Array(this.units);
    this.sizes = members && Float64Array.from(members, (rows) => rows.length);
    this.sums = columns && new WeightedSums({ rows: n, ...columns, members });
    this.rowWeights = members ? new Float64Array(n) : this.counts;
    const none = new Float64Array(0);
    this.resample = {
      total: 0,
      sums: this.sums?.sums ?? none,
      cross: this.sums?.cross ?? none,
      extra: this.sums?.extra ?? none,
      weights: () => this.weights(),
    };
  }

  release(): void {
    this.sums?.release();
  }

  draw(stream: RandomStream): Resample {
    const { counts, scheme, units } = this;
    counts.fill(0);
    if (scheme.kind === "strata") {
      for (const members of scheme.members) {
        for (let i = 0; i < members.length; i++) {
          const row = members[stream.below(members.length)]!;
          counts[row] = counts[row]! + 1;
        }
      }
    } else stream.countDraws(counts, units, units);
    this.sums?.find(counts);
    return this.handOn();
  }

  /** A sample made elsewhere. */
  take(rows: Int32Array): Resample {
    this.counts.fill(0);
    for (const row of rows) this.counts[row] = this.counts[row]! + 1;
    this.sums?.find(this.counts);
    const resample = this.handOn();
    resample.total = rows.length;
    return resample;
  }

  /** Prepares for leaving units out in turn. */
  takeAll(): void {
    this.counts.fill(1);
    this.away = -1;
    this.sums?.find(this.counts);
    this.all = { total: this.handOn().total, packed: this.sums?.total() ?? null };
  }

  /** Everything but one unit; after `takeAll`. */
  without(unit: number): Resample {
    const { counts, all, sums, resample } = this;
    if (this.away >= 0) counts[this.away] = 1;
    counts[unit] = 0;
    this.away = unit;
    sums?.leaveOut(unit, all!.packed!);
    resample.total = all!.total - (this.sizes?.[unit] ?? 1);
    return resample;
  }

  private handOn(): Resample {
    const { sizes, counts, resample } = this;
    if (!sizes) {
      // Rows and strata are drawn as often as there are rows.
      resample.total = this.units;
      return resample;
    }
    resample.total = 0;
    for (let u = 0; u < this.units; u++) resample.total += counts[u]! * sizes[u]!;
    return resample;
  }

  private weights(): Float64Array {
    const { scheme, counts, rowWeights } = this;
    if (scheme.kind === "clusters")
      scheme.members.forEach((rows, g) => rows.forEach((i) => (rowWeights[i] = counts[g]!)));
    return rowWeights;
  }
}

/**
 * @throws Error where the kernel knows no standard errors within a resample: settings that ask for
 *   them are refused before
 */
function studentiserOf(
  kernel: Kernel,
  { rule, functions }: NonNullable<ResamplingPlan["studentised"]>,
): Studentiser {
  if (!kernel.covariance) throw new Error("This kernel has no standard errors within a resample.");
  return new Studentiser(kernel.covariance(rule), kernel.size, kernel.firstFixed, functions);
}

/** Standard errors of functions of the parameters within a resample. */
class Studentiser {
  readonly count: number;
  private readonly gradient: Float64Array;
  /** Null where a function also depends on SDs, which have no covariance. */
  private readonly functions: (GradientAdder | null)[];

  constructor(
    private readonly covariance: ResampleCovariance,
    size: number,
    firstFixed: number,
    functions: Expression[],
  ) {
    this.count = functions.length;
    this.gradient = new Float64Array(size);
    const known = (e: Expression): boolean =>
      [...parametersOf(e)].every((index) => index < covariance.size || index >= firstFixed);
    this.functions = functions.map((e) => (known(e) ? compileGradient(e) : null));
  }

  find(
    weights: Float64Array,
    theta: Float64Array,
    offset: number,
    out: Float64Array,
    at: number,
  ): void {
    const found = this.covariance.find(weights);
    this.functions.forEach((add, f) => {
      out[at + f] = NaN;
      if (!found || !add) return;
      this.gradient.fill(0);
      add(theta, offset, 1, this.gradient);
      out[at + f] = Math.sqrt(quadraticForm(this.gradient, this.covariance));
    });
  }
}
