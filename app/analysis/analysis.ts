import { packTable, type Complaint, type Evidence, type StudyDefinition, type Table } from "../../core";
import type { PlainProblem } from "../workers/engine.worker";
import { engine, makeReplicates, prepareReplicates } from "../workers/pool";

/** What the screens see of a running analysis. */
export interface AnalysisState {
  evidence: Evidence | null;
  problem: PlainProblem | null;
  complaints: Complaint[];
  status: "estimating" | "resampling" | "stopped" | "done";
  done: number;
  requested: number;
  secondsLeft: number | null;
}

/** The first intervals appear after so many replicates; batches then grow. */
const FIRST_BATCH = 400;
const BATCH_GROWTH = 1.8;
const MAX_BATCH = 5_000;
/** Evidence is put together anew when there are so many times as many replicates as the last time. */
const ASSEMBLE_GROWTH = 1.7;
/** The bootstrap waits until nothing has been typed for this long. */
const QUIET_MS = 250;

const START: AnalysisState = {
  evidence: null,
  problem: null,
  complaints: [],
  status: "estimating",
  done: 0,
  requested: 0,
  secondsLeft: null,
};

/**
 * Keeps the evidence of one study up to date: estimates at once, then resamples in growing batches that any newer
 * theory cancels. A plain store: `subscribe` and `snapshot` suit useSyncExternalStore.
 */
export class Analysis {
  private state = START;
  private readonly listeners = new Set<() => void>();
  private token = 0;
  private stopping = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private latest: { definition: StudyDefinition; key: string; table: Table } | null = null;
  private busy = false;
  private seen = "";

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly snapshot = (): AnalysisState => this.state;

  /** Takes over a new state of the study; work on older ones is dropped. */
  update(definition: StudyDefinition, key: string, table: Table): void {
    // Words about the study, its log and what is only screened change no estimate.
    const now = JSON.stringify([key, { ...definition, question: "", log: [], screening: [] }]);
    if (now === this.seen) return;
    this.seen = now;
    this.token += 1;
    this.stopping = false;
    this.latest = { definition, key, table };
    clearTimeout(this.timer);
    if (!this.busy) void this.estimate();
  }

  /** Stops resampling; what is done is kept and labelled. */
  stop(): void {
    this.stopping = true;
  }

  /** Goes on after a stop. */
  resume(): void {
    this.stopping = false;
    if (this.state.status === "stopped") void this.resample(this.token, this.state.done, this.state.requested);
  }

  private publish(change: Partial<AnalysisState>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }

  private async estimate(): Promise<void> {
    this.busy = true;
    try {
      while (this.latest) {
        const { definition, key, table } = this.latest;
        this.latest = null;
        const token = this.token;
        if (!(await engine().hasTable(key))) await engine().setTable(key, packTable(table));
        const { evidence, problem, complaints, resampling } = await engine().estimate(definition, token);
        if (token !== this.token) continue;
        const requested = definition.settings.replications;
        this.publish({
          // While a sentence is being typed the last evidence stays in sight, marked by the problem beside it.
          evidence: evidence ?? (problem?.code === "nothing_to_estimate" ? null : this.state.evidence),
          problem,
          complaints,
          done: 0,
          requested,
          secondsLeft: null,
          status: resampling ? "resampling" : "done",
        });
        if (!resampling) continue;
        this.timer = setTimeout(() => {
          prepareReplicates(token, resampling)
            .then(() => this.resample(token, 0, requested))
            .catch((error: unknown) => this.fail(error));
        }, QUIET_MS);
      }
    } catch (error) {
      this.fail(error);
    } finally {
      this.busy = false;
    }
  }

  /** A fault of the program, not of the study: said instead of swallowed, and the study stays usable. */
  private fail(error: unknown): void {
    const message = `The analysis stopped unexpectedly (${error instanceof Error ? error.message : String(error)}). Your study is safe; change a sentence or reload to try again.`;
    this.publish({ problem: { code: "unexpected", message, place: {} }, status: "done", secondsLeft: null });
  }

  private async resample(token: number, from: number, requested: number): Promise<void> {
    if (token !== this.token) return;
    this.publish({ status: "resampling" });
    const started = performance.now();
    let size = FIRST_BATCH;
    let assembledAt = from;
    for (let done = from; done < requested;) {
      if (this.stopping) return this.pause(token, done > assembledAt);
      const count = Math.min(Math.round(size), requested - done);
      const blocks = await makeReplicates(token, done, count);
      if (!blocks || token !== this.token) return;
      done += count;
      size = Math.min(size * BATCH_GROWTH, MAX_BATCH);
      // Summarising costs as much as resampling, so it is done again only when there is enough that is new.
      const assemble = done === requested || this.stopping || done >= assembledAt * ASSEMBLE_GROWTH;
      const result = await engine().addReplicates(token, blocks, assemble);
      if (token !== this.token) return;
      if (result && "code" in result) return this.publish({ problem: result, status: "done" });
      const perReplicate = (performance.now() - started) / (done - from);
      const secondsLeft = Math.ceil(((requested - done) * perReplicate) / 1000);
      if (result) assembledAt = done;
      this.publish({ ...(result ? { evidence: result } : {}), done, secondsLeft });
    }
    this.publish({ status: "done", secondsLeft: null });
  }

  /** Ends a stopped run with the evidence of all that was made. */
  private async pause(token: number, assemble: boolean): Promise<void> {
    const result = assemble ? await engine().addReplicates(token, [], true) : null;
    if (token !== this.token) return;
    this.publish({ ...(result && !("code" in result) ? { evidence: result } : {}), status: "stopped", secondsLeft: null });
  }
}
