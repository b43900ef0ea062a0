import type { Table } from "../data";
import type { Dataset } from "../dataset";
import { assembleEvidence, type Evidence, type Resamples } from "../evidence";
import type { ReplicateBlock } from "../inference";
import { prepare, type Prepared } from "../preparation";
import { resamplerOf } from "../preparation/replicate-maker";
import type { ReplicatePool } from "./replicate-pool";
import { chosenCovariance, type Settings, type StudyDefinition } from "../study";

/** The first intervals appear after so many replicates; batches then grow. */
const FIRST_BATCH = 400;
const BATCH_GROWTH = 1.8;
const MAX_BATCH = 5_000;
/**
 * Evidence is put together anew when there are so many times as many replicates as the last time.
 */
const ASSEMBLE_GROWTH = 2.5;

/** How far a run has come; evidence only where it was put together anew. */
export interface Progress {
  done: number;
  evidence: Evidence | null;
}

/**
 * A study under analysis: estimates at once, then resamples, here or on other threads, in one go or
 * in batches. Every analysis goes through this: the app's, the command line's, robustness checks
 * and simulations.
 */
export class Analysis {
  private readonly blocks: ReplicateBlock[] = [];
  private leftOut: ReplicateBlock | null = null;
  private readonly key: string;

  constructor(readonly prepared: Prepared) {
    started += 1;
    this.key = `run ${started}`;
  }

  /** @throws StudyProblem for anything that stops the analysis */
  static of(
    study: StudyDefinition,
    table: Table,
    options: { tolerant?: boolean; dataset?: Dataset } = {},
  ): Analysis {
    return new Analysis(prepare(study, table, options));
  }

  get requested(): number {
    return this.prepared.study.settings.replications;
  }

  /** Replicates made so far: the first so many. */
  get done(): number {
    return this.blocks.reduce((sum, block) => sum + block.count, 0);
  }

  /** The replicates so far, for keeping. */
  get made(): readonly ReplicateBlock[] {
    return this.blocks;
  }

  /** Takes replicates over that were made before; they must be the next ones, in order. */
  add(blocks: readonly ReplicateBlock[]): void {
    this.blocks.push(...blocks);
  }

  /**
   * Everything that can be said with the replicates so far.
   * @param change settings that are read when evidence is put together: interval, errors, level,
   *   tail, correction
   */
  evidence(change: Partial<Settings> = {}): Evidence {
    const { prepared } = this;
    const settings = { ...prepared.study.settings, ...change };
    const changed = {
      ...prepared,
      study: { ...prepared.study, settings },
      errors: chosenCovariance(settings),
    };
    return assembleEvidence(changed, this.resamples());
  }

  /** Makes all replicates that are missing in this thread. */
  complete(): this {
    const missing = this.requested - this.done;
    if (missing > 0)
      this.add([resamplerOf(this.prepared.resampling).replicates(this.done, missing)]);
    return this;
  }

  /** Makes all replicates that are missing on other threads. */
  async completeOn(pool: ReplicatePool): Promise<this> {
    const missing = this.requested - this.done;
    if (missing <= 0) return this;
    const making = pool.replicates(this.key, this.prepared.resampling, this.done, missing);
    // While others make replicates, this thread leaves one out at a time.
    this.jackknife();
    this.add(await making);
    return this;
  }

  /**
   * Makes the missing replicates in growing batches, and puts evidence together while the next
   * batch is on its way.
   * @param signal ends the run between batches; what is made is kept
   * @param until so many and no more, where fewer than all are wanted for now
   */
  async *resample(
    pool: ReplicatePool,
    signal: AbortSignal,
    until: number = this.requested,
  ): AsyncGenerator<Progress> {
    const { requested, key } = this;
    const most = Math.min(MAX_BATCH, this.prepared.fit.batch ?? MAX_BATCH);
    let size = Math.min(FIRST_BATCH, most);
    let assembledAt = this.done;
    if (this.prepared.fit.batch && !this.leftOut && this.done < requested)
      await this.leaveOutOn(pool, most, signal);
    const next = (from: number): Promise<ReplicateBlock[]> | null => {
      const count = Math.min(Math.round(size), until - from);
      size = Math.min(size * BATCH_GROWTH, most);
      return count > 0 && !signal.aborted
        ? pool.replicates(key, this.prepared.resampling, from, count, signal)
        : null;
    };
    for (let pending = next(this.done); pending;) {
      const blocks = await pending;
      this.add(blocks);
      const { done } = this;
      pending = next(done);
      const assemble = pending === null || done >= assembledAt * ASSEMBLE_GROWTH;
      if (assemble) assembledAt = done;
      yield { done, evidence: assemble ? this.evidence() : null };
    }
  }

  /**
   * Where a refit takes long, other threads leave one out at a time: this one stays free for the
   * next sentence.
   */
  private async leaveOutOn(pool: ReplicatePool, most: number, signal: AbortSignal): Promise<void> {
    const { key } = this;
    const { resampling } = this.prepared;
    const { units } = resamplerOf(resampling);
    const blocks: ReplicateBlock[] = [];
    for (let from = 0; from < units && !signal.aborted; from += most)
      blocks.push(
        ...(await pool.jackknife(key, resampling, from, Math.min(most, units - from), signal)),
      );
    if (!signal.aborted) this.leftOut = joined(blocks);
  }

  private resamples(): Resamples | null {
    return this.blocks.length > 0 ? { replicates: this.blocks, jackknife: this.jackknife() } : null;
  }

  private jackknife(): ReplicateBlock {
    this.leftOut ??= resamplerOf(this.prepared.resampling).jackknife();
    return this.leftOut;
  }
}

/** Blocks that follow each other as one. */
function joined(blocks: readonly ReplicateBlock[]): ReplicateBlock {
  const [{ first, size }] = blocks as [ReplicateBlock, ...ReplicateBlock[]];
  const count = blocks.reduce((sum, block) => sum + block.count, 0);
  const values = new Float64Array(count * size);
  for (const block of blocks) values.set(block.values, (block.first - first) * size);
  return { first, count, size, values, errors: null };
}

/** Names runs apart where several share a pool. */
let started = 0;
