import { compileGradient, parametersOf, type Expression, type GradientAdder } from "../effects";
import { ResampledCovariance, Refitter, type CovarianceRule, type RefitProblem } from "../estimators/least-squares";
import { quadraticForm } from "./delta";
import { RandomStream } from "../numerics/random";

/** How rows are drawn: rows one by one, rows within strata, or whole clusters; `members` are row positions. */
export type Scheme = { kind: "rows" } | { kind: "strata" | "clusters"; members: Int32Array[] };

/** Everything a worker needs to make replicates. */
export interface ResamplingProblem {
  refit: RefitProblem;
  scheme: Scheme;
  seed: number;
  /** Functions of the parameters whose standard error is wanted in every replicate, for the bootstrap-t. */
  studentised: { rule: CovarianceRule; functions: Expression[] } | null;
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
 * Bootstrap replicates and jackknife values of the parameter vector. Replicate r depends on (seed, r) only,
 * so any split over workers gives the same numbers.
 */
export class Resampler {
  private readonly refitter: Refitter;
  private readonly counts: Float64Array;
  private readonly stream = new RandomStream();
  private readonly studentiser: Studentiser | null;

  constructor(private readonly problem: ResamplingProblem) {
    this.refitter = new Refitter(problem.refit);
    this.counts = new Float64Array(problem.refit.n);
    this.studentiser = problem.studentised && new Studentiser(problem.refit, problem.studentised);
  }

  /** Replicates first .. first + count - 1. */
  replicates(first: number, count: number): ReplicateBlock {
    const { size } = this.problem.refit;
    const values = new Float64Array(count * size);
    const functions = this.studentiser?.count ?? 0;
    const errors = this.studentiser && new Float64Array(count * functions);
    for (let r = 0; r < count; r++) {
      this.stream.key(this.problem.seed, first + r);
      this.draw();
      if (!this.refitter.refit(this.counts, values, r * size)) values.fill(NaN, r * size, (r + 1) * size);
      else if (errors) this.studentiser!.find(this.counts, values, r * size, errors, r * functions);
    }
    return { first, count, size, values, errors };
  }

  /** Parameter vectors with one row, or one cluster, left out in turn. */
  jackknife(): ReplicateBlock {
    const { scheme, refit } = this.problem;
    const { size, n } = refit;
    const count = scheme.kind === "clusters" ? scheme.members.length : n;
    const values = new Float64Array(count * size);
    for (let r = 0; r < count; r++) {
      let fitted: boolean;
      if (scheme.kind === "clusters") {
        this.counts.fill(1);
        for (const i of scheme.members[r]!) this.counts[i] = 0;
        fitted = this.refitter.refit(this.counts, values, r * size);
      } else fitted = this.refitter.refitWithout(r, values, r * size);
      if (!fitted) values.fill(NaN, r * size, (r + 1) * size);
    }
    return { first: 0, count, size, values, errors: null };
  }

  private draw(): void {
    const { counts, stream } = this;
    const { scheme, refit } = this.problem;
    counts.fill(0);
    if (scheme.kind === "rows") {
      stream.countDraws(counts, refit.n, refit.n);
    } else if (scheme.kind === "strata") {
      for (const members of scheme.members) {
        for (let i = 0; i < members.length; i++) {
          const row = members[stream.below(members.length)]!;
          counts[row] = counts[row]! + 1;
        }
      }
    } else {
      for (let g = 0; g < scheme.members.length; g++) {
        for (const row of scheme.members[stream.below(scheme.members.length)]!) counts[row] = counts[row]! + 1;
      }
    }
  }
}

/** Standard errors of functions of the parameters within a resample. */
class Studentiser {
  readonly count: number;
  private readonly covariance: ResampledCovariance;
  private readonly gradient: Float64Array;
  /** Null where a function also depends on SDs, which have no covariance. */
  private readonly functions: (GradientAdder | null)[];

  constructor(refit: RefitProblem, { rule, functions }: NonNullable<ResamplingProblem["studentised"]>) {
    this.count = functions.length;
    this.covariance = new ResampledCovariance(refit, rule);
    this.gradient = new Float64Array(refit.size);
    const fixed = refit.averages.first;
    const known = (e: Expression): boolean => [...parametersOf(e)].every((index) => index < this.covariance.size || index >= fixed);
    this.functions = functions.map((e) => (known(e) ? compileGradient(e) : null));
  }

  find(counts: Float64Array, theta: Float64Array, offset: number, out: Float64Array, at: number): void {
    const found = this.covariance.find(counts);
    this.functions.forEach((add, f) => {
      out[at + f] = NaN;
      if (!found || !add) return;
      this.gradient.fill(0);
      add(theta, offset, 1, this.gradient);
      out[at + f] = Math.sqrt(quadraticForm(this.gradient, this.covariance));
    });
  }
}
