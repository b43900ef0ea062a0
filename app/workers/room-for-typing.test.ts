import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { RoomForTyping } from "./room-for-typing";

beforeEach(() => void vi.useFakeTimers({ now: 50_000 }));
afterEach(() => void vi.useRealTimers());

describe("room for typing", () => {
  const room = (): RoomForTyping => new RoomForTyping(() => Date.now());

  it("is not made where nobody types, or no longer", async () => {
    const made = room();
    expect(await made.free(1)).toBe(1);
    made.typed();
    vi.advanceTimersByTime(200);
    expect(await made.free(3)).toBe(3);
  });

  it("is one thread less while somebody types", async () => {
    const made = room();
    made.typed();
    vi.advanceTimersByTime(199);
    expect(await made.free(3)).toBe(2);
    expect(await made.free(2)).toBe(1);
  });

  it("lets an only thread wait until the hand rests", async () => {
    const made = room();
    const done = vi.fn();
    made.typed();
    void made.free(1).then(done);
    for (let i = 0; i < 9; i++) {
      await vi.advanceTimersByTimeAsync(150);
      made.typed();
    }
    await vi.advanceTimersByTimeAsync(199);
    expect(done).not.toHaveBeenCalled();
    await vi.advanceTimersByTimeAsync(1);
    expect(done).toHaveBeenCalledWith(1);
  });

  it("lets nobody wait longer than ten seconds", async () => {
    const made = room();
    const done = vi.fn();
    made.typed();
    void made.free(1).then(done);
    for (let t = 0; t < 9_900; t += 100) {
      await vi.advanceTimersByTimeAsync(100);
      made.typed();
    }
    expect(done).not.toHaveBeenCalled();
    await vi.advanceTimersByTimeAsync(100);
    expect(done).toHaveBeenCalledWith(1);
  });
});
