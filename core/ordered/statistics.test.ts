import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { orderedColumnOf, orderedExpected } from "../../reference/ordered-load";
import { Phi2 } from "../numerics/bivariate-normal";
import { Phi } from "../numerics/distributions";
import { normals } from "../test-kit";
import {
  codesOf,
  levelsOf,
  numericColumn,
  orderedColumn,
  PerfectAssociation,
  polychoric,
  stagedStatistics,
  statisticCovariance,
  statisticPlaces,
  statisticValues,
  statisticVariances,
  type StagedColumn,
  type StagedStatistics,
} from ".";

const CASES = [
  "polychoric-pairs",
  "mixed-numeric-and-ordered",
  "three-factor-mediation-likert",
  "binary-items-two-factors",
  "one-factor-five-levels",
];

const ordered = (values: Float64Array): StagedColumn => {
  const levels = levelsOf(values);
  return orderedColumn(codesOf(values, levels), levels);
};

function statisticsOf(name: string): StagedStatistics {
  const { variables } = orderedExpected(name).statistics;
  return stagedStatistics(
    Object.keys(variables).map((variable) => {
      const values = orderedColumnOf(name, variable);
      return variables[variable].levels ? ordered(values) : numericColumn(values);
    }),
  );
}

/** Five answers that rise with a normal number, from thresholds. */
const answers = (tendency: readonly number[], thresholds: readonly number[]): Float64Array =>
  Float64Array.from(tendency, (y) => thresholds.filter((tau) => y > tau).length);

describe("statistics of two stages", () => {
  it.each(CASES)("of %s are those of another implementation, covariance and all", (name) => {
    const { values, gamma_diagonal, gamma, variables, pairs } = orderedExpected(name).statistics;
    const staged = statisticsOf(name);
    const places = statisticPlaces(staged);
    const found = statisticValues(staged, places);
    expect(found.length).toBe(values.length);
    values.forEach((value: number, k: number) => expect(found[k]).toBeCloseTo(value, 9));
    const own = statisticCovariance(staged, places);
    const m = places.length;
    const alone = statisticVariances(staged, places);
    gamma_diagonal.forEach((value: number, k: number) => {
      expect(own[k * m + k]! / value).toBeCloseTo(1, 9);
      expect(alone[k]! / value).toBeCloseTo(1, 9);
    });
    (gamma ?? []).forEach((row: number[], k: number) =>
      row.forEach((value, l) => {
        const size = Math.sqrt(gamma_diagonal[k] * gamma_diagonal[l]);
        expect((own[k * m + l]! - value) / size).toBeCloseTo(0, 9);
      }),
    );
    const names = Object.keys(variables);
    for (const pair of pairs ?? []) {
      const same = staged.pairs.find((p) => names[p.a] === pair.a && names[p.b] === pair.b)!;
      expect(same.r).toBeCloseTo(pair.r, 9);
      if (pair.loglik === undefined) continue;
      const { logLikelihood } = (same.polychoric ?? same.polyserial)!;
      expect(logLikelihood / pair.loglik).toBeCloseTo(1, 9);
    }
  });

  it("of two by two tables solve the closed equation, corrected where a cell is empty", () => {
    const table = Float64Array.of(30, 20, 10, 40);
    const [a, b] = [0, -0.25].map((tau) => Float64Array.of(tau));
    // Thresholds of this table: half below, two fifths below.
    const rows = orderedColumn(
      Int32Array.from({ length: 100 }, (_, i) => (i < 50 ? 0 : 1)),
      [0, 1],
    );
    const columns = orderedColumn(
      Int32Array.from({ length: 100 }, (_, i) => (i < 30 || (i >= 50 && i < 60) ? 0 : 1)),
      [0, 1],
    );
    const found = polychoric(table, rows.thresholds, columns.thresholds)!;
    expect(Phi2(rows.thresholds[0]!, columns.thresholds[0]!, found.r)).toBeCloseTo(0.3, 12);
    expect(found.corrected).toBe(false);
    expect(polychoric(Float64Array.of(20, 99, 0, 21), a!, b!)!.corrected).toBe(true);
    expect(polychoric(Float64Array.of(20, 0, 0, 21), a!, b!)).toBeNull();
  });

  it("do not depend on the order of variables or on what levels are called; reversing turns signs", () => {
    const [x, noise, z] = [normals(200, 3), normals(200, 4), normals(200, 5)] as [
      number[],
      number[],
      number[],
    ];
    const one = answers(x, [-1, 0, 0.8]);
    const two = answers(
      x.map((v, i) => 0.6 * v + 0.8 * noise[i]!),
      [-0.5, 0.7],
    );
    const three = Float64Array.from(z, (v, i) => 0.4 * x[i]! + v);
    const r = (columns: StagedColumn[]): number[] =>
      stagedStatistics(columns).pairs.map((pair) => pair.r);
    const [ab, ac, bc] = r([ordered(one), ordered(two), numericColumn(three)]);
    expect(r([ordered(two), numericColumn(three), ordered(one)])).toEqual([
      expect.closeTo(bc!, 10),
      expect.closeTo(ab!, 10),
      expect.closeTo(ac!, 10),
    ]);
    const recoded = one.map((v) => 10 + v * v * v);
    expect(r([ordered(recoded), ordered(two)])[0]).toBe(ab);
    const [turned, with_] = r([ordered(one.map((v) => -v)), ordered(two), numericColumn(three)]);
    expect(turned).toBeCloseTo(-ab!, 10);
    expect(with_).toBeCloseTo(-ac!, 10);
    const far = three.map((v) => 1e6 + 1000 * v);
    expect(r([ordered(one), numericColumn(far)])[0]).toBeCloseTo(ac!, 8);
  });

  it("of answers without exception to their order are refused", () => {
    const x = normals(120, 9);
    const one = ordered(answers(x, [-0.5, 0.5]));
    expect(() => stagedStatistics([one, ordered(answers(x, [0.1]))])).toThrow(PerfectAssociation);
    // With a number the likelihood has its maximum just inside, as the thresholds are not the cuts.
    const [pair] = stagedStatistics([one, numericColumn(Float64Array.from(x))]).pairs;
    expect(pair!.r).toBeGreaterThan(0.99);
  });

  it("use of pairs with gaps the cases that have both", () => {
    const [x, e] = [normals(300, 11), normals(300, 12)] as [number[], number[]];
    const one = answers(x, [-0.7, 0.4]);
    const two = answers(
      x.map((v, i) => 0.5 * v + e[i]!),
      [0],
    );
    const gaps = one.map((v, i) => (i % 5 === 0 ? NaN : v));
    const staged = stagedStatistics([ordered(gaps), ordered(two)]);
    expect(staged.pairs[0]!.n).toBe(240);
    expect(staged.n).toBe(300);
    // What is known of one variable alone makes errors smaller than leaving its cases out.
    const rows = [...one.keys()].filter((i) => i % 5 !== 0);
    const pick = (from: Float64Array): Float64Array => Float64Array.from(rows, (i) => from[i]!);
    const complete = stagedStatistics([ordered(pick(one)), ordered(pick(two))]);
    const varianceOf = (of: StagedStatistics): number =>
      statisticVariances(of, statisticPlaces(of)).at(-1)! / of.n;
    expect(staged.pairs[0]!.r).toBeCloseTo(complete.pairs[0]!.r, 1);
    expect(varianceOf(staged) / varianceOf(complete)).toBeLessThan(1.02);
    expect(varianceOf(staged) / varianceOf(complete)).toBeGreaterThan(0.8);
  });
});

describe("the bivariate normal distribution", () => {
  it("has its margins, its symmetries and its closed values", () => {
    expect(Phi2(0, 0, 0.5)).toBeCloseTo(1 / 3, 14);
    expect(Phi2(0, 0, -0.5)).toBeCloseTo(1 / 6, 14);
    // By integration of phi(z) Phi((y - r z) / s) elsewhere.
    expect(Phi2(1.2, -0.4, 0.7)).toBeCloseTo(0.34244041487997, 12);
    fc.assert(
      fc.property(
        fc.double({ min: -4, max: 4, noNaN: true }),
        fc.double({ min: -4, max: 4, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        (x, y, r) => {
          expect(Phi2(x, y, r)).toBeCloseTo(Phi2(y, x, r), 13);
          expect(Phi2(x, y, r) + Phi2(x, -y, -r)).toBeCloseTo(Phi(x), 13);
          expect(Phi2(x, Infinity, r)).toBe(Phi(x));
          expect(Phi2(x, y, 1)).toBeCloseTo(Phi(Math.min(x, y)), 13);
        },
      ),
    );
  });
});
