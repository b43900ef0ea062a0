import {
  Analysis,
  StudyProblem,
  type Complaint,
  type LeftOut,
  type Dataset,
  type Evidence,
  type ReplicateBlock,
  type ReplicatePool,
  type StudyDefinition,
  type Table,
} from "../../core";
import {
  evidenceKey,
  findEvidence,
  findReplicates,
  keepEvidence,
  keepReplicates,
  replicatesKey,
  type ResultKey,
} from "../storage/results";
import { plainProblem, type PlainProblem } from "./attempt";

/** What the page is told while an analysis runs. */
export interface Update {
  /** Absent where nothing new was put together; null where there is none. */
  evidence?: Evidence | null;
  problem?: PlainProblem | null;
  leftOut?: readonly LeftOut[];
  complaints?: readonly Complaint[];
  /** `trying`: fewer were wanted for now. */
  status: "resampling" | "stopped" | "trying" | "done";
  done: number;
  requested: number;
  secondsLeft: number | null;
}

/** A study as it stands, with the dataset that was made of it. */
export interface Followed {
  definition: StudyDefinition;
  dataKey: string;
  table: Table;
  dataset: Dataset;
}

/** The bootstrap waits until nothing has been typed for this long. */
const QUIET_MS = 250;
/** A long run is written down this often, so that a closed tab loses little. */
const KEEP_EVERY_MS = 5_000;

/**
 * Follows a study: estimates at once, then resamples on a pool, which any newer state of the study
 * cancels. Results are kept: what has been found once is told again at once, and a stopped or
 * interrupted run goes on where it was.
 */
export class LiveAnalysis {
  /** The analysis that the screens look at, for what they ask besides. */
  latest: { key: string; analysis: Analysis } | null = null;
  private control = new AbortController();
  private writing: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly pool: ReplicatePool,
    private readonly quietMs = QUIET_MS,
  ) {}

  /** Resolves when everything that was to be kept is written. */
  readonly settled = (): Promise<unknown> => this.writing;

  /** Ends the resampling; what is made is kept. */
  stop(): void {
    this.control.abort("stopped");
  }

  /**
   * @param goOn also where somebody stopped the run before, and as many as the study asks for
   * @param most resamples that are wanted for now
   * @returns when all is told, or newer work has taken over
   */
  async follow(
    followed: Followed,
    { goOn, most = Infinity }: { goOn: boolean; most?: number },
    tell: (update: Update) => void,
  ): Promise<void> {
    this.control.abort("superseded");
    const control = new AbortController();
    this.control = control;
    const superseded = (): boolean => control.signal.reason === "superseded";
    const { definition, dataKey, table, dataset } = followed;
    const key = evidenceKey(definition, dataKey);
    const known = this.settled()
      .then(() => findEvidence(key))
      .catch(() => null);
    const { leftOut, complaints } = dataset.theory;
    const nothing = {
      leftOut,
      complaints,
      done: 0,
      requested: 0,
      secondsLeft: null,
      status: "done" as const,
    };
    let analysis: Analysis;
    try {
      analysis = Analysis.of(definition, table, { tolerant: true, dataset });
    } catch (error) {
      if (!(error instanceof StudyProblem)) throw error;
      // While a sentence is being typed the last evidence stays in sight, marked by the problem
      // beside it.
      const evidence = error.code === "nothing_to_estimate" ? { evidence: null } : {};
      return tell({ ...nothing, ...evidence, problem: plainProblem(error) });
    }
    this.latest = { key: key.text, analysis };
    const { requested } = analysis;
    const said = { leftOut, complaints, problem: null, requested, secondsLeft: null };
    const found = await known;
    if (superseded()) return;
    if (found) return tell({ ...said, evidence: found, done: requested, status: "done" });
    const estimates = analysis.evidence();
    if (requested === 0) {
      tell({ ...said, evidence: estimates, done: 0, status: "done" });
      return this.keep(key, followed, estimates);
    }
    tell({ ...said, evidence: estimates, done: 0, status: "resampling" });
    const until = goOn ? requested : Math.min(requested, most);
    await this.resample(analysis, key, followed, { goOn, until, control, tell });
  }

  /** Evidence of a theory that waits for being mended is not kept: it is on its way to another. */
  private keep(key: ResultKey, { dataKey, dataset }: Followed, evidence: Evidence): void {
    if (dataset.theory.complaints.length === 0)
      this.write(() => keepEvidence(key, dataKey, evidence));
  }

  /**
   * Writes one thing after another; a full or forbidden store costs the convenience, not the
   * analysis.
   */
  private write(task: () => Promise<void>): void {
    this.writing = this.writing.then(task).catch(() => undefined);
  }

  private async resample(
    analysis: Analysis,
    key: ResultKey,
    followed: Followed,
    {
      goOn,
      until,
      control,
      tell,
    }: {
      goOn: boolean;
      until: number;
      control: AbortController;
      tell: (update: Update) => void;
    },
  ): Promise<void> {
    const { requested } = analysis;
    const { dataKey } = followed;
    const { signal } = control;
    const superseded = (): boolean => signal.reason === "superseded";
    const store = replicatesKey(analysis.prepared, dataKey);
    const kept = await findReplicates(store).catch(() => null);
    if (superseded()) return;
    if (kept) {
      analysis.add(firstOf(kept.blocks, requested));
      const { done } = analysis;
      const stays = done < requested && kept.stopped && !goOn;
      const enough = done >= until;
      const status =
        done === requested ? "done" : stays ? "stopped" : enough ? "trying" : "resampling";
      const evidence = analysis.evidence();
      tell({ evidence, status, done, requested, secondsLeft: null });
      if (done === requested) return this.keep(key, followed, evidence);
      if (stays || enough) return;
    } else await pause(this.quietMs, signal);
    if (superseded()) return;
    const from = analysis.done;
    const started = performance.now();
    let keptAt = started;
    for await (const { done, evidence } of analysis.resample(this.pool, signal, until)) {
      if (superseded()) return;
      const perReplicate = (performance.now() - started) / (done - from);
      const last = done === until || signal.aborted;
      const status = !last
        ? "resampling"
        : done === requested
          ? "done"
          : signal.aborted
            ? "stopped"
            : "trying";
      const secondsLeft = last ? null : Math.ceil(((until - done) * perReplicate) / 1000);
      tell({ ...(evidence ? { evidence } : {}), status, done, requested, secondsLeft });
      if (last || performance.now() - keptAt > KEEP_EVERY_MS) {
        keptAt = performance.now();
        const kept = { blocks: [...analysis.made], stopped: status === "stopped" };
        this.write(() => keepReplicates(store, dataKey, kept));
      }
      if (done === requested && evidence) this.keep(key, followed, evidence);
    }
  }
}

/** The first so many replicates of blocks that come in order. */
function firstOf(blocks: readonly ReplicateBlock[], count: number): ReplicateBlock[] {
  return blocks.flatMap((block) => {
    const wanted = Math.min(block.count, count - block.first);
    if (wanted <= 0) return [];
    if (wanted === block.count) return [block];
    const { first, size, values, errors } = block;
    const perReplicate = errors ? errors.length / block.count : 0;
    return [
      {
        first,
        count: wanted,
        size,
        values: values.slice(0, wanted * size),
        errors: errors && errors.slice(0, wanted * perReplicate),
      },
    ];
  });
}

const pause = (ms: number, signal: AbortSignal): Promise<void> =>
  new Promise((resolve) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener("abort", () => {
      clearTimeout(timer);
      resolve();
    });
  });
