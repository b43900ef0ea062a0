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
