import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../test-kit";
import { methodRows } from "./method-rows";

const n = 60;
const x = normals(n, 1);
const m = normals(n, 2).map((e, i) => e + 2 * x[i]!);
const y = normals(n, 3).map((e, i) => e + 2 * m[i]!);

describe("every interval method of one effect", () => {
  const evidence = analyseMade({
    columns: { x, m, y },
    theory: "H1: x affects y through m",
    settings: { replications: 200, interval: "bca", errors: "HC3" },
  });
  const indirect = evidence.effects.find((e) => e.twoPath !== null)!;
  const rows = methodRows(indirect, evidence);
  const named = (start: string) => rows.find((row) => row.method.startsWith(start))!;

  it("tells no p below what so many samples can tell", () => {
    // All resamples lie above zero, so two-sided p is 2 / (B + 1) at the least: 2 / 201 here.
    for (const method of ["percentile", "basic"])
      expect(named(method)).toMatchObject({ p: 2 / 201, pIsBound: true });
    for (const method of ["BCa", "bias-corrected"])
      expect(named(method).p).toBeGreaterThanOrEqual(2 / 201);
  });

  it("has the delta method by the study's errors last, and only where there is a product", () => {
    expect(rows.at(-1)).toMatchObject({
      method: "delta method (z), HC3",
      lower: indirect.delta.joint.HC3!.lower,
      mcse: null,
    });
    const step = evidence.effects.find((e) => e.twoPath === null)!;
    const alone = methodRows(step, { ...evidence, withheldIntervals: { basic: "why" } });
    expect(alone.some((row) => row.method.startsWith("delta"))).toBe(false);
    expect(alone.filter((row) => !row.offered).map((row) => row.method)).toEqual([
      "basic bootstrap",
    ]);
  });
});
