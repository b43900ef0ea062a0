import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Settings } from "../../study";
import { analyseMade, normals, problemOf } from "../../test-kit";
import type { StructureSection } from "./types";

const n = 180;
const noise = Array.from({ length: 12 }, (_, k) => normals(n, 70 + k));
const f = noise[0]!;
const g = f.map((v, i) => 0.5 * v + noise[1]![i]!);
const item = (of: number[], k: number, loading: number, mean: number): number[] =>
  of.map((v, i) => mean + loading * v + 0.7 * noise[k]![i]!);
const columns = {
  a1: item(f, 2, 1, 3.1),
  a2: item(f, 3, 0.8, 3.3),
  a3: item(f, 4, 1.2, 2.6),
  b1: item(g, 5, 1, 4),
  b2: item(g, 6, 0.9, 4.1),
  b3: item(g, 7, 0.7, 3.7),
};
const FACTOR = "measure fa reflects a1, a2, a3";
const BOTH = `${FACTOR}\nmeasure fb reflects b1, b2, b3\nH1: fa raises fb`;

function fitOf(theory: string, options: object = {}, data: object = columns) {
  const { sections } = analyseMade({
    columns: data as Record<string, number[]>,
    theory,
    settings: { interval: "delta", options } as Partial<Settings>,
  });
  return tested(sections.find((s) => s.kind === "structure") as StructureSection);
}

const tested = ({ fit }: StructureSection): { chi2: number; df: number } => ({
  chi2: fit!.plain.chi2,
  df: fit!.plain.df,
});

/** n log(1 + t^2 / (n - 1)): the likelihood ratio of equal means of two variables (Anderson 2003). */
function ratioOfEqualMeans(a: number[], b: number[]): number {
  const d = a.map((v, i) => v - b[i]!);
  const mean = d.reduce((s, v) => s + v, 0) / n;
  const squares = d.reduce((s, v) => s + (v - mean) ** 2, 0);
  return n * Math.log(1 + (n * mean * mean) / squares);
}

describe("intercepts that are held", () => {
  // The covariances of three items of one factor are free, so the means alone are tested.
  const theory = `${FACTOR}\nmeasure fb reflects b1\nH1: fa affects fb`;
  const held = "hold intercept of a1 equal to intercept of a2";

  it("equal between two variables are tested by the likelihood ratio of their means", () => {
    const free = fitOf(`${FACTOR}\nmeasure fb reflects b1, b2, b3\nH1: fa affects fb`);
    const found = fitOf(`${BOTH}\n${held}`);
    expect(found.df).toBe(free.df + 1);
    expect(found.chi2).toBeGreaterThan(free.chi2 + 2);
    expect(fitOf(theory).df).toBe(2);
  });

  it("of observed variables alone: the paired comparison of means, to eight digits", () => {
    // Exogenous both, so that nothing but their means is restricted.
    const three = "H1: a1 affects b1\nH2: a2 affects b1";
    const options = { engine: "covariance_structure" } as const;
    const settings = { interval: "delta", ...options } as Partial<Settings>;
    const chi2 = (lines: string): number => {
      const { sections } = analyseMade({ columns, theory: lines, settings });
      return tested(sections.find((s) => s.kind === "structure") as StructureSection).chi2;
    };
    expect(chi2(`${three}\n${held}`)).toBeCloseTo(ratioOfEqualMeans(columns.a1, columns.a2), 8);
    expect(chi2(`${three}\nhold intercept of a1, intercept of a2 at 3`)).toBeGreaterThan(
      chi2(`${three}\n${held}`),
    );
  });

  it.each(["gls", "uls", "dwls", "adf"])("count by %s, too", (estimator) => {
    const options = { estimator };
    const [free, found] = [fitOf(BOTH, options), fitOf(`${BOTH}\n${held}`, options)];
    expect(found.df).toBe(free.df + 1);
    expect(found.chi2).toBeGreaterThan(free.chi2 * 1.05);
  });

  it("count with everybody's answers, and bring means into a model without them", () => {
    const gaps = {
      ...columns,
      a3: columns.a3.map((v, i) => (i % 9 === 0 ? null : v)),
    };
    const options = { missing: "everybody" };
    const found = fitOf(`${BOTH}\n${held}`, options, gaps);
    expect(found.chi2).toBeGreaterThan(fitOf(BOTH, options, gaps).chi2 + 2);
    expect(fitOf(`${BOTH}\n${held}`, { means: "no" }).chi2).toBeCloseTo(
      fitOf(`${BOTH}\n${held}`).chi2,
      8,
    );
  });

  it("do not depend on where the scale begins", () => {
    const far = Object.fromEntries(
      Object.entries(columns).map(([name, values]) => [name, values.map((v) => v + 1e6)]),
    );
    expect(fitOf(`${BOTH}\n${held}`, {}, far).chi2).toBeCloseTo(fitOf(`${BOTH}\n${held}`).chi2, 5);
  });
});

describe("lines that hold arrows", () => {
  const LINES = [
    "hold fa to a2 equal to fa to a3",
    "hold fb to b2 at 0.9",
    "hold fb to b3 equal to fa to a3",
    "hold fb to b3 equal to fb to b2",
    "hold variance of a1 equal to variance of a2",
    "hold fa to a1 equal to fa to a2",
    "hold intercept of b1 equal to intercept of b2",
    "hold intercept of b2 equal to intercept of b3 equal to intercept of b1",
  ];

  it("hold together, whatever their order and whichever side an arrow stands on", () =>
    fc.assert(
      fc.property(
        // The sixth says that all of a set is one, the second that it is 0.9.
        fc.subarray(
          LINES.filter((_, i) => i !== 5),
          { minLength: 2 },
        ),
        fc.integer(),
        (lines, seed) => {
          const turned = [...lines]
            .sort((a, b) => ((a.length * 7919 + seed) % 13) - ((b.length * 7919 + seed) % 13))
            .map((line) => {
              const [, left, right] = /^hold (.*?) equal to (.*)$/.exec(line) ?? [];
              return left && right && seed % 2 === 0 ? `hold ${right} equal to ${left}` : line;
            });
          const [one, other] = [lines, turned].map((l) => fitOf(`${BOTH}\n${l.join("\n")}`));
          expect(other!.df).toBe(one!.df);
          expect(other!.chi2).toBeCloseTo(one!.chi2, 7);
        },
      ),
      { numRuns: 12 },
    ));

  it("pass a number on through others, the marker's too", () => {
    const [set, each] = [
      "hold fb to b2 at 0.9\nhold fb to b2 equal to fa to a2\nhold fa to a3 equal to fa to a2",
      "hold fb to b2, fa to a2, fa to a3 at 0.9",
    ].map((lines) => fitOf(`${BOTH}\n${lines}`));
    expect(set!.df).toBe(each!.df);
    expect(set!.chi2).toBeCloseTo(each!.chi2, 9);
    const [left, right, fixed] = [
      "hold fa to a1 equal to fa to a2",
      "hold fa to a2 equal to fa to a1",
      "hold fa to a2 at 1",
    ].map((line) => fitOf(`${BOTH}\n${line}`).chi2);
    expect(left).toBeCloseTo(fixed!, 9);
    expect(right).toBeCloseTo(fixed!, 9);
  });

  it("are refused where they contradict each other, with both lines", () => {
    const problem = (lines: string) => problemOf({ columns, theory: `${BOTH}\n${lines}` });
    const two = problem("hold fa to a2 at 0.9\nhold fa to a2 at 0.8");
    expect(two.condition).toBe("contradicting_holds");
    expect(two.message).toContain("Lines 4 and 5 contradict each other");
    const through = problem(
      "hold fa to a2 equal to fb to b2\nhold fa to a2 at 0.9\nhold fb to b2 at 0.8",
    );
    expect(through.message).toContain("Lines 5 and 6");
    expect(through.message).toMatch(/0\.9 and 0\.8/);
  });
});
