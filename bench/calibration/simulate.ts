import {
  guessVariable,
  newDefinition,
  Analysis,
  resamplerOf,
  TableBuilder,
  DEFAULT_SETTINGS,
  type IntervalKind,
  type Verdict,
} from "../../core";
import { bootstrapAll, effectEvidence } from "../../core/evidence/effects";
import { hypothesisEvidence } from "../../core/evidence/hypotheses";
import { DESIGNS, sampleOf } from "./designs";

export const METHODS: IntervalKind[] = ["percentile", "bc", "bca", "basic", "normal", "delta"];

/** A share of the work: some samples of one design at one size. */
export interface Job {
  design: number;
  n: number;
  seed: number;
  replications: number;
  first: number;
  count: number;
}

/** What became of the samples under one interval method. */
export interface Tally {
  samples: number;
  covered: number;
  verdicts: Partial<Record<Verdict, number>>;
}

/**
 * Simulates samples and takes each through the whole pipeline; all interval methods read the same
 * resamples.
 */
export function simulate({
  design: at,
  n,
  seed,
  replications,
  first,
  count,
}: Job): Partial<Record<IntervalKind, Tally>> {
  const design = DESIGNS[at]!;
  const tallies: Partial<Record<IntervalKind, Tally>> = {};
  for (let index = first; index < first + count; index++) {
    const data = sampleOf(design, n, seed, index);
    const names = Object.keys(data);
    const builder = new TableBuilder(names);
    for (let i = 0; i < n; i++) builder.add(names.map((name) => String(data[name]![i])));
    const table = builder.build();
    const variables = table.columns.map((c) => ({
      ...guessVariable(c),
      level: design.categorical?.includes(c.name)
        ? ("categorical" as const)
        : ("continuous" as const),
    }));
    const settings = {
      ...DEFAULT_SETTINGS,
      replications,
      seed: seed + index,
      cluster: design.cluster ?? null,
    };
    const { prepared } = Analysis.of(
      { ...newDefinition("", variables), theory: design.theory, settings },
      table,
    );
    const resampler = resamplerOf(prepared.resampling);
    const resamples = {
      replicates: [resampler.replicates(0, replications)],
      jackknife: resampler.jackknife(),
    };
    // The parts of the pipeline that decide, without the tables and pictures that a screen would
    // want besides.
    const boot = bootstrapAll(prepared, resamples);
    for (const interval of METHODS) {
      const variant = {
        ...prepared,
        study: { ...prepared.study, settings: { ...settings, interval } },
      };
      const list = effectEvidence(variant, boot, resamples.jackknife);
      const { hypotheses } = hypothesisEvidence(variant, list, boot);
      const { claim, verdict } = hypotheses.find((h) => h.label === "H1")!;
      const tally = (tallies[interval] ??= { samples: 0, covered: 0, verdicts: {} });
      tally.samples += 1;
      tally.verdicts[verdict] = (tally.verdicts[verdict] ?? 0) + 1;
      const { truth } = design;
      if (
        truth !== null &&
        claim &&
        claim.lower !== null &&
        claim.upper !== null &&
        claim.lower <= truth &&
        truth <= claim.upper
      )
        tally.covered += 1;
    }
  }
  return tallies;
}
