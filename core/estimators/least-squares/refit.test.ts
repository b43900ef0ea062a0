import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DEFAULT_SETTINGS, newDefinition } from "../../study";
import { guessVariable, TableBuilder } from "../../data";
import { prepare } from "../../preparation";
import { resamplerOf } from "../../preparation/replicate-maker";
import { refitUnder } from "../../test-kit";
import { RandomStream } from "../../numerics/random";
import { LeastSquaresKernel } from "./refit";
import type { RefitProblem } from "./refit-problem";

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
  const variables = table.columns.map((c) => ({
    ...guessVariable(c),
    level: "continuous" as const,
  }));
  return prepare(
    {
      ...newDefinition("", variables),
      theory: "x raises y through m\nadjust m, y for age",
      settings: { ...DEFAULT_SETTINGS },
    },
    table,
  );
}

const kernelOf = ({ fit }: ReturnType<typeof prepared>) =>
  new LeastSquaresKernel(fit.kernelData() as RefitProblem);

describe("refitting under counts", () => {
  it("equals a full fit of the repeated rows", () => {
    fc.assert(
      fc.property(fc.nat(500), fc.constantFrom(0, 1e6), (seed, shift) => {
        const rows = rowsOf(40, 3, shift);
        const counts = new Float64Array(40);
        new RandomStream(seed, 1).countDraws(counts, 40, 40);
        const p = prepared(rows);
        const out = refitUnder(kernelOf(p), counts)!;
        const full = prepared(rows.flatMap((row, i) => new Array<number[]>(counts[i]!).fill(row)));
        full.theta.forEach((value, i) => {
          // An intercept far from the data is a difference of large numbers.
          const tolerance = p.fit.parameters.labels[i]!.includes("intercept")
            ? 1e-7 * Math.max(1, shift)
            : 1e-7;
          expect(Math.abs(out[i]! - value)).toBeLessThanOrEqual(
            tolerance * Math.max(1, Math.abs(value)),
          );
        });
      }),
      { numRuns: 25 },
    );
  });

  it("a downdate equals a refit without the row", () => {
    const p = prepared(rowsOf(30, 8));
    const { size, values } = resamplerOf(p.resampling).jackknife();
    for (let i = 0; i < 30; i++) {
      const refitted = refitUnder(
        kernelOf(p),
        Float64Array.from({ length: 30 }, (_, j) => (j === i ? 0 : 1)),
      )!;
      refitted.forEach((value, k) =>
        expect(Math.abs(value - values[i * size + k]!)).toBeLessThan(
          1e-10 * Math.max(1, Math.abs(value)),
        ),
      );
    }
  });

  it("reports a resample of one repeated row as failed", () => {
    const p = prepared(rowsOf(20, 2));
    const counts = new Float64Array(20);
    counts[4] = 20;
    expect(refitUnder(kernelOf(p), counts)).toBeNull();
  });

  it("still solves a nearly collinear equation, by its rows", () => {
    const rows = rowsOf(60, 5).map(([x, , m, y]) => [x!, x! + 1e-5 * m!, m! ** 2, y!]);
    const p = prepared(rows);
    const out = refitUnder(kernelOf(p), new Float64Array(60).fill(1))!;
    p.theta.forEach((value, i) =>
      expect(Math.abs(out[i]! - value)).toBeLessThan(1e-5 * Math.max(1, Math.abs(value))),
    );
  });
});

describe("replicates", () => {
  it("do not depend on how they are split", () => {
    const { resampling } = prepared(rowsOf(50, 4));
    const whole = resamplerOf(resampling).replicates(0, 60).values;
    const parts = [resamplerOf(resampling), resamplerOf(resampling)].flatMap((r, i) => [
      ...(i === 0 ? r.replicates(0, 23) : r.replicates(23, 37)).values,
    ]);
    expect([...whole]).toEqual(parts);
  });
});
