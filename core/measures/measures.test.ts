import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { RandomStream } from "../numerics/random";
import {
  heterotraitRatios,
  itemFamilies,
  answeredAlike,
  oneFactor,
  reliability,
  reversed,
  scaleScores,
  straightLining,
} from ".";

const columns = (...rows: number[][]): Float64Array[] =>
  rows[0]!.map((_, j) => Float64Array.from(rows, (row) => row[j]!));
const battery = (n: number, loadings: number[], seed = 1): Float64Array[] => {
  const rows = Array.from({ length: n }, (_, i) => {
    const r = new RandomStream(seed, i);
    const f = r.normal();
    return loadings.map((l) => l * f + Math.sqrt(1 - l * l) * r.normal());
  });
  return columns(...rows);
};
const names = (k: number): string[] => Array.from({ length: k }, (_, i) => `i${i + 1}`);

describe("alpha and omega", () => {
  it("reversing every item changes neither; reversing one lowers alpha", () => {
    const items = battery(120, [0.7, 0.8, 0.6, 0.7]);
    const found = reliability(names(4), items, 0.95);
    const turned = reliability(
      names(4),
      items.map((c) => c.map((v) => -v)),
      0.95,
    );
    expect(turned.alpha).toBeCloseTo(found.alpha!, 12);
    expect(turned.omega!.total).toBeCloseTo(found.omega!.total, 8);
    const one = reliability(
      names(4),
      items.map((c, j) => (j === 2 ? c.map((v) => -v) : c)),
      0.95,
    );
    expect(one.alpha).toBeLessThan(found.alpha!);
    expect(one.warnings.map((w) => [w.code, w.about])).toContainEqual([
      "negative_item_total",
      ["i3"],
    ]);
    expect(one.warnings.map((w) => w.code)).toContain("mixed_sign_loadings");
  });

  it("equals the reliability of parallel items: alpha = k r / (1 + (k - 1) r)", () => {
    const two = columns([1, 2], [2, 1], [3, 3], [4, 5], [5, 4]);
    const found = reliability(names(2), two, 0.95);
    expect(found.alpha).toBeCloseTo(found.spearmanBrown!, 12);
    expect([found.omega, found.itemStatistics[0]!.alphaIfDropped]).toEqual([null, null]);
  });

  it("has no alpha when the items cancel, and says so", () => {
    const x = [1, 2, 3, 4, 7];
    const found = reliability(["a", "b"], columns(...x.map((v) => [v, -v])), 0.95);
    expect([found.alpha, found.alphaCi]).toEqual([null, null]);
    expect(found.warnings[0]!.code).toBe("alpha_negative");
  });

  it.each<[string, Float64Array[], RegExp]>([
    ["one item", columns([1], [2], [3]), /at least two items/],
    ["two rows", columns([1, 2], [2, 1]), /at least 3/],
    ["an item that never varies", columns([1, 2], [1, 3], [1, 5], [1, 2]), /“i1” never varies/],
  ])("refuses %s", (_, items, message) =>
    expect(() => reliability(names(items.length), items, 0.95)).toThrow(message),
  );
});

describe("one common factor", () => {
  it("recovers the correlations it implies, with no discrepancy", () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.25, max: 0.93, noNaN: true }), { minLength: 3, maxLength: 7 }),
        (loadings) => {
          const r = loadings.map((a, i) => loadings.map((b, j) => (i === j ? 1 : a * b)));
          const found = oneFactor(r, 200)!;
          found.loadings.forEach((l, i) => expect(l).toBeCloseTo(loadings[i]!, 5));
          expect(found.discrepancy).toBeLessThan(1e-10);
          expect(found.heywood).toBe(false);
        },
      ),
      { numRuns: 60 },
    );
  });

  it("stops at the bound when a uniqueness would be negative, and there the gradient points outward", () => {
    // r12 r13 / r23 is above one, so the first uniqueness has no admissible value.
    const r = [
      [1, 0.9, 0.8],
      [0.9, 1, 0.6],
      [0.8, 0.6, 1],
    ];
    const found = oneFactor(r, 100)!;
    expect(found.heywood).toBe(true);
    expect(found.atBound).toEqual([true, false, false]);
    expect(found.uniquenesses[0]).toBeCloseTo(0.005, 12);
    expect(found.converged).toBe(true);
    expect(found.discrepancy).toBeGreaterThan(0);
  });

  it("is a minimum: no neighbour fits better", () => {
    const items = battery(90, [0.8, 0.7, 0.6, 0.5, 0.4], 4);
    const { omega } = reliability(names(5), items, 0.95);
    expect(omega!.converged).toBe(true);
    expect(omega!.test!.df).toBe(5);
  });
});

describe("scores", () => {
  const items = columns(
    [1, 2, 3, 4, 5],
    [1, NaN, 3, 4, 5],
    [1, NaN, NaN, 4, 5],
    [NaN, NaN, NaN, NaN, NaN],
  );
  it("follow the rule for missing answers", () => {
    expect([...scaleScores(items, { form: "averages", answered: 0.8 })]).toEqual([
      3,
      3.25,
      NaN,
      NaN,
    ]);
    expect([...scaleScores(items, { form: "sums", answered: 0.6 })]).toEqual([
      15,
      16.25,
      50 / 3,
      NaN,
    ]);
    expect([...scaleScores(items, { form: "averages", answered: 1 })]).toEqual([3, NaN, NaN, NaN]);
  });
  it("reversing twice gives the answers back; beyond the scale is refused with its row", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 7 })), (answers) => {
        const x = Float64Array.from(answers);
        expect([...reversed("i", reversed("i", x, [1, 7]), [1, 7])]).toEqual(answers);
      }),
    );
    expect(() => reversed("i", Float64Array.from([1, 8]), [1, 7])).toThrow(/“i” is 8 in row 2/);
  });
});

describe("answering styles and names", () => {
  it("a gap ends a run and two answers are too few to flag", () => {
    const found = straightLining(
      columns([2, 2, NaN, 2, 2], [3, 3, NaN, NaN, NaN], [4, 4, 4, 4, 4]),
    );
    expect(found.longestRun).toEqual([2, 2, 5]);
    expect(found.flagged).toEqual([0, 2]);
    expect(found.withinPersonSd).toEqual([0, 0, 0]);
  });
  it("finds families of items by their numbers", () => {
    expect(
      itemFamilies(["id", "conf1", "conf2", "conf3r", "age", "Sup_01", "Sup_02", "x1"]),
    ).toEqual([
      { stem: "conf", items: ["conf1", "conf2", "conf3r"] },
      { stem: "Sup", items: ["Sup_01", "Sup_02"] },
    ]);
  });
  it("a zero among correlations makes HTMT2 zero, and between items of one block leaves it without value", () => {
    const r = [
      [1, 0.5, 0.2, 0],
      [0.5, 1, 0.2, 0.2],
      [0.2, 0.2, 1, 0.5],
      [0, 0.2, 0.5, 1],
    ];
    const blocks = [
      { name: "A", items: [0, 1] },
      { name: "B", items: [2, 3] },
    ];
    expect(heterotraitRatios(blocks, r)[0]).toMatchObject({ htmt2: 0 });
    const apart = r.map((row, i) => row.map((v, j) => (i < 2 && j < 2 && i !== j ? 0 : v)));
    expect(heterotraitRatios(blocks, apart)[0]).toMatchObject({ htmt: null, htmt2: null });
  });
});

describe("columns answered alike", () => {
  const column = (name: string, min: number | null, max: number | null, distinct: number) => ({
    name,
    min,
    max,
    distinct,
  });
  const likert = (name: string) => column(name, 1, 5, 5);

  it("are neighbours on one scale of few steps, whatever they are called", () => {
    const found = answeredAlike([
      column("id", 1, 310, 310),
      likert("home"),
      likert("miss"),
      column("seldom at the end", 2, 5, 4),
      column("hours", 0.5, 12.5, 60),
      ...["s1", "s2", "s3"].map((name) => column(name, 0, 1, 2)),
      likert("lonely"),
    ]);
    expect(found).toEqual([
      { items: ["home", "miss", "seldom at the end"], low: 1, high: 5 },
      { items: ["s1", "s2", "s3"], low: 0, high: 1 },
    ]);
  });

  it("are none where fewer than three stand together, or one has no numbers", () => {
    expect(
      answeredAlike([likert("a"), likert("b"), column("c", null, null, 4), likert("d")]),
    ).toEqual([]);
    // Seven steps beside five are another scale; whole numbers alone make none.
    expect(
      answeredAlike([likert("a"), likert("b"), column("c", 1, 7, 7), column("d", 18, 60, 40)]),
    ).toEqual([]);
  });
});
