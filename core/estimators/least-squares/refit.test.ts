import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DEFAULT_SETTINGS, newDefinition } from "../../study";
import { guessVariable, TableBuilder } from "../../data";
import { prepare } from "../../prepare";
import { Resampler } from "../../inference";
import { RandomStream } from "../../numerics/random";
import { Refitter } from "./refit";

/** x -> m -> y with a covariate far from zero, as raw rows. */
function rowsOf(n: number, seed: number, shift = 0): number[][] {
  return Array.from({ length: n }, (_, i) => {
    const r = new RandomStream(seed, i);
    const [x, age] = [r.normal() + shift, 1000 * r.normal() + shift];
    const m = 0.5 * x + 0.0003 * age + r.normal();
    return [x, age, m, 0.3 * x + 0.4 * m + r.normal()];
  });
}

function prepared(rows: number[][]) {
  const builder = new TableBuilder(["x", "age", "m", "y"]);
  for (const row of rows) builder.add(row.map(String));
  const table = builder.build();
  const variables = table.columns.map((c) => ({ ...guessVariable(c), level: "continuous" as const }));
  return prepare(
    {
      ...newDefinition("", variables),
      theory: "x raises y through m\nadjust m, y for age",
      settings: { ...DEFAULT_SETTINGS },
    },
    table,
  );
}

describe("refitting under counts", () => {
  it("equals a full fit of the repeated rows", () => {
    fc.assert(
      fc.property(fc.nat(500), fc.constantFrom(0, 1e6), (seed, shift) => {
        const rows = rowsOf(40, 3, shift);
        const counts = new Float64Array(40);
        new RandomStream(seed, 1).countDraws(counts, 40, 40);
        const p = prepared(rows);
        const out = new Float64Array(p.layout.size);
        expect(new Refitter(p.resampling.refit).refit(counts, out, 0)).toBe(true);
        const full = prepared(rows.flatMap((row, i) => new Array<number[]>(counts[i]!).fill(row)));
        full.theta.forEach((value, i) => {
          // An intercept far from the data is a difference of large numbers.
          const tolerance = p.layout.labels[i]!.includes("intercept") ? 1e-7 * Math.max(1, shift) : 1e-7;
          expect(Math.abs(out[i]! - value)).toBeLessThanOrEqual(tolerance * Math.max(1, Math.abs(value)));
        });
      }),
      { numRuns: 25 },
    );
  });

  it("a downdate equals a refit without the row", () => {
    const p = prepared(rowsOf(30, 8));
    const refitter = new Refitter(p.resampling.refit);
    const [a, b] = [new Float64Array(p.layout.size), new Float64Array(p.layout.size)];
    for (let i = 0; i < 30; i++) {
      refitter.refitWithout(i, a, 0);
      refitter.refit(
        Float64Array.from({ length: 30 }, (_, j) => (j === i ? 0 : 1)),
        b,
        0,
      );
      a.forEach((value, k) => expect(Math.abs(value - b[k]!)).toBeLessThan(1e-10 * Math.max(1, Math.abs(value))));
    }
  });

  it("reports a resample of one repeated row as failed", () => {
    const p = prepared(rowsOf(20, 2));
    const counts = new Float64Array(20);
    counts[4] = 20;
    expect(new Refitter(p.resampling.refit).refit(counts, new Float64Array(p.layout.size), 0)).toBe(false);
  });

  it("still solves a nearly collinear equation, by its rows", () => {
    const rows = rowsOf(60, 5).map(([x, , m, y]) => [x!, x! + 1e-5 * m!, m! ** 2, y!]);
    const p = prepared(rows);
    const out = new Float64Array(p.layout.size);
    expect(new Refitter(p.resampling.refit).refit(new Float64Array(60).fill(1), out, 0)).toBe(true);
    p.theta.forEach((value, i) => expect(Math.abs(out[i]! - value)).toBeLessThan(1e-5 * Math.max(1, Math.abs(value))));
  });
});

describe("replicates", () => {
  it("do not depend on how they are split", () => {
    const { resampling } = prepared(rowsOf(50, 4));
    const whole = new Resampler(resampling).replicates(0, 60).values;
    const parts = [new Resampler(resampling), new Resampler(resampling)].flatMap((r, i) => [
      ...(i === 0 ? r.replicates(0, 23) : r.replicates(23, 37)).values,
    ]);
    expect([...whole]).toEqual(parts);
  });
});
