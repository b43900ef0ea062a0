import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { effectAt, predictAt, responseAt, responseSlopeAt, type Evidence } from "../../evidence";
import { analyseMade, normals } from "../../test-kit";
import type { ResponseSection } from "./types";

const N = 160;

/**
 * A predictor and a moderator, a yes/no and a count that depend on both and their product; a group
 * of two.
 */
function columnsOf(seed: number, shift = 0, times = 1): Record<string, number[]> {
  const e = Array.from({ length: 5 }, (_, at) => normals(N, seed * 50 + at));
  const x = e[0]!;
  const w = e[1]!;
  const eta = x.map((v, i) => -0.2 + 0.6 * v + 0.3 * w[i]! - 0.4 * v * w[i]!);
  return {
    x: x.map((v) => shift + times * v),
    w: w.map((v) => shift + times * v),
    group: e[2]!.map((v) => (v > 0 ? 1 : 0)),
    yes: eta.map((v, i) => (v + 1.7 * e[3]![i]! > 0 ? 1 : 0)),
    count: eta.map((v, i) => Math.max(0, Math.round(Math.exp(v / 2) + 0.5 * e[4]![i]!))),
  };
}

const run = (columns: Record<string, number[]>, theory: string): Evidence =>
  analyseMade({ columns, theory, settings: { engine: "generalised", interval: "delta" } });

const sectionOf = ({ sections }: Evidence): ResponseSection =>
  sections.find((s) => s.kind === "responses")!;

const seeds = fc.integer({ min: 1, max: 400 });
const RUNS = { numRuns: 6 };
const YES = "H1: x raises yes\nH2: w alters x to yes";
const COUNT = "H1: x raises count\nH2: w alters x to count\nmodel count as poisson";

describe("lines of responses with a link", () => {
  it("are the linear predictor of the coefficients as they are reported, and its slope", () =>
    fc.assert(
      fc.property(seeds, fc.constantFrom(YES, COUNT), (seed, theory) => {
        const columns = columnsOf(seed);
        const evidence = run(columns, theory);
        const own = evidence.moderations.find((m) => m.focal === "x")!;
        const b = new Map(
          sectionOf(evidence).models[0]!.coefficients.map((c) => [c.term, c.estimate]),
        );
        const product = b.get("x:w") ?? b.get("w:x")!;
        for (let i = 0; i < 5; i++) {
          const [x, w] = [columns.x![i]!, columns.w![i]!];
          const eta = b.get("(intercept)")! + b.get("x")! * x + b.get("w")! * w + product * x * w;
          const at = new Map([
            ["x", x],
            ["w", w],
          ]);
          expect(predictAt(own.model, at).estimate).toBeCloseTo(eta, 9);
          expect(effectAt(own.model, "x", at).estimate).toBeCloseTo(b.get("x")! + product * w, 9);
          const mean = theory === YES ? 1 / (1 + Math.exp(-eta)) : Math.exp(eta);
          const read = responseAt(own.model, at, 1.96);
          expect(read.estimate).toBeCloseTo(mean, 9);
          expect(read.lower!).toBeLessThan(mean);
          expect(read.upper!).toBeGreaterThan(mean);
          const step = 1e-5;
          const up = responseAt(own.model, new Map([...at, ["x", x + step]]), 1.96).estimate;
          expect(responseSlopeAt(own.model, "x", at)).toBeCloseTo((up - mean) / step, 4);
        }
      }),
      RUNS,
    ));

  it("keep slopes, regions and the interaction wherever the data lie, and follow their units", () =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const near = run(columnsOf(seed), YES);
        const far = run(columnsOf(seed, 1e6, 10), YES);
        const [a, b] = [near, far].map((e) => e.moderations.find((m) => m.focal === "x")!);
        a!.slopes.forEach((slope, i) => {
          expect(10 * b!.slopes[i]!.estimate).toBeCloseTo(slope.estimate, 5);
          expect(b!.slopes[i]!.errors.classical!.t).toBeCloseTo(slope.errors.classical!.t, 4);
        });
        const [jnA, jnB] = [a!, b!].map((m) => m.johnsonNeyman[0]!.tests.classical!.pointwise);
        jnA!.rootsAll.forEach((root, i) =>
          expect((jnB!.rootsAll[i]! - 1e6) / 10).toBeCloseTo(root, 3),
        );
        const [iA, iB] = [near, far].map((e) => sectionOf(e).interactions[0]!);
        expect(100 * iB!.average).toBeCloseTo(iA!.average, 5);
        expect(iB!.shareSignificant).toBeCloseTo(iA!.shareSignificant, 1);
      }),
      RUNS,
    ));

  it("have no lever for a product of a treatment with its mediator that nobody claims", () => {
    const columns = { ...columnsOf(3), m: columnsOf(3).w! };
    const evidence = run(columns, "H1: group raises yes through m");
    expect(evidence.moderations).toEqual([]);
  });
});

describe("the interaction in probabilities", () => {
  const probability = (b: Map<string, number>, x: number, w: number): number => {
    const product = b.get("x:w") ?? b.get("w:x") ?? b.get("x:group") ?? b.get("group:x")!;
    const second = b.get("w") ?? b.get("group")!;
    const eta = b.get("(intercept)")! + b.get("x")! * x + second * w + product * x * w;
    return 1 / (1 + Math.exp(-eta));
  };
  const coefficients = (e: Evidence): Map<string, number> =>
    new Map(sectionOf(e).models[0]!.coefficients.map((c) => [c.term, c.estimate]));

  it("is the mean cross difference of predicted probabilities", () =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const columns = columnsOf(seed);
        const evidence = run(columns, YES);
        const b = coefficients(evidence);
        const h = 1e-3;
        const each = columns.x!.map((x, i) => {
          const w = columns.w![i]!;
          const at = (dx: number, dw: number): number => probability(b, x + dx * h, w + dw * h);
          return (at(1, 1) - at(1, -1) - at(-1, 1) + at(-1, -1)) / (4 * h * h);
        });
        const found = sectionOf(evidence).interactions[0]!;
        expect(found.kind).toBe("cross_derivative");
        expect(found.average).toBeCloseTo(each.reduce((s, v) => s + v, 0) / N, 5);
        expect(found.minimum).toBeCloseTo(Math.min(...each), 4);
        expect(found.shareNegative).toBeCloseTo(each.filter((v) => v < 0).length / N, 1);
        expect(found.model.p!).toBeGreaterThan(0);
      }),
      RUNS,
    ));

  it("takes a step where a column has two values", () =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const columns = columnsOf(seed);
        const evidence = run(columns, "H1: x raises yes\nH2: group alters x to yes");
        const b = coefficients(evidence);
        const h = 1e-4;
        const each = columns.x!.map((x) => {
          const rise = (w: number): number =>
            (probability(b, x + h, w) - probability(b, x - h, w)) / (2 * h);
          return rise(1) - rise(0);
        });
        const found = sectionOf(evidence).interactions[0]!;
        expect(found.kind).toBe("difference_of_derivatives");
        expect(found.average).toBeCloseTo(each.reduce((s, v) => s + v, 0) / N, 6);
        expect(found.maximum).toBeCloseTo(Math.max(...each), 6);
      }),
      RUNS,
    ));

  it("is a double difference where both have two, and its words say which step", () => {
    const columns = columnsOf(7);
    const sex = columns.w!.map((v) => (v > 0 ? 1 : 0));
    const evidence = run({ ...columns, sex }, "H1: group raises yes\nH2: sex alters group to yes");
    const found = sectionOf(evidence).interactions[0]!;
    const share = (g: number, s: number): number => {
      const rows = columns.yes!.filter((_, i) => columns.group![i] === g && sex[i] === s);
      return rows.reduce((a, v) => a + v, 0) / rows.length;
    };
    // A saturated model predicts the shares of its cells.
    const [x, w] = found.columns;
    expect([x, w].sort()).toEqual(["group", "sex"]);
    expect(found.kind).toBe("double_difference");
    expect(found.average).toBeCloseTo(share(1, 1) - share(0, 1) - share(1, 0) + share(0, 0), 8);
    expect(found.minimum).toBeCloseTo(found.maximum, 12);
    expect(found.words).toContain(`between the two values of ${w}`);
    expect(found.words).toMatch(/in (0|100) % of the rows/);
  });
});
