import type { StudyDefinition } from "../../core";
import type { StudyOutcome } from "../actions/study-action";
import { notePending, type Change } from "../storage/pending";
import { forgetThrough, isThrough, nextSerial } from "../storage/through";

type Patch = Partial<StudyDefinition>;

/** Typing is written to storage after this pause; the estimates do not wait for it. */
const WRITE_AFTER_MS = 300;
/** Somebody who never pauses is written down this often all the same. */
const WRITE_AT_LATEST_MS = 700;

/** A change on its way to the store. */
export interface WriteRequest {
  intent: "change";
  patch: Patch;
  kind: string;
  why: string;
  base: Patch;
  /** Which change of this tab it is. */
  serial: number;
  /** The revision that this tab's screen has shown last, or started from. */
  seen: number;
}

/** A change that has been sent and is not through yet. */
interface Sent extends Change {
  serial: number;
}

interface Waiting extends Omit<WriteRequest, "intent" | "serial" | "seen"> {
  since: number;
  timer: ReturnType<typeof setTimeout>;
}

/** What the screens are told of writing. */
export interface WritingState {
  /** Why what is on the screen is not stored; null where it is. */
  problem: string | null;
  /** This tab's version of what another tab has changed at the same moment; the other's stands. */
  lost: Patch | null;
}

/**
 * Writes a study down as it is edited: changes of one kind in quick succession together, each with
 * what it started from, so that another tab's changes are never overwritten unseen. What could not
 * be written goes along with the next attempt. A plain store: `subscribe` and `snapshot` suit
 * useSyncExternalStore.
 */
export class Writer {
  private state: WritingState = { problem: null, lost: null };
  private readonly listeners = new Set<() => void>();
  private waiting: Waiting | null = null;
  private unwritten: Patch = {};
  /** What each part that could not be written started from: it starts from there still. */
  private unwrittenBase: Patch = {};
  /** Changes that have been sent and are not through yet, the oldest first. */
  private onTheirWay: Sent[] = [];
  /**
   * In which change each part of the study was sent last: an older one that fails does not come
   * back over it.
   */
  private readonly lastSent = new Map<string, Sent>();
  /**
   * What has been sent since the screen was last given a state: it is on the screen, but not in
   * that state.
   */
  private sentSince: Patch = {};

  /**
   * @param known the study as this tab last wrote or saw it; @param shown its revision
   * @param send hands a change to the store, and resolves with how that ended when it is through;
   *   null where nobody knows
   */
  constructor(
    private readonly id: string,
    private known: StudyDefinition,
    private shown: number,
    private readonly send: (request: WriteRequest) => Promise<StudyOutcome | null>,
  ) {}

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly snapshot = (): WritingState => this.state;

  /** Takes a change; `why` goes into the log. */
  edit(patch: Patch, kind: string, why: string): void {
    if (this.waiting && this.waiting.kind !== kind) void this.flush();
    const before = this.waiting;
    if (before) clearTimeout(before.timer);
    const now = Date.now();
    const since = before?.since ?? now;
    const pause = Math.min(WRITE_AFTER_MS, Math.max(0, since + WRITE_AT_LATEST_MS - now));
    this.waiting = {
      patch: { ...this.unwritten, ...before?.patch, ...patch },
      base: { ...pickOf(this.known, patch), ...before?.base, ...this.unwrittenBase },
      kind,
      why,
      since,
      timer: setTimeout(() => void this.flush(), pause),
    };
    notePending(this.id, {
      patch: this.waiting.patch,
      base: this.waiting.base,
      ...(this.onTheirWay.length > 0 ? { earlier: this.onTheirWay.map(changeOf) } : {}),
    });
  }

  /** Writes what is waiting to be written. */
  readonly flush = async (): Promise<void> => {
    const { waiting } = this;
    if (!waiting) return;
    clearTimeout(waiting.timer);
    this.waiting = null;
    const { kind, why } = waiting;
    const base = { ...waiting.base, ...this.unwrittenBase };
    const patch = { ...this.unwritten, ...waiting.patch };
    this.known = { ...this.known, ...patch };
    this.sentSince = { ...this.sentSince, ...patch };
    const serial = nextSerial();
    const change: Sent = { patch, base, serial };
    this.onTheirWay = [...this.onTheirWay, change];
    for (const key of Object.keys(patch)) this.lastSent.set(key, change);
    try {
      const outcome = await this.send({
        intent: "change",
        patch,
        kind,
        why,
        base,
        serial,
        seen: this.shown,
      });
      if (outcome) this.settle(outcome, change);
    } finally {
      this.onTheirWay = this.onTheirWay.filter((other) => other !== change);
      forgetThrough(serial);
    }
  };

  /** What was sent before a failure was known did not take along what failed. */
  private settle(outcome: StudyOutcome, change: Sent): void {
    const { patch, base } = change;
    if (outcome.ok) {
      this.unwritten = without(this.unwritten, patch);
      this.unwrittenBase = without(this.unwrittenBase, patch);
      const through = Object.keys(this.unwritten).length === 0;
      const lost = outcome.lost ?? this.state.lost;
      this.publish({ lost, ...(through ? { problem: null } : {}) });
    } else {
      const failed = Object.entries(patch).filter(([key]) => this.lastSent.get(key) === change);
      this.unwritten = { ...this.unwritten, ...Object.fromEntries(failed) };
      this.unwrittenBase = { ...pickOf(base, this.unwritten), ...this.unwrittenBase };
      if (failed.length > 0 || Object.keys(patch).length === 0) this.failed(outcome.message);
    }
  }

  /** Something else could not be written: the reader is told where failed changes are told. */
  failed(message: string): void {
    this.publish({ problem: message });
  }

  /** Tries again to write what could not be written. */
  readonly retry = (): void => {
    this.edit({}, "retry", "");
    void this.flush();
  };

  /** The reader has seen what another tab's change cost. */
  readonly dismiss = (): void => this.publish({ lost: null });

  /**
   * The study as another tab, undo or new data have left it, for the screen.
   * @returns that, with what this tab has changed and that revision does not hold yet: what is on
   *   its way, and what still waits to be written
   */
  over(stored: StudyDefinition, revision: number): StudyDefinition {
    this.sentSince = {};
    const sent = this.onTheirWay.filter(({ serial }) => !isThrough(serial, revision));
    const ahead = [this.unwritten, ...sent.map(({ patch }) => patch), this.waiting?.patch ?? {}];
    return ahead.reduce<StudyDefinition>((state, patch) => ({ ...state, ...patch }), stored);
  }

  /**
   * The screen shows this state now, as `over` gave it, and what was typed since: what is changed
   * from here on starts from it.
   */
  seen(shown: StudyDefinition, revision: number): void {
    this.shown = revision;
    this.known = { ...shown, ...this.sentSince };
  }

  private publish(change: Partial<WritingState>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }
}

/** A change as it is noted: what it was and what it started from. */
const changeOf = ({ patch, base }: Sent): Change => ({ patch, base });

/** The parts of a state that a patch changes. */
const pickOf = (state: Patch, keys: Patch): Patch =>
  Object.fromEntries(
    (Object.keys(keys) as (keyof StudyDefinition)[]).flatMap((key) =>
      key in state ? [[key, state[key]]] : [],
    ),
  );

/** A patch without the parts that another one has as well. */
const without = (patch: Patch, other: Patch): Patch =>
  Object.fromEntries(Object.entries(patch).filter(([key]) => !(key in other)));
