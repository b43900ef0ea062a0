import { claimsAlone, type ClaimReading } from "../evidence/claims-alone";
import { prepare, type Prepared } from "../preparation";
import { compileExpression } from "../model";
import { claimOf } from "../effects";
import { holmAdjusted } from "../inference";
import { RandomStream, streamIndex } from "../numerics/random";
import { StudyProblem } from "../problems";
import { DEFAULT_SETTINGS, type IntervalKind, type StudyDefinition } from "../study";
import { excludes } from "../evidence/reading";
import { claimsInOrder } from "./claims-in-order";
import type { StudyPlan } from "../study";
import { Population } from "./population";

/** Intervals whose limits a simulation keeps, beside the chosen one. */
export const KEPT_INTERVALS = ["percentile", "bc", "bca", "basic", "normal", "delta"] as const;

/** Where the numbers of one sentence stand in its record. */
const PLACES = {
  estimate: 0,
  se: 1,
  lower: 2,
  upper: 3,
  decision: 4,
  joint: 5,
  limits: 6,
} as const;
/** Numbers that are kept of one sentence in one sample. */
export const RECORD = PLACES.limits + 2 * KEPT_INTERVALS.length;

/**
 * Samples first .. first + count - 1 of so many people. What is found depends on the plan's seed,
 * people and index alone.
 */
export interface Piece {
  people: number;
  first: number;
  count: number;
}

/**
 * What one piece found: for every sample the records of all sentences; NaN throughout where the
 * analysis failed.
 */
export interface PieceResult extends Piece {
  records: Float64Array;
  /** Codes of the conditions that stopped an analysis, with how often. */
  failures: Record<string, number>;
}

/** What is simulated: a study, what is expected of it, how closely it is looked at. */
export interface SimulationTask {
  study: StudyDefinition;
  plan: StudyPlan;
  /** Keep the limits of every interval, and not only those of the chosen one. */
  every: boolean;
}

/**
 * Rows of the sample that stands for the population when its effects are found; fewer where a fit
 * takes long.
 */
const IDEAL_ROWS = 40_000;
const IDEAL_ROWS_OF_LONG_FITS = 8_000;
/**
 * Straight lines among normal variables are found exactly in a sample of any size that has the
 * population's moments.
 */
const IDEAL_ROWS_OF_MOMENTS = 1_000;

/** Makes and analyses samples of one plan in this thread. */
export class Simulator {
  readonly population: Population;
  readonly labels: string[];
  private readonly study: StudyDefinition;

  /** @throws StudyProblem where the plan contradicts itself or the theory cannot be read */
  constructor(private readonly task: SimulationTask) {
    checkPlan(task.plan);
    this.population = new Population(task.study, task.plan);
    this.study = this.population.study;
    this.labels = claimsInOrder(this.population.theory).map((c) => c.label);
  }

  /** Simulates one piece. */
  piece({ people, first, count }: Piece): PieceResult {
    const width = this.labels.length * RECORD;
    const records = new Float64Array(count * width).fill(NaN);
    const failures: Record<string, number> = {};
    for (let i = 0; i < count; i++) {
      try {
        this.record(people, first + i, records.subarray(i * width, (i + 1) * width));
      } catch (error) {
        if (!(error instanceof StudyProblem)) throw error;
        failures[error.code] = (failures[error.code] ?? 0) + 1;
      }
    }
    return { people, first, count, records, failures };
  }

  /**
   * The effects that sentences claim in the population, in their order; null where a sentence
   * claims several at once.
   */
  truths(): (number | null)[] {
    const { isNormal, isEstimatedAtOnce } = this.population;
    const rows = isNormal
      ? IDEAL_ROWS_OF_MOMENTS
      : isEstimatedAtOnce
        ? IDEAL_ROWS
        : IDEAL_ROWS_OF_LONG_FITS;
    const settings = { ...this.study.settings, replications: 0, interval: "delta" as const };
    const prepared = prepare({ ...this.study, settings }, this.population.ideal(rows));
    return claimsInOrder(prepared.theory).map((claim) => {
      const { quantities } = claimOf(prepared.context, claim);
      return quantities.length === 1 ? valueOf(prepared, quantities[0]!) : null;
    });
  }

  private record(people: number, sample: number, out: Float64Array): void {
    const { plan, every } = this.task;
    const seed = seedFor(plan.seed, people);
    const table = this.population.sample(people, seed, sample);
    const draws = new RandomStream(seed, streamIndex("simulation", SEEDS + sample));
    const settings = {
      ...DEFAULT_SETTINGS,
      ...this.study.settings,
      replications: plan.replications,
      seed: wholeNumber(draws),
    };
    const prepared = prepare({ ...this.study, settings }, table);
    const readings = claimsAlone(prepared, every);
    const { level, several } = settings;
    const adjusted =
      several === "holm" ? holmAdjusted(readings.map((r) => r.test?.p ?? null)) : null;
    readings.forEach((reading, j) => {
      const stands = !adjusted || (adjusted[j] ?? 1) < 1 - level;
      write(reading, stands, out.subarray(j * RECORD, (j + 1) * RECORD));
    });
  }
}

const valueOf = ({ theta }: Prepared, q: { expression: Parameters<typeof compileExpression>[0] }) =>
  compileExpression(q.expression)(theta, 0);

/** Streams of a sample's resampling seed begin here, beyond those of the samples themselves. */
const SEEDS = 0x08000000;
/** And those of the seeds of the numbers of people here. */
const PEOPLE = 0x10000000;

const wholeNumber = (stream: RandomStream): number =>
  (stream.next() >>> 11) * 4294967296 + stream.next();

/**
 * Every number of people has samples of its own, so that no two points of a curve share their luck.
 */
const seedFor = (seed: number, people: number): number =>
  wholeNumber(new RandomStream(seed, streamIndex("simulation", PEOPLE + people)));

/** 1: found as it is claimed; -1: found on the other side; 0: not found. */
export function decisionOf(test: ClaimReading["test"]): number {
  if (!test) return NaN;
  if (test.joint) return test.joint.p < 1 - test.level ? 1 : 0;
  const excluded = excludes(test, test.nullValue);
  if (excluded === null) return NaN;
  if (!excluded) return 0;
  const side = test.lower !== null && test.lower > test.nullValue ? 1 : -1;
  return test.direction === 0 || side === test.direction ? 1 : -1;
}

function write({ test, limits, joint }: ClaimReading, stands: boolean, out: Float64Array): void {
  const decision = decisionOf(test);
  out[PLACES.estimate] = test?.estimate ?? NaN;
  out[PLACES.se] = test?.se ?? NaN;
  out[PLACES.lower] = test?.lower ?? NaN;
  out[PLACES.upper] = test?.upper ?? NaN;
  // What does not stand after the correction is found on neither side.
  out[PLACES.decision] = stands || Number.isNaN(decision) ? decision : 0;
  out[PLACES.joint] = joint === null ? NaN : joint ? 1 : 0;
  KEPT_INTERVALS.forEach((kind: IntervalKind, k) => {
    out[PLACES.limits + 2 * k] = limits[kind]?.lower ?? NaN;
    out[PLACES.limits + 2 * k + 1] = limits[kind]?.upper ?? NaN;
  });
}

/** One number of a record. */
export const recorded = (
  records: Float64Array,
  labels: number,
  sample: number,
  sentence: number,
  what: keyof typeof PLACES,
  further = 0,
): number => records[(sample * labels + sentence) * RECORD + PLACES[what] + further]!;

/** @throws StudyProblem `invalid_setting` naming the number and what it may be */
function checkPlan(plan: StudyPlan): void {
  const check = (what: string, value: number, from: number, to: number, whole = false): void => {
    if (!(value >= from && value <= to) || (whole && !Number.isInteger(value)))
      throw new StudyProblem("plan_number", { what, value, from, to });
  };
  check("The number of people", plan.n, 4, 1_000_000, true);
  check("The wanted power", plan.target, 0.05, 0.999);
  check("The number of simulated samples", plan.samples, 10, 100_000, true);
  check("The number of bootstrap samples", plan.replications, 0, 100_000, true);
  check("The seed", plan.seed, 0, Number.MAX_SAFE_INTEGER, true);
  check("The share of missing answers", plan.missing.share, 0, 0.9);
  for (const { from, to, size } of plan.sizes)
    check(`The size of ${from.join(" × ")} to ${to}`, size, -10, 10);
  for (const { a, b, r } of plan.correlations) check(`The correlation of ${a} and ${b}`, r, -1, 1);
  for (const [name, r] of Object.entries(plan.reliabilities))
    check(`The reliability of ${name}`, r, 0.01, 1);
}
