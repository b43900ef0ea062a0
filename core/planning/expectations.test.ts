import { describe, expect, it } from "vitest";
import { Analysis } from "../analysis";
import { madeStudy, normals, type MadeStudy } from "../test-kit";
import { expectationsOf } from "./expectations";
import { completePlan } from "../study";
import { Population } from "./population";

const N = 240;
const x = normals(N, 1);
const e = normals(N, 2);
const y = x.map((v, i) => 0.5 * v + e[i]!);
/** Answers on seven points, from 0 on. */
const answer = x.map((v) => Math.min(6, Math.max(0, Math.round(3 + 1.5 * v))));
const site = x.map((_, i) => ["north", "river", "south"][i % 5 < 2 ? 0 : i % 5 < 4 ? 1 : 2]!);
const asked = x.map((v, i) => (v + e[(i + 3) % N]! > 0.4 ? "yes" : "no"));

const expected = (made: MadeStudy) => {
  const { definition, table } = madeStudy(made);
  const plan = expectationsOf(Analysis.of(definition, table).prepared, completePlan({}));
  return { plan, sample: new Population(definition, plan).sample(4000, 7, 0) };
};
const share = (values: readonly unknown[], of: unknown): number =>
  values.filter((v) => String(v) === String(of)).length / values.length;
const textsOf = (column: { dictionary: string[]; codes: ArrayLike<number> }): string[] =>
  Array.from(column.codes, (code) => column.dictionary[code]!);

describe("what data say of the answers of a variable", () => {
  it.each([
    ["answers of any range", { answer, y }, "answer raises y", "answer", answer],
    ["names of levels", { site, y }, "site affects y", "site", site],
    ["names of two values", { asked, y }, "asked raises y", "asked", asked],
  ])(
    "%s come again in made-up samples, as often as they were given",
    (_, columns, theory, name, given) => {
      const { plan, sample } = expected({ columns: columns as Record<string, number[]>, theory });
      expect(plan.variables[name]!.shares!.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 12);
      const made = textsOf(sample.columns.find((c) => c.name === name)! as never);
      expect(new Set(made)).toEqual(new Set<string>(given.map((v) => String(v))));
      for (const level of new Set<number | string>(given))
        expect(share(made, level)).toBeCloseTo(share(given, level), 1);
    },
  );

  it("of declared levels stand in their order, and are left alone where one never occurs", () => {
    const theory = "site affects y";
    const columns = { site, y } as never;
    const level = "categorical" as const;
    const all = ["south", "river", "north"];
    const known = expected({ columns, theory, variables: { site: { level, levels: all } } });
    expect(known.plan.variables.site!.shares).toEqual(all.map((l) => share(site, l)));
    expect(known.plan.variables.site!.answers).toBeUndefined();
    const more = [...all, "nowhere"];
    const open = expected({ columns, theory, variables: { site: { level, levels: more } } });
    expect(open.plan.variables.site).toBeUndefined();
  });
});

describe("variables that sentences name without an arrow", () => {
  const columns = { x, y, m: e } as never;

  it.each(["control m at 0, 1", "model m as linear", "compare m at 1 with 0"])(
    "are drawn with the others, so that samples can be analysed: %s",
    (line) => {
      const { sample } = expected({ columns, theory: `H1: x raises y\n${line}` });
      expect(sample.columns.map((c) => c.name)).toContain("m");
    },
  );

  it("are refused in words where counts are relative to one", () => {
    const visits = x.map((v) => Math.max(0, Math.round(2 + v)));
    const months = x.map((_, i) => 1 + (i % 4));
    const theory = "H1: x raises visits\nmodel visits as poisson with exposure months";
    expect(() => expected({ columns: { x, visits, months }, theory })).toThrow(
      /Take “with exposure months” out to plan/,
    );
  });
});
