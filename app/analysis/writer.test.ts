import { beforeEach, describe, expect, it, vi } from "vitest";
import { newDefinition } from "../../core";

const notes = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (k: string) => notes.get(k) ?? null,
  setItem: (k: string, v: string) => notes.set(k, v),
  removeItem: (k: string) => notes.delete(k),
});
const { Writer } = await import("./writer");
type Request = import("./writer").WriteRequest;

const start = { ...newDefinition("Study", []), theory: "H1: x raises y" };
let sent: Request[] = [];
const writer = () => new Writer("s", start, async (request) => void sent.push(request));

beforeEach(() => {
  sent = [];
  notes.clear();
  vi.useFakeTimers();
});

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
    expect(sent).toEqual([
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
      () => new Promise<void>((resolve) => (through = () => resolve())),
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
    one.edit({ theory: "typed" }, "theory", "");
    await one.flush();
    one.settle({ ok: false, message: "full", patch: { theory: "typed" } });
    expect(one.snapshot().problem).toBe("full");
    one.edit({ title: "more" }, "title", "");
    await one.flush();
    expect(sent[1]!.patch).toEqual({ theory: "typed", title: "more" });
    one.settle({ ok: true, lost: null });
    expect(one.snapshot().problem).toBeNull();
    one.retry();
    expect(sent[2]!.patch).toEqual({});
  });

  it("keeps what is being typed when another tab's study arrives", () => {
    const one = writer();
    one.edit({ theory: "mine" }, "theory", "");
    const theirs = { ...start, title: "Theirs", theory: "theirs" };
    const shown = one.over(theirs);
    one.seen(shown);
    expect(shown).toMatchObject({ title: "Theirs", theory: "mine" });
    void one.flush();
    expect(sent[0]!.base).toEqual({ theory: start.theory });
  });

  it("starts from another tab's study only when the screen shows it", () => {
    const one = writer();
    const theirs = { ...start, theory: "theirs" };
    const shown = one.over(theirs);
    one.edit({ theory: "mine" }, "theory", "");
    void one.flush();
    // The screen shows what was typed over the state before.
    one.seen(shown);
    one.edit({ theory: "mine and more" }, "theory", "");
    void one.flush();
    one.seen(one.over(theirs));
    one.edit({ theory: "theirs and mine" }, "theory", "");
    void one.flush();
    expect(sent.map((r) => r.base.theory)).toEqual([start.theory, "mine", "theirs"]);
  });

  it("does not take for theirs what was sent between drawing and seeing", () => {
    const one = writer();
    one.edit({ theory: "mine" }, "theory", "");
    const shown = one.over({ ...start, theory: "theirs" });
    void one.flush();
    one.seen(shown);
    one.edit({ theory: "mine and more" }, "theory", "");
    void one.flush();
    expect(sent[1]!.base).toEqual({ theory: "mine" });
  });

  it("tells of a version that another tab's has replaced, until it is dismissed", () => {
    const one = writer();
    const heard = vi.fn();
    one.subscribe(heard);
    one.settle({ ok: true, lost: { theory: "mine" } });
    one.settle({ ok: true, lost: null });
    expect(one.snapshot().lost).toEqual({ theory: "mine" });
    one.dismiss();
    expect(one.snapshot().lost).toBeNull();
    expect(heard).toHaveBeenCalledTimes(3);
  });
});
