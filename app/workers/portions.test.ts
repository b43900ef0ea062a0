import { describe, expect, test } from "vitest";
import type { MakerRequest, ReplicateBlock } from "../../core";
import { inPortions } from "./portions";

/** Replicate i is (i, 10 i), with an error of i / 2; a clock that each replicate moves on. */
function maker(msEach: number, errors = true) {
  let time = 0;
  const counts: number[] = [];
  const answer = (request: MakerRequest): ReplicateBlock | null => {
    if (request.kind === "prepare") return null;
    const { first, count } = request;
    time += count * msEach;
    counts.push(count);
    return {
      first,
      count,
      size: 2,
      values: Float64Array.from({ length: 2 * count }, (_, j) =>
        j % 2 === 0 ? first + (j >> 1) : 10 * (first + (j >> 1)),
      ),
      errors: errors ? Float64Array.from({ length: count }, (_, j) => (first + j) / 2) : null,
    };
  };
  return { answer, counts, now: () => time };
}

const REQUEST: MakerRequest = { kind: "replicates", key: "k", first: 7, count: 100 };

describe("replicates in portions", () => {
  test.each([0, 0.2, 9, 200])("are those of one go, at %d ms each", async (msEach) => {
    const { answer, counts, now } = maker(msEach);
    const whole = maker(0).answer(REQUEST);
    expect(await inPortions(REQUEST, answer, new AbortController().signal, now)).toEqual(whole);
    // No portion but the first guess takes much longer than 30 ms, unless one replicate does.
    expect(Math.max(...counts) * msEach).toBeLessThanOrEqual(Math.max(60, msEach));
  });

  test("have errors where all have, and nothing is made of a problem that is only named", async () => {
    const { answer, now } = maker(1, false);
    const signal = new AbortController().signal;
    expect((await inPortions(REQUEST, answer, signal, now))?.errors).toBeNull();
    expect(
      await inPortions({ kind: "prepare", key: "k", problem: {} as never }, answer, signal, now),
    ).toBeNull();
  });

  test("end when nobody waits for them", async () => {
    const control = new AbortController();
    const { answer, counts, now } = maker(50);
    const making = inPortions(
      REQUEST,
      (request) => {
        if (counts.length === 3) control.abort();
        return answer(request);
      },
      control.signal,
      now,
    );
    await expect(making).rejects.toThrow();
    expect(counts.length).toBe(4);
  });
});
