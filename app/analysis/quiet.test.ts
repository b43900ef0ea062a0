import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Quiet } from "./quiet";

let typedAt = -Infinity;
const quiet = (): Quiet =>
  new Quiet(
    () => typedAt,
    () => Date.now(),
  );

beforeEach(() => {
  vi.useFakeTimers({ now: 50_000 });
  typedAt = -Infinity;
});
afterEach(() => vi.useRealTimers());

/** Types a letter every 100 ms for so long. */
function type(ms: number): void {
  for (let t = 0; t < ms; t += 100) {
    typedAt = Date.now();
    vi.advanceTimersByTime(100);
  }
}

describe("what waits for a hand at rest", () => {
  it("is done at once where nobody types", () => {
    const task = vi.fn();
    quiet().do(task);
    expect(task).toHaveBeenCalledOnce();
    typedAt = Date.now() - 200;
    quiet().do(task);
    expect(task).toHaveBeenCalledTimes(2);
  });

  it("is done 200 ms after the last letter, once, and only the last of what was asked for", () => {
    const held = quiet();
    const [first, last] = [vi.fn(), vi.fn()];
    typedAt = Date.now();
    held.do(first);
    type(1500);
    held.do(last);
    vi.advanceTimersByTime(99);
    expect(last).not.toHaveBeenCalled();
    vi.advanceTimersByTime(1);
    expect(last).toHaveBeenCalledOnce();
    vi.advanceTimersByTime(5000);
    expect(last).toHaveBeenCalledOnce();
    expect(first).not.toHaveBeenCalled();
  });

  it("is done after ten seconds of typing without a pause, counted from the first that waited", () => {
    const held = quiet();
    const [first, last] = [vi.fn(), vi.fn()];
    typedAt = Date.now();
    held.do(first);
    type(6000);
    held.do(last);
    type(3900);
    expect(last).not.toHaveBeenCalled();
    type(200);
    expect(last).toHaveBeenCalledOnce();
    held.do(first);
    type(9800);
    expect(first).not.toHaveBeenCalled();
  });

  it("is not done when it is forgotten", () => {
    const held = quiet();
    const task = vi.fn();
    typedAt = Date.now();
    held.do(task);
    held.forget();
    vi.advanceTimersByTime(20_000);
    expect(task).not.toHaveBeenCalled();
  });
});
