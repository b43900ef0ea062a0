import fc from "fast-check";
import { describe, expect, it } from "vitest";
// @ts-expect-error a script without types
import { compiled } from "../../scripts/wasm.mjs";
import { RandomStream } from "./random";
import { WEIGHTED_SUMS_WASM } from "./wasm/weighted-sums.wasm";
import { WeightedSums, type WeightedSumsInput } from "./weighted-sums";

/** Normal columns, and weights as a resample has them. */
function made(
  rows: number,
  width: number,
  extras: number,
  seed: number,
): WeightedSumsInput & { weights: Float64Array } {
  const stream = new RandomStream(seed, 0);
  const normals = (count: number): Float64Array =>
    Float64Array.from({ length: count }, () => stream.normal());
  const weights = new Float64Array(rows);
  stream.countDraws(weights, rows, rows);
  return {
    rows,
    width,
    values: normals(rows * width),
    extra: normals(rows * extras),
    members: null,
    weights,
  };
}

/** The definition: every sum by itself. */
function expected({ rows, width, values, extra }: WeightedSumsInput, weights: ArrayLike<number>) {
  const extras = extra.length / rows;
  const sum = (term: (i: number) => number): number => {
    let all = 0;
    for (let i = 0; i < rows; i++) all += weights[i]! * term(i);
    return all;
  };
  const cross = new Float64Array(width * width);
  for (let j = 0; j < width; j++)
    for (let k = j; k < width; k++)
      cross[j * width + k] = sum((i) => values[i * width + j]! * values[i * width + k]!);
  return {
    sums: Float64Array.from({ length: width }, (_, j) => sum((i) => values[i * width + j]!)),
    cross,
    extra: Float64Array.from({ length: extras }, (_, j) => sum((i) => extra[i * extras + j]!)),
  };
}

const found = ({ sums, cross, extra }: WeightedSums) => ({
  sums: sums.slice(),
  cross: cross.slice(),
  extra: extra.slice(),
});

describe("weighted sums of columns and their products", () => {
  it("are the sums of the definition, to the last bit, in WebAssembly and in TypeScript", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 9 }),
        fc.nat(3),
        fc.nat(1000),
        (rows, width, extras, seed) => {
          const { weights, ...input } = made(rows, width, extras, seed);
          for (const scripted of [false, true]) {
            const sums = new WeightedSums(input, scripted);
            sums.find(weights);
            expect(found(sums)).toEqual(expected(input, weights));
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it("are the same when products are made anew in chunks", () => {
    const { weights, ...input } = made(5_000, 4, 2, 7);
    for (const scripted of [false, true]) {
      const sums = new WeightedSums(input, scripted);
      sums.find(weights);
      expect(found(sums)).toEqual(expected(input, weights));
    }
  });

  it("forget the resample before", () => {
    const { weights, ...input } = made(50, 3, 1, 3);
    const sums = new WeightedSums(input);
    sums.find(weights.map((w) => 3 * w));
    sums.find(weights);
    expect(found(sums)).toEqual(expected(input, weights));
  });

  it("leave single rows out, in rows kept and in chunks", () => {
    for (const rows of [30, 4_500]) {
      const { ...input } = made(rows, 3, 1, 5);
      const sums = new WeightedSums(input);
      sums.find(new Float64Array(rows).fill(1));
      const total = sums.total();
      // In order, as a jackknife asks for them.
      for (let i = 0; i < rows; i++) {
        sums.leaveOut(i, total);
        if (i % 511 > 1 && i !== rows - 1) continue;
        const ones = Float64Array.from({ length: rows }, (_, r) => (r === i ? 0 : 1));
        const right = expected(input, ones);
        for (const [name, values] of Object.entries(found(sums)))
          values.forEach((v, at) =>
            expect(v).toBeCloseTo(right[name as keyof typeof right][at]!, 9),
          );
      }
    }
  });

  it("count whole clusters as their rows", () => {
    const { ...input } = made(24, 4, 2, 11);
    const members = [
      Int32Array.of(0, 5, 9),
      Int32Array.of(1),
      Int32Array.from({ length: 20 }, (_, i) => [2, 3, 4, 6, 7, 8][i] ?? i + 4),
    ];
    const drawn = [2, 0, 1];
    const weights = new Float64Array(24);
    members.forEach((rows, g) => rows.forEach((i) => (weights[i] = drawn[g]!)));
    const sums = new WeightedSums({ ...input, members });
    expect(sums.units).toBe(3);
    sums.find(Float64Array.from(drawn));
    const right = expected(input, weights);
    for (const [name, values] of Object.entries(found(sums)))
      values.forEach((v, at) => expect(v).toBeCloseTo(right[name as keyof typeof right][at]!, 10));
    sums.find(Float64Array.of(1, 1, 1));
    sums.leaveOut(0, sums.total());
    const without = expected(
      input,
      Float64Array.from({ length: 24 }, (_, i) => ([0, 5, 9].includes(i) ? 0 : 1)),
    );
    expect(sums.sums[2]).toBeCloseTo(without.sums[2]!, 10);
    expect(sums.cross[1]).toBeCloseTo(without.cross[1]!, 10);
  });

  it("come from bytes that are compiled from the source beside them", () => {
    expect(compiled()).toBe(WEIGHTED_SUMS_WASM);
  }, 60_000);
});

it("finds the same in memory that another run has given back", () => {
  const first = made(80, 3, 1, 5);
  const once = new WeightedSums(first);
  once.find(first.weights);
  const found = [...once.sums, ...once.extra];
  once.release();
  // Another problem of the same size uses the memory, and gives it back.
  const other = made(70, 3, 1, 6);
  const between = new WeightedSums(other);
  between.find(other.weights);
  between.release();
  const again = new WeightedSums(first);
  again.find(first.weights);
  expect([...again.sums, ...again.extra]).toEqual(found);
});
