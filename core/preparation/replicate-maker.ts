import { kernelOf } from "../estimators";
import { Resampler, type ReplicateBlock } from "../inference";
import type { ResamplingProblem } from ".";

/**
 * What a thread that makes replicates is asked. A problem is given once, and then named by its key.
 */
export type MakerRequest =
  | { kind: "prepare"; key: string; problem: ResamplingProblem }
  | { kind: "replicates"; key: string; first: number; count: number }
  | { kind: "jackknife"; key: string; first: number; count: number };

/** Makes the resampler of a problem in this thread. */
export const resamplerOf = ({ kernel, ...plan }: ResamplingProblem): Resampler =>
  new Resampler(kernelOf(kernel), plan);

/**
 * The inside of a thread that makes replicates, in a browser and in Node alike: it holds the
 * problem it was given last.
 */
export class ReplicateMaker {
  private held: { key: string; resampler: Resampler } | null = null;

  /** @returns null for a request that asks for nothing */
  answer(request: MakerRequest): ReplicateBlock | null {
    if (request.kind === "prepare") {
      this.held = { key: request.key, resampler: resamplerOf(request.problem) };
      return null;
    }
    if (this.held?.key !== request.key)
      throw new Error(`The problem ${request.key} is not known here.`);
    const { resampler } = this.held;
    const { kind, first, count } = request;
    return kind === "jackknife"
      ? resampler.jackknife(first, count)
      : resampler.replicates(first, count);
  }
}
