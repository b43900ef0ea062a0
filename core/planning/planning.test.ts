import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { prepare } from "../preparation";
import type { StudyDefinition } from "../study";
import type { Variable } from "../data";
import {
  completePlan,
  expectationsOf,
  inThisThread,
  piecesOf,
  Planner,
  pointOf,
  Simulator,
  withCorrelation,
  withSize,
  type PieceResult,
  type StudyPlan,
} from ".";
import {
  answerShares,
  correlationAt,
  counted,
  NORMAL,
  scoreCorrelation,
  stepped,
} from "./marginal";
import { amount } from "../test-kit";
import { items, size, study, variable } from "../test-kit/plans";

const THREE = ["x", "m", "y"].map((n) => variable(n));
const MEDIATION = "H1: x raises y through m";
const SIZES = [size("x", "m", 0.3), size("m", "y", 0.35), size("x", "y", 0.1)];
const simulator = (of: StudyDefinition, plan: Partial<StudyPlan>, every = false): Simulator =>
  new Simulator({ study: of, plan: completePlan(plan), every });

describe("the population of a plan", () => {
  it("has exactly the effects that are expected", () => {
    const { population, ...found } = simulator(study(THREE, MEDIATION), { sizes: SIZES });
    void found;
    expect(population.explained.get("m")).toBeCloseTo(0.09, 12);
    expect(population.explained.get("y")).toBeCloseTo(1 - 0.8465, 12);
    const at = population.correlations();
    expect(at("x", "y")).toBeCloseTo(0.1 + 0.3 * 0.35, 12);
    expect(simulator(study(THREE, MEDIATION), { sizes: SIZES }).truths()[0]).toBeCloseTo(0.105, 10);
  });

  it("is refused where paths explain everything, with the reason", () => {
    const plan = { sizes: [size("x", "m", 0.3), size("m", "y", 0.8), size("x", "y", 0.6)] };
    expect(() => simulator(study(THREE, MEDIATION), plan)).toThrow(
      expect.objectContaining({
        code: "impossible_paths",
        message: expect.stringContaining("128.8 % of “y”") as string,
      }),
    );
  });

  it("is refused where correlations contradict each other", () => {
    const four = ["a", "b", "c", "y"].map((n) => variable(n));
    const correlations = [
      { a: "a", b: "b", r: 0.9 },
      { a: "b", b: "c", r: 0.9 },
      { a: "a", b: "c", r: -0.5 },
    ];
    const of = study(four, "H1: a raises y\nadjust y for b, c");
    expect(() => simulator(of, { correlations })).toThrow(/contradict each other/);
    const halves = study([variable("g", "binary"), ...THREE], "H1: g raises y\nadjust y for x");
    expect(() => simulator(halves, { correlations: [{ a: "g", b: "x", r: 0.9 }] })).toThrow(
      /cannot correlate 0.9/,
    );
  });

  it("gives variables in steps the correlation that is asked for", () => {
    fc.assert(
      fc.property(fc.double({ min: -0.6, max: 0.6, noNaN: true }), (r) => {
        const half = stepped([0.5, 0.5]);
        const answers = stepped(answerShares(5, true));
        for (const [a, b] of [
          [NORMAL, half],
          [half, answers],
          [answers, counted(2)],
        ] as const) {
          const rho = scoreCorrelation(r, a, b);
          if (rho !== null) expect(correlationAt(rho, a, b)).toBeCloseTo(r, 9);
        }
      }),
      { numRuns: 30 },
    );
    // Point-biserial: the density at the cut over the SD of the halves (Pearson 1909).
    expect(scoreCorrelation(0.4, NORMAL, stepped([0.5, 0.5]))).toBeCloseTo(0.4 / 0.797885, 5);
  });

  it("makes scores as reliable as they are expected to be", () => {
    const theory =
      "measure A averages a1, a2, a3, a4\nmeasure B averages b1, b2, reversed b3 on 1 to 5\nH1: x raises B through A";
    const of = study([...items("a", 4), ...items("b", 3), variable("x")], theory);
    const plan = completePlan({
      sizes: [size("x", "A", 0.3), size("A", "B", 0.4)],
      reliabilities: { A: 0.7, B: 0.85 },
    });
    const { population } = new Simulator({ study: of, plan, every: false });
    const back = expectationsOf(prepare(population.study, population.ideal(20_000)), plan);
    expect(back.reliabilities.A).toBeCloseTo(0.7, 1.7);
    expect(back.reliabilities.B).toBeCloseTo(0.85, 1.7);
    // Unreliable scores show less than there is among the constructs: 0.3 times the root of the
    // reliability.
    const shown = back.sizes.find((s) => s.to === "A")!.size;
    expect(Math.abs(shown - 0.3 * Math.sqrt(0.7))).toBeLessThan(0.01);
    const among = new Simulator({
      study: of,
      plan: { ...plan, sizesAmong: "scores" },
      every: false,
    }).population;
    const kept = expectationsOf(prepare(among.study, among.ideal(20_000)), plan);
    expect(Math.abs(kept.sizes.find((s) => s.to === "A")!.size - 0.3)).toBeLessThan(0.015);
  });

  it("comes back from its own data as it was expected, interactions too", () => {
    const four = ["x", "w", "m", "y"].map((n) => variable(n));
    const plan = completePlan({
      sizes: [
        size("x", "m", 0.3),
        size("w", "m", 0.2),
        size("x x w", "m", 0.25),
        size("m", "y", 0.4),
      ],
      correlations: [{ a: "x", b: "w", r: 0.3 }],
    });
    const of = study(four, "H1: w strengthens x to y through m on x to m");
    const { population } = new Simulator({ study: of, plan, every: false });
    const back = expectationsOf(prepare(population.study, population.ideal(20_000)), plan);
    for (const expected of plan.sizes) {
      const found = back.sizes.find((s) => s.from.join() === expected.from.join())!;
      expect(Math.abs(found.size - expected.size)).toBeLessThan(0.012);
    }
    expect(back.correlations).toEqual([{ a: "x", b: "w", r: 0.3 }]);
  });

  it("loses the share of answers that is expected", () => {
    const { population } = simulator(study(THREE, MEDIATION), {
      sizes: SIZES,
      missing: { share: 0.2, on: "x" },
    });
    const table = population.sample(4000, 1, 0);
    const empty = (name: string): number => {
      const column = table.columns.find((c) => c.name === name)!;
      return Array.from(column.codes).filter((c) => column.dictionary[c] === "").length / 4000;
    };
    expect(empty("x")).toBe(0);
    expect(Math.abs(empty("y") - 0.2)).toBeLessThan(0.025);
  });
});

const SAMPLES = amount(160, 2000);
const NULLS = amount(400, 4000);

describe("simulated samples", () => {
  const plan = { sizes: SIZES, n: 90, samples: SAMPLES, replications: 150 };

  it("are the same however they are cut, whoever makes them, and count once", () => {
    const one = simulator(study(THREE, MEDIATION), plan);
    const whole = one.piece({ people: 60, first: 0, count: 12 });
    const parts = [6, 0, 9, 0].map((first): PieceResult =>
      simulator(study(THREE, MEDIATION), plan).piece({
        people: 60,
        first,
        count: first === 0 ? 6 : 3,
      }),
    );
    const labels = one.labels;
    expect(pointOf(labels, [0.105], parts)).toEqual(pointOf(labels, [0.105], [whole]));
    expect(pointOf(labels, [0.105], parts).samples).toBe(12);
  });

  it("find an effect as often as the exact power says, and cover it as often as they should", async () => {
    const planner = new Planner(
      { study: study(THREE, MEDIATION), plan: completePlan(plan), every: true },
      inThisThread,
    );
    const { sentences, failed } = await planner.evaluate(90);
    const [h1] = sentences;
    const [exact] = planner.exactAt(90);
    expect(exact).toBeCloseTo(0.75325580598, 9);
    expect(failed).toBe(0);
    expect(Math.abs(h1!.joint!.share - exact!)).toBeLessThan(4 * h1!.joint!.se);
    expect(Math.abs(h1!.coverage!.share - 0.95)).toBeLessThan(
      4 * Math.sqrt((0.95 * 0.05) / SAMPLES),
    );
    expect(Math.abs(h1!.bias!)).toBeLessThan((4 * h1!.sd!) / Math.sqrt(SAMPLES));
    expect(h1!.intervals.map((i) => i.kind)).toEqual([
      "percentile",
      "bc",
      "bca",
      "basic",
      "normal",
      "delta",
    ]);
    expect(h1!.power.se).toBeCloseTo(
      Math.sqrt((h1!.power.share * (1 - h1!.power.share)) / SAMPLES),
      12,
    );
  });

  it("find nothing more often than the level where there is nothing", async () => {
    const none = { ...plan, sizes: [size("m", "y", 0.35)], replications: 0 };
    const of = study(THREE, `${MEDIATION}\nH2: x affects m`, { interval: "delta" });
    const planner = new Planner(
      { study: of, plan: completePlan({ ...none, samples: NULLS }), every: false },
      inThisThread,
    );
    const { sentences, all } = await planner.evaluate(90);
    expect(sentences[0]!.power.share).toBeLessThan(0.05);
    expect(Math.abs(sentences[1]!.power.share - 0.05)).toBeLessThan(
      4 * Math.sqrt((0.05 * 0.95) / NULLS),
    );
    expect(all.share).toBeLessThanOrEqual(sentences[0]!.power.share);
    expect(planner.exactAt(90)[1]).toBeCloseTo(0.05, 9);
  });

  it("of every kind of measure and outcome are analysed by the engine that suits it", () => {
    const kinds: [string, Variable[], string, Partial<StudyPlan>][] = [
      [
        "factors",
        [...items("a", 3), ...items("b", 3), variable("x")],
        "measure A reflects a1, a2, a3\nmeasure B reflects b1, b2, b3\nH1: x raises B through A",
        { sizes: [size("x", "A", 0.4), size("A", "B", 0.5)] },
      ],
      [
        "composites",
        [...items("a", 3), ...items("b", 3), ...items("c", 3)],
        "measure A combines a1, a2, a3\nmeasure B combines b1, b2, b3\nmeasure C combines c1, c2, c3\nH1: C raises B through A",
        { sizes: [size("C", "A", 0.4), size("A", "B", 0.5)] },
      ],
      [
        "yes or no",
        [variable("g", "binary"), variable("m"), variable("y", "binary")],
        "H1: g raises y through m",
        { sizes: [size("g", "m", 0.4), size("m", "y", 0.5)] },
      ],
      [
        "counts",
        THREE,
        `${MEDIATION}\nmodel y as poisson`,
        { sizes: SIZES, variables: { y: { shape: "count", mean: 2 } } },
      ],
    ];
    for (const [name, variables, theory, more] of kinds) {
      const one = simulator(study(variables, theory), { replications: 20, ...more });
      const result = one.piece({ people: 200, first: 0, count: 4 });
      expect(result.failures, name).toEqual({});
      const [truth] = one.truths();
      expect(truth, name).toBeGreaterThan(0);
      const [h1] = pointOf(one.labels, [truth!], [result]).sentences;
      expect(Math.abs(h1!.meanEstimate! - truth!), name).toBeLessThan(3 * h1!.sd! + 0.02);
    }
  });

  it("whose analysis fails are counted and said", () => {
    const rare = study([variable("g", "binary"), variable("y")], "H1: g raises y");
    const one = simulator(rare, {
      variables: { g: { shares: [0.98, 0.02] } },
      replications: 0,
    });
    const result = one.piece({ people: 12, first: 0, count: 30 });
    const failed = Object.values(result.failures).reduce((a, b) => a + b, 0);
    expect(failed).toBeGreaterThan(5);
    const point = pointOf(one.labels, [0], [result]);
    expect(point.failed).toBe(failed);
    expect(point.sentences[0]!.power.samples).toBe(30);
  });
});

it("a plan is changed one number at a time", () => {
  const plan = withSize(completePlan({}), { from: ["x", "w"], to: "y" }, 0.2);
  expect(withSize(plan, { from: ["w", "x"], to: "y" }, 0.3).sizes).toEqual([
    { from: ["w", "x"], to: "y", size: 0.3 },
  ]);
  expect(withSize(plan, { from: ["x", "w"], to: "y" }, null).sizes).toEqual([]);
  const both = withCorrelation(withCorrelation(plan, "a", "b", 0.2), "b", "a", 0.4);
  expect(both.correlations).toEqual([{ a: "b", b: "a", r: 0.4 }]);
  expect(piecesOf(50, 45).map((p) => p.count)).toEqual([20, 20, 5]);
});
