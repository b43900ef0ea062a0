import type { IntervalKind } from "../study";
import { KEPT_INTERVALS, recorded, RECORD, type PieceResult } from "./simulate";

/** A share found in simulated samples, with its simulation error. */
export interface SimulatedShare {
  share: number;
  /** sqrt(share (1 - share) / samples). */
  se: number;
  samples: number;
}

/** How one interval did for one sentence. */
export interface IntervalRecord {
  kind: IntervalKind;
  /** Share of intervals that excluded zero. */
  power: SimulatedShare;
  /** Share of intervals that held the value of the population. */
  coverage: SimulatedShare | null;
  width: number;
}

/** What the simulated samples say of one sentence. */
export interface PlannedSentence {
  label: string;
  /**
   * The effect in the population, in the units of the data; null where several are claimed at once.
   */
  truth: number | null;
  /** Share of samples in which the sentence is supported, by the chosen interval. */
  power: SimulatedShare;
  /** Share of samples in which the opposite is found. */
  opposite: SimulatedShare;
  joint: SimulatedShare | null;
  /** Mean of the estimates less the truth. */
  bias: number | null;
  meanEstimate: number | null;
  /** SD of the estimates over samples, and the mean of their standard errors. */
  sd: number | null;
  meanSe: number | null;
  coverage: SimulatedShare | null;
  width: number | null;
  intervals: IntervalRecord[];
}

/** What the simulated samples of so many people say. */
export interface PlannedPoint {
  people: number;
  samples: number;
  failed: number;
  failures: Record<string, number>;
  sentences: PlannedSentence[];
  /** Share of samples in which every sentence is supported. */
  all: SimulatedShare;
}

export function shareOf(count: number, samples: number): SimulatedShare {
  const share = samples > 0 ? count / samples : 0;
  return { share, se: samples > 0 ? Math.sqrt((share * (1 - share)) / samples) : 0, samples };
}

/**
 * Puts pieces together, in the order of their samples whatever the order they came in; a piece that
 * came twice counts once. Samples whose analysis failed count as samples in which nothing was
 * found.
 */
export function pointOf(
  labels: readonly string[],
  truths: readonly (number | null)[],
  pieces: readonly PieceResult[],
): PlannedPoint {
  const unique = [...new Map(pieces.map((p) => [p.first, p])).values()].sort(
    (a, b) => a.first - b.first,
  );
  const samples = unique.reduce((sum, p) => sum + p.count, 0);
  const width = labels.length * RECORD;
  const records = new Float64Array(samples * width);
  let at = 0;
  const failures: Record<string, number> = {};
  for (const piece of unique) {
    records.set(piece.records, at);
    at += piece.records.length;
    for (const [code, count] of Object.entries(piece.failures))
      failures[code] = (failures[code] ?? 0) + count;
  }
  const read = (sample: number, sentence: number, what: Parameters<typeof recorded>[4], more = 0) =>
    recorded(records, labels.length, sample, sentence, what, more);
  const count = (test: (sample: number) => boolean): number => {
    let found = 0;
    for (let i = 0; i < samples; i++) if (test(i)) found += 1;
    return found;
  };
  const sentences = labels.map((label, j): PlannedSentence => {
    const truth = truths[j] ?? null;
    const column = (what: Parameters<typeof recorded>[4], more = 0): Float64Array =>
      Float64Array.from({ length: samples }, (_, i) => read(i, j, what, more));
    const estimates = finiteOf(column("estimate"));
    const meanEstimate = meanOf(estimates);
    const chosen = limitsRecord(column("lower"), column("upper"), truth, samples);
    return {
      label,
      truth,
      power: shareOf(
        count((i) => read(i, j, "decision") === 1),
        samples,
      ),
      opposite: shareOf(
        count((i) => read(i, j, "decision") === -1),
        samples,
      ),
      joint:
        finiteOf(column("joint")).length > 0
          ? shareOf(
              count((i) => read(i, j, "joint") === 1),
              samples,
            )
          : null,
      bias: truth === null || meanEstimate === null ? null : meanEstimate - truth,
      meanEstimate,
      sd: sdOf(estimates),
      meanSe: meanOf(finiteOf(column("se"))),
      coverage: chosen?.coverage ?? null,
      width: chosen?.width ?? null,
      intervals: KEPT_INTERVALS.flatMap((kind, k): IntervalRecord[] => {
        const found = limitsRecord(
          column("limits", 2 * k),
          column("limits", 2 * k + 1),
          truth,
          samples,
        );
        return found ? [{ kind, ...found }] : [];
      }),
    };
  });
  return {
    people: unique[0]?.people ?? 0,
    samples,
    failed: Object.values(failures).reduce((a, b) => a + b, 0),
    failures,
    sentences,
    all: shareOf(
      count((i) => labels.every((_, j) => read(i, j, "decision") === 1)),
      samples,
    ),
  };
}

/** How limits did; null where none of them has two ends. */
function limitsRecord(
  lower: Float64Array,
  upper: Float64Array,
  truth: number | null,
  samples: number,
): Omit<IntervalRecord, "kind"> | null {
  let found = 0;
  let excluding = 0;
  let holding = 0;
  let width = 0;
  for (let i = 0; i < samples; i++) {
    if (!(Number.isFinite(lower[i]!) && Number.isFinite(upper[i]!))) continue;
    found += 1;
    width += upper[i]! - lower[i]!;
    if (lower[i]! > 0 || upper[i]! < 0) excluding += 1;
    if (truth !== null && lower[i]! <= truth && upper[i]! >= truth) holding += 1;
  }
  if (found === 0) return null;
  return {
    power: shareOf(excluding, samples),
    coverage: truth === null ? null : shareOf(holding, found),
    width: width / found,
  };
}

const finiteOf = (values: Float64Array): Float64Array => values.filter((v) => Number.isFinite(v));

const meanOf = (values: Float64Array): number | null =>
  values.length > 0 ? values.reduce((sum, v) => sum + v, 0) / values.length : null;

function sdOf(values: Float64Array): number | null {
  const mean = meanOf(values);
  if (mean === null || values.length < 2) return null;
  return Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (values.length - 1));
}
