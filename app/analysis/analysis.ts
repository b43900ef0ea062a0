import { proxy } from "comlink";
import {
  packTable,
  type Complaint,
  type Evidence,
  type LeftOut,
  type StudyDefinition,
  type Table,
} from "../../core";
import { evidenceKey, findEvidence } from "../storage/results";
import type { PlainProblem } from "../workers/attempt";
import { engine, onEngineLost } from "../workers/engine";
import type { Update } from "../workers/live-analysis";
import { fewerWhileTrying, SAMPLES_WHILE_TRYING } from "./trying";
import { onTyped, Quiet } from "./quiet";

/** What the screens see of a running analysis. */
export interface AnalysisState {
  evidence: Evidence | null;
  /**
   * The evidence is that of the study as it was before: of an earlier theory, of other data or
   * settings.
   */
  before: boolean;
  problem: PlainProblem | null;
  /** Lines of the theory, or names in them, that could not be read and take part in nothing. */
  leftOut: readonly LeftOut[];
  /** Everything that is wrong with the text, labels given twice among it. */
  complaints: readonly Complaint[];
  /** `trying`: fewer samples than the study asks for were wanted for now. */
  status: "estimating" | "resampling" | "stopped" | "trying" | "done";
  done: number;
  requested: number;
  secondsLeft: number | null;
}

const START: AnalysisState = {
  evidence: null,
  before: false,
  problem: null,
  leftOut: [],
  complaints: [],
  status: "estimating",
  done: 0,
  requested: 0,
  secondsLeft: null,
};

interface Followed {
  definition: StudyDefinition;
  key: string;
  table: Table;
}

/** What comes sooner is simply there; before that nothing on the screen moves. */
const SOON_MS = 150;

/** So often work is given to a fresh worker when one has died. */
const MOST_RESTARTS = 2;

/**
 * What the screens know of one study: hands every new state of it to the engine worker and
 * publishes what that tells. The first state is looked up among the kept results, so that a study
 * opened again shows its evidence before any worker has started. A plain store: `subscribe` and
 * `snapshot` suit useSyncExternalStore.
 */
export class Analysis {
  private state = START;
  private readonly listeners = new Set<() => void>();
  private token = 0;
  private followed: Followed | null = null;
  private seen = "";
  private restarts = 0;
  private opened = false;
  /** The last piece of work that something was told of. */
  private answered = 0;
  /** What was told while somebody types, and is still to be drawn. */
  private held: Partial<Update> = {};

  constructor(private readonly quiet = new Quiet()) {}

  /**
   * @param known kept evidence of the study as it stands: then nothing is looked up or made until
   *   it changes
   */
  static of(
    known: { evidence: Evidence; definition: StudyDefinition; key: string } | null,
  ): Analysis {
    const analysis = new Analysis();
    if (!known) return analysis;
    analysis.state = { ...START, ...knownState(known.evidence) };
    analysis.seen = stateOf(known.definition, known.key);
    return analysis;
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly snapshot = (): AnalysisState => this.state;

  /**
   * Watches for a worker that dies while it works for this study, and for keys that resampling
   * makes room for; returns how to end that.
   */
  readonly watch = (): (() => void) => {
    const ends = [onEngineLost(() => this.lost()), onTyped(() => this.typed())];
    return () => ends.forEach((end) => end());
  };

  /** Takes over a new state of the study; work on older ones is dropped. */
  update(definition: StudyDefinition, key: string, table: Table): void {
    const now = stateOf(definition, key);
    this.followed = { definition, key, table };
    if (now === this.seen) return;
    this.seen = now;
    this.restarts = 0;
    const token = (this.token += 1);
    setTimeout(() => this.wait(token), SOON_MS);
    void (this.opened ? this.follow(token, false) : this.open(token));
  }

  /** Stops resampling; what is done is kept and labelled. */
  readonly stop = (): void => {
    void engine().stop();
  };

  /** Goes on after a stop. */
  readonly resume = (): void => {
    if (this.state.status !== "stopped" && this.state.status !== "trying") return;
    this.publish({ status: "resampling" });
    void this.follow((this.token += 1), true);
  };

  /** Starts again after a fault. */
  readonly retry = (): void => {
    if (!this.followed) return;
    this.restarts = 0;
    this.publish({ problem: null, status: "estimating" });
    void this.follow((this.token += 1), false);
  };

  /** Says that what is on the screen is of before, where no answer has come. */
  private wait(token: number): void {
    if (token !== this.token || this.answered === token) return;
    this.publish({ before: this.state.evidence !== null, status: "estimating" });
  }

  private typed(): void {
    if (this.state.status === "resampling") void engine().typed();
  }

  private publish(change: Partial<AnalysisState>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }

  /** The first state of the study in this tab: what is known of it needs no worker. */
  private async open(token: number): Promise<void> {
    this.opened = true;
    const { definition, key } = this.followed!;
    const evidence = await findEvidence(evidenceKey(definition, key)).catch(() => null);
    if (token !== this.token) return;
    this.answered = evidence ? token : this.answered;
    if (evidence) this.publish({ ...knownState(evidence), problem: null });
    else await this.follow(token, false);
  }

  private async follow(token: number, goOn: boolean): Promise<void> {
    const { definition, key, table } = this.followed!;
    this.quiet.forget();
    this.held = {};
    const tell = (update: Update): void => {
      if (token !== this.token) return;
      if (this.answered === token) this.take(update);
      else this.answer(token, update);
    };
    try {
      if (!(await engine().hasTable(key))) await engine().setTable(key, packTable(table));
      if (token === this.token)
        await engine().follow(definition, { goOn, ...wantedForNow() }, proxy(tell));
    } catch (error) {
      if (token === this.token) this.fail(error);
    }
  }

  /** The first answer on a state of the study: what is shown now is of it, unless it has none. */
  private answer(token: number, update: Update): void {
    this.answered = token;
    const none = update.problem && update.evidence === undefined;
    this.publish({ ...update, before: Boolean(none) && this.state.evidence !== null });
  }

  /**
   * What comes after the first answer: progress is published at once, what resampling adds to the
   * estimates when nobody types.
   */
  private take(update: Update): void {
    const { done, requested, secondsLeft } = update;
    if (!update.evidence?.bootstrap && !this.held.evidence) return this.publish(update);
    this.held = { ...this.held, ...update };
    this.quiet.do(() => {
      const { held } = this;
      this.held = {};
      this.publish(held);
    });
    if (this.held.evidence) this.publish({ done, requested, secondsLeft });
  }

  /** Gives the work to a fresh worker; what was written down of it is not made again. */
  private lost(): void {
    if (!this.followed || this.state.status === "done") return;
    if (this.restarts === MOST_RESTARTS)
      return this.fail(new Error("the worker that estimates has ended"));
    this.restarts += 1;
    void this.follow((this.token += 1), false);
  }

  /**
   * A fault of the program, not of the study: said instead of swallowed, and the study stays
   * usable.
   */
  private fail(error: unknown): void {
    const message = `The analysis stopped unexpectedly (${error instanceof Error ? error.message : String(error)}). Your study is safe; change a sentence or reload to try again.`;
    this.publish({
      problem: { code: "unexpected", message, place: {} },
      status: "done",
      secondsLeft: null,
    });
  }
}

/** As many resamples as are wanted while something is tried. */
const wantedForNow = (): { most?: number } =>
  fewerWhileTrying() ? { most: SAMPLES_WHILE_TRYING } : {};

/** What an analysis depends on is what its evidence is kept by. */
const stateOf = (definition: StudyDefinition, key: string): string =>
  evidenceKey(definition, key).text;

/** The state that kept evidence stands for. */
const knownState = (evidence: Evidence): Partial<AnalysisState> => ({
  evidence,
  before: false,
  leftOut: [],
  complaints: [],
  status: "done",
  done: evidence.bootstrap?.done ?? 0,
  requested: evidence.bootstrap?.requested ?? 0,
});
