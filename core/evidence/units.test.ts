import { describe, expect, it } from "vitest";
import { timesPower } from "../numerics/unit";
import { analyseMade, madeStudy, normals } from "../test-kit";
import { dataEvidence } from "./data";
import { finiteOnly } from "./finite";
import type { Evidence } from "./types";

const n = 80;
const [x, e1, e2, w] = [1, 2, 3, 4].map((seed) => normals(n, seed)) as [
  number[],
  number[],
  number[],
  number[],
];
const m = x.map((v, i) => 0.5 * v + e1[i]!);
const y = m.map((v, i) => 0.4 * v + 0.2 * x[i]! + e2[i]!);
const base = { x, m, y, w };
const THEORY = "H1: x raises y through m\nH2: w alters x to m";
const settings = { replications: 200 };

const made = (columns: Record<string, readonly (number | null)[]>, theory = THEORY): Evidence =>
  analyseMade({ columns: columns as Record<string, number[]>, theory, settings });
const reference = made(base);
const scaled = (names: string[], power: number) =>
  Object.fromEntries(
    Object.entries(base).map(([name, values]) => [
      name,
      names.includes(name) ? values.map((v) => timesPower(v, power)) : values,
    ]),
  );

describe("units at the ends of the range of numbers", () => {
  for (const power of [-1040, -700, -300, -110, 110, 300, 700, 1020])
    it.each([[["x"]], [["m"]], [["y"]], [["x", "m", "y", "w"]]])(
      `2^${power} for %s: the same verdicts and tests, and nothing that is not a number`,
      (names) => {
        const evidence = made(scaled(names, power));
        expect(evidence.hypotheses.map((h) => h.verdict)).toEqual(
          reference.hypotheses.map((h) => h.verdict),
        );
        expect(evidence.warnings.filter((one) => one.code === "not_finite")).toEqual([]);
        expect(
          evidence.warnings.filter((one) => one.code === "unit_changed").map((one) => one.about[0]),
        ).toEqual(expect.arrayContaining(names));
        // Below about 2^-1000 the data themselves have lost digits.
        if (power > -1000)
          expect(evidence.hypotheses[1]!.claim!.p).toBeCloseTo(
            reference.hypotheses[1]!.claim!.p!,
            12,
          );
      },
    );

  it("does nothing to ordinary units", () => {
    const ordinary = made(scaled(["x"], 60));
    expect(ordinary.warnings.map((one) => one.code)).not.toContain("unit_changed");
    expect(ordinary.effects.find((e) => e.id === "direct x > y")!.estimate).toBe(
      timesPower(reference.effects.find((e) => e.id === "direct x > y")!.estimate!, -60),
    );
  });

  it("counts typed comparison values in the unit of the data", () => {
    const power = 300;
    const study = (columns: Record<string, number[]>, at: number) =>
      analyseMade({ columns, theory: THEORY, settings: { replications: 0, probes: { w: [at] } } });
    const slope = ({ moderations }: Evidence) => moderations[0]!.slopes[0]!.estimate;
    expect(slope(study(scaled(["w"], power), timesPower(1, power)))).toBeCloseTo(
      slope(study(base, 1)),
      12,
    );
  });

  it("describes the data: shape and outliers are the same, mean and SD in the unit of the data", () => {
    const of = (columns: Record<string, readonly number[]>) => {
      const { definition, table } = madeStudy({ columns: columns as typeof base, theory: THEORY });
      return dataEvidence(definition, table).descriptives.x!;
    };
    for (const power of [-900, 900]) {
      const there = of(scaled(["x"], power));
      const here = of(base);
      expect(there.excessKurtosis).toBeCloseTo(here.excessKurtosis!, 9);
      expect(there.outliers.z).toEqual(here.outliers.z);
      expect(timesPower(there.sd!, -power)).toBeCloseTo(here.sd!, 12);
      expect(timesPower(there.mean!, -power)).toBeCloseTo(here.mean!, 12);
    }
  });

  it("survives a column of which one value is immense", () => {
    const odd = { ...base, x: x.map((v, i) => (i === 3 ? 1.7e308 : i === 4 ? -1.7e308 : v)) };
    const evidence = made(odd);
    expect(finiteOnly(evidence).count).toBe(0);
    const { definition, table } = madeStudy({ columns: odd, theory: THEORY });
    expect(finiteOnly(dataEvidence(definition, table)).count).toBe(0);
  });
});

describe("quantities that are no numbers", () => {
  it.each([
    ["(0)", /It is 0 whatever the data say/],
    ["-1e308", /whatever the data say/],
    ["0/0", /It has no value here/],
    ["1e308 * 1e308", /It has no value here/],
    ["ln(0 - 1) * H1", /It has no value here/],
    ["H1 / 0", /It has no value here/],
  ])("define q as %s", (formula, reason) => {
    const evidence = made(base, `${THEORY}\ndefine q as ${formula}`);
    expect(finiteOnly(evidence).count).toBe(0);
    const own = evidence.effects.find((e) => e.id === "define q")!;
    expect(own.shown).toBeNull();
    expect(own.withheld).toMatch(reason);
  });

  it("are called what they are where the name is one that every object has", () => {
    const evidence = made(
      base,
      `${THEORY}\ndefine toString as 2 * H1\ndefine constructor as H1 - toString`,
    );
    const estimate = (id: string) => evidence.effects.find((e) => e.id === id)!.estimate!;
    expect(estimate("define toString")).toBeCloseTo(-2 * estimate("define constructor"), 12);
  });
});

describe("the guard", () => {
  it("empties what is not finite, names the places, and keeps the rest as it was", () => {
    const clean = { a: [1, 2], b: "text" };
    const given = { clean, bad: { z: Infinity, list: [1, NaN] } };
    const { evidence, places, count } = finiteOnly(given);
    expect(evidence).toEqual({ clean, bad: { z: null, list: [1, null] } });
    expect(evidence.clean).toBe(clean);
    expect(given.bad.z).toBe(Infinity);
    expect(places).toEqual(["bad.z", "bad.list.1"]);
    expect(count).toBe(2);
  });
});
