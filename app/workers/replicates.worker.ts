import { expose, transfer } from "comlink";
import { Resampler, type ReplicateBlock, type ResamplingProblem } from "../../core";

let held: { token: number; resampler: Resampler } | null = null;

/** Makes replicates of the problem it was given last. */
const maker = {
  prepare(token: number, problem: ResamplingProblem): void {
    held = { token, resampler: new Resampler(problem) };
  },
  make(token: number, first: number, count: number): ReplicateBlock | null {
    if (held?.token !== token) return null;
    const block = held.resampler.replicates(first, count);
    return transfer(block, [block.values.buffer as ArrayBuffer]);
  },
};

export type ReplicateMaker = typeof maker;
expose(maker);
