import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { newDefinition } from "../../core";

const notes = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (k: string) => notes.get(k) ?? null,
  setItem: (k: string, v: string) => notes.set(k, v),
  removeItem: (k: string) => notes.delete(k),
});
const { Writer } = await import("./writer");
const { noteThrough } = await import("../storage/through");
type Request = import("./writer").WriteRequest;
type StudyOutcome = import("../actions/study-action").StudyOutcome;

const start = { ...newDefinition("Study", []), theory: "H1: x raises y" };
let sent: Request[] = [];
/** How the next writes end; nobody knows where nothing is said. */
let endings: (StudyOutcome | null)[] = [];
const writer = () =>
  new Writer("s", start, 1, async (request) => {
    sent.push(request);
    return endings.shift() ?? null;
  });

beforeEach(() => {
  sent = [];
  endings = [];
  notes.clear();
  vi.useFakeTimers();
});
afterEach(() => void vi.useRealTimers());

describe("writing a study down", () => {
  it("waits for a pause, and writes what came together with what it started from", async () => {
    const one = writer();
    one.edit({ theory: "H1: x raises" }, "theory", "");
    await vi.advanceTimersByTimeAsync(200);
    one.edit({ theory: "H1: x" }, "theory", "why");
    expect(JSON.parse(notes.get("hebel-pending s")!)).toEqual({
      patch: { theory: "H1: x" },
      base: { theory: start.theory },
    });
    await vi.advanceTimersByTimeAsync(299);
    expect(sent).toEqual([]);
    await vi.advanceTimersByTimeAsync(1);
    expect(sent).toMatchObject([
      {
        intent: "change",
        patch: { theory: "H1: x" },
        kind: "theory",
        why: "why",
        base: { theory: start.theory },
      },
    ]);
  });

  it("notes with what is typed what is still being written", async () => {
    let through: () => void = () => undefined;
    const one = new Writer(
      "s",
      start,
      1,
      () => new Promise<null>((resolve) => (through = () => resolve(null))),
    );
    const noted = () => JSON.parse(notes.get("hebel-pending s")!) as unknown;
    const first = { patch: { theory: "a" }, base: { theory: start.theory } };
    one.edit({ theory: "a" }, "theory", "");
    await vi.advanceTimersByTimeAsync(300);
    one.edit({ theory: "ab" }, "theory", "");
    expect(noted()).toEqual({ patch: { theory: "ab" }, base: { theory: "a" }, earlier: [first] });
    through();
    await vi.advanceTimersByTimeAsync(100);
    one.edit({ theory: "abc" }, "theory", "");
    expect(noted()).toEqual({ patch: { theory: "abc" }, base: { theory: "a" } });
  });

  it("writes at the latest after 0.7 s when nobody pauses", async () => {
    const one = writer();
    for (let i = 0; i < 30; i++) {
      one.edit({ theory: "x".repeat(i) }, "theory", "");
      await vi.advanceTimersByTimeAsync(100);
    }
    expect(sent.length).toBeGreaterThanOrEqual(4);
    expect(sent[1]!.base).toEqual(sent[0]!.patch);
  });

  it("writes one kind before another begins", () => {
    const one = writer();
    one.edit({ theory: "a" }, "theory", "");
    one.edit({ title: "b" }, "title", "");
    expect(sent.map((r) => r.kind)).toEqual(["theory"]);
  });

  it("says what could not be written and takes it along with the next attempt", async () => {
    const one = writer();
    endings = [
      { ok: false, message: "full" },
      { ok: true, lost: null },
    ];
    one.edit({ theory: "typed" }, "theory", "");
    await one.flush();
    expect(one.snapshot().problem).toBe("full");
    one.edit({ title: "more" }, "title", "");
    await one.flush();
    expect(sent[1]!.patch).toEqual({ theory: "typed", title: "more" });
    // With what it started from: the store has nothing of it yet.
    expect(sent[1]!.base).toEqual({ theory: start.theory, title: start.title });
    expect(one.snapshot().problem).toBeNull();
    one.retry();
    expect(sent[2]!.patch).toEqual({});
  });

  it("is tried again with what it started from", async () => {
    const one = writer();
    endings = [
      { ok: false, message: "full" },
      { ok: false, message: "still full" },
    ];
    one.edit({ theory: "typed" }, "theory", "");
    await one.flush();
    one.retry();
    expect(sent[1]).toMatchObject({ patch: { theory: "typed" }, base: { theory: start.theory } });
    await vi.advanceTimersByTimeAsync(0);
    one.edit({ theory: "typed more" }, "theory", "");
    await one.flush();
    expect(sent[2]!.base).toEqual({ theory: start.theory });
  });

  it("takes along what failed while the next change was waiting or on its way", async () => {
    const ends: ((outcome: StudyOutcome) => void)[] = [];
    const one = new Writer("s", start, 1, (request) => {
      sent.push(request);
      return new Promise((resolve) => ends.push(resolve));
    });
    const failure = { ok: false, message: "full" } as const;
    one.edit({ theory: "a", unit: "choir" }, "theory", "");
    void one.flush();
    one.edit({ title: "b" }, "title", "");
    void one.flush();
    one.edit({ theory: "ab" }, "theory", "");
    ends[0]!(failure);
    await vi.advanceTimersByTimeAsync(0);
    ends[1]!({ ok: true, lost: null });
    await vi.advanceTimersByTimeAsync(0);
    // The title is through, the first change is not.
    expect(one.snapshot().problem).toBe("full");
    void one.flush();
    expect(sent[2]!.patch).toEqual({ theory: "ab", unit: "choir" });
    expect(sent[2]!.base).toEqual({ theory: start.theory, unit: start.unit });
    ends[2]!({ ok: true, lost: null });
    await vi.advanceTimersByTimeAsync(0);
    expect(one.snapshot().problem).toBeNull();
    one.retry();
    expect(sent[3]!.patch).toEqual({});
  });

  it("does not write again what failed once it has been typed over", async () => {
    const ends: ((outcome: StudyOutcome) => void)[] = [];
    const one = new Writer("s", start, 1, (request) => {
      sent.push(request);
      return new Promise((resolve) => ends.push(resolve));
    });
    one.edit({ theory: "a" }, "theory", "");
    void one.flush();
    one.edit({ theory: "ab" }, "theory", "");
    void one.flush();
    ends[1]!({ ok: true, lost: null });
    await vi.advanceTimersByTimeAsync(0);
    ends[0]!({ ok: false, message: "full" });
    await vi.advanceTimersByTimeAsync(0);
    expect(one.snapshot().problem).toBeNull();
    one.retry();
    expect(sent[2]!.patch).toEqual({});
  });

  it("keeps what is being typed when another tab's study arrives", () => {
    const one = writer();
    one.edit({ theory: "mine" }, "theory", "");
    const theirs = { ...start, title: "Theirs", theory: "theirs" };
    const shown = one.over(theirs, 2);
    one.seen(shown, 2);
    expect(shown).toMatchObject({ title: "Theirs", theory: "mine" });
    void one.flush();
    expect(sent[0]!.base).toEqual({ theory: start.theory });
  });

  it("starts from another tab's study only when the screen shows it", () => {
    const one = writer();
    const theirs = { ...start, theory: "theirs" };
    const shown = one.over(theirs, 2);
    one.edit({ theory: "mine" }, "theory", "");
    void one.flush();
    // The screen shows what was typed over the state before.
    one.seen(shown, 2);
    one.edit({ theory: "mine and more" }, "theory", "");
    void one.flush();
    for (const { serial } of sent) noteThrough(serial, 3);
    one.seen(one.over(theirs, 3), 3);
    one.edit({ theory: "theirs and mine" }, "theory", "");
    void one.flush();
    expect(sent.map((r) => r.base.theory)).toEqual([start.theory, "mine", "theirs"]);
    expect(sent.map((r) => r.seen)).toEqual([1, 2, 3]);
  });

  it("keeps on the screen what a state read from the store does not hold yet", async () => {
    const ends: ((outcome: StudyOutcome) => void)[] = [];
    const one = new Writer("s", start, 1, (request) => {
      sent.push(request);
      return new Promise((resolve) => ends.push(resolve));
    });
    one.edit({ theory: "first" }, "theory", "");
    void one.flush();
    one.edit({ theory: "first and second" }, "theory", "");
    void one.flush();
    one.edit({ title: "Third" }, "title", "");
    // The first stands in revision 2, with what another tab had written.
    noteThrough(sent[0]!.serial, 2);
    const stored = { ...start, theory: "first", question: "Theirs?" };
    expect(one.over(stored, 2)).toMatchObject({
      theory: "first and second",
      title: "Third",
      question: "Theirs?",
    });
    // Read before the first was through, and heard of after it.
    expect(one.over(start, 1).theory).toBe("first and second");
    // Where another tab's version was taken for the second, that one is shown.
    noteThrough(sent[1]!.serial, 3);
    expect(one.over({ ...start, theory: "theirs" }, 3).theory).toBe("theirs");
    for (const end of ends) end({ ok: true, lost: null });
    await vi.advanceTimersByTimeAsync(0);
    expect(one.over({ ...start, theory: "undone" }, 4).theory).toBe("undone");
  });

  it("does not take for theirs what was sent between drawing and seeing", () => {
    const one = writer();
    one.edit({ theory: "mine" }, "theory", "");
    const shown = one.over({ ...start, theory: "theirs" }, 2);
    void one.flush();
    one.seen(shown, 2);
    one.edit({ theory: "mine and more" }, "theory", "");
    void one.flush();
    expect(sent[1]!.base).toEqual({ theory: "mine" });
  });

  it("keeps what failed where another tab's state was shown meanwhile", async () => {
    let end: (outcome: StudyOutcome) => void = () => undefined;
    const one = new Writer("s", start, 1, (request) => {
      sent.push(request);
      return new Promise((resolve) => (end = resolve));
    });
    one.edit({ theory: "mine" }, "theory", "");
    void one.flush();
    one.seen(one.over({ ...start, title: "Theirs" }, 2), 2);
    end({ ok: false, message: "full" });
    await vi.advanceTimersByTimeAsync(0);
    expect(one.snapshot().problem).toBe("full");
    one.retry();
    expect(sent[1]!.patch).toEqual({ theory: "mine" });
  });

  it("tells of a version that another tab's has replaced, until it is dismissed", async () => {
    const one = writer();
    const heard = vi.fn();
    one.subscribe(heard);
    endings = [
      { ok: true, lost: { theory: "mine" } },
      { ok: true, lost: null },
    ];
    one.edit({ theory: "mine" }, "theory", "");
    await one.flush();
    one.edit({ title: "more" }, "title", "");
    await one.flush();
    expect(one.snapshot().lost).toEqual({ theory: "mine" });
    one.dismiss();
    expect(one.snapshot().lost).toBeNull();
    expect(heard).toHaveBeenCalledTimes(3);
  });
});
