import { describe, expect, it } from "vitest";
import { buildDataset } from "../../dataset";
import { RandomStream } from "../../numerics/random";
import { madeStudy } from "../../test-kit";
import { explore, type ExploreQuestion } from "./explore";

const stream = new RandomStream(3, 0);
const rows = Array.from({ length: 200 }, () => {
  const f = [stream.normal(), stream.normal()];
  return Array.from({ length: 6 }, (_, j) =>
    Math.round(3 + 0.8 * f[j < 3 ? 0 : 1]! * (j === 5 ? -1 : 1) + 0.6 * stream.normal()),
  );
});
const items = ["a", "b", "c", "d", "e", "f"];
const { definition, table } = madeStudy({
  columns: {
    ...Object.fromEntries(items.map((item, j) => [item, rows.map((row) => row[j]!)])),
    twice: rows.map((row) => 2 * row[0]!),
    still: rows.map(() => 3),
  },
  theory: "",
});
const dataset = buildDataset(definition, table);
const question: ExploreQuestion = {
  items,
  factors: null,
  extraction: "maximum_likelihood",
  rotation: "oblimin",
  answers: "numbers",
  half: null,
  seed: 1,
};

describe("items explored", () => {
  it("two factors with a reversed item are found, whatever the order of the items", () => {
    const found = explore(dataset, question);
    expect(found.factors).toBe(2);
    expect(found.partial).toBe(2);
    const turned = explore(dataset, { ...question, items: [...items].reverse() });
    const of = (one: typeof found) =>
      one.solution.rows
        .map((row) => [row.item, row.reversed, row.communality.toFixed(6)].join(" "))
        .sort();
    expect(of(turned)).toEqual(of(found));
    expect(found.solution.rows.filter((r) => r.reversed).map((r) => r.item)).toEqual(["f"]);
  });

  it("as ordered answers: the same two factors of three levels, no tests made of numbers", () => {
    const rank = (x: number): number => (x < 3 ? 1 : x < 4 ? 2 : 3);
    const coarse = madeStudy({
      columns: {
        ...Object.fromEntries(items.map((item, j) => [item, rows.map((row) => rank(row[j]!))])),
        fine: rows.map((row, i) => row[0]! * 10 + (i % 10)),
      },
      theory: "",
    });
    const of = buildDataset(coarse.definition, coarse.table);
    const ordered = explore(of, { ...question, answers: "ordered" });
    const numbers = explore(of, question);
    expect(ordered.factors).toBe(2);
    const loadings = (one: typeof ordered): number[] =>
      one.solution.rows.map((row) => Math.max(...row.loadings.map(Math.abs)));
    // What coarse answers lose is given back.
    loadings(ordered).forEach((loading, i) =>
      expect(loading).toBeGreaterThan(loadings(numbers)[i]! - 0.02),
    );
    expect(loadings(ordered).reduce((a, b) => a + b)).toBeGreaterThan(
      loadings(numbers).reduce((a, b) => a + b) + 0.2,
    );
    expect(
      ordered.fits.every(({ test, rmsea, bic }) => test === null && rmsea === null && bic === null),
    ).toBe(true);
    expect(ordered.fits[1]!.rmsr).toBeLessThan(0.1);
    expect(() =>
      explore(of, { ...question, answers: "ordered", items: [...items, "fine"] }),
    ).toThrow(/“fine” has more than 7 levels/);
  });

  it("halves hold different people and say which", () => {
    const first = explore(dataset, { ...question, half: 1 });
    const second = explore(dataset, { ...question, half: 2 });
    expect(first.n + second.n).toBe(200);
    expect(new Set([...first.explored, ...second.explored]).size).toBe(200);
  });

  it.each([
    [["a", "b"], "Two items are chosen"],
    [["a", "b", "c", "twice"], "“a”, “twice” correlate most"],
    [["a", "b", "c", "still"], "“still” never varies"],
  ])("%j is refused in words", (chosen, words) => {
    expect(() => explore(dataset, { ...question, items: chosen })).toThrow(words);
  });
});
