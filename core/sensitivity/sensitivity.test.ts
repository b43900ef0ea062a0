import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { correlation, mean } from "../numerics/moments";
import { analyseMade, normals } from "../test-kit";
import { eValue, leftOut, linearSensitivity, type LinearSensitivity, type LinearTriad } from ".";
import { project } from "./projection";

const N = 120;

function triadOf(seed: number, { sign = 1, shift = 0, times = 1 } = {}): LinearTriad {
  const e = Array.from({ length: 4 }, (_, at) => normals(N, seed * 40 + at));
  const x = Float64Array.from(e[0]!);
  const c = Float64Array.from(e[1]!, (v, i) => v + 0.3 * x[i]!);
  const m = Float64Array.from(e[2]!, (v, i) => 0.6 * x[i]! + 0.4 * c[i]! + v);
  const y = Float64Array.from(e[3]!, (v, i) => 0.2 * x[i]! + 0.5 * m[i]! + 0.3 * c[i]! + v);
  const moved = (values: Float64Array): Float64Array => values.map((v) => shift + times * v);
  return {
    treatment: "x",
    contrast: "one unit more",
    mediator: "m",
    outcome: "y",
    distance: 1,
    x: moved(x),
    m: moved(m.map((v) => sign * v)),
    y: moved(y),
    others: [{ label: "c", values: moved(c), benchmark: true }],
  };
}

const tell = (triad: LinearTriad, guesses: { difference: number; effect: number }[] = []) =>
  linearSensitivity(triad, 0.95, guesses)!;
const at = (s: LinearSensitivity, rho: number) =>
  s.curve.find((c) => Math.abs(c.rho - rho) < 1e-9)!;
const seeds = fc.integer({ min: 1, max: 500 });
const RUNS = { numRuns: 15 };

describe("the curve of an indirect effect", () => {
  it("is the product of coefficients without correlation, and zero at that of the errors", () =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const triad = triadOf(seed);
        const s = tell(triad);
        const c = triad.others[0]!.values;
        const ofM = project(triad.m, [triad.x, c])!;
        const ofY = project(triad.y, [triad.x, c])!;
        expect(at(s, 0).indirect).toBeCloseTo(s.indirect, 10);
        expect(s.rhoAtZero).toBeCloseTo(correlation(ofM.residuals, ofY.residuals), 10);
        for (const point of s.curve) expect(point.indirect + point.direct).toBeCloseTo(s.total, 9);
      }),
      RUNS,
    ));

  it("is the product with the mediator's slope that makes the errors correlate so", () =>
    fc.assert(
      fc.property(seeds, fc.constantFrom(-0.6, -0.2, 0.1, 0.5), (seed, rho) => {
        const triad = triadOf(seed);
        const s = tell(triad);
        const c = triad.others[0]!.values;
        const ofM = project(triad.m, [triad.x, c])!;
        // Residual correlation falls as the mediator is given a larger slope: bisection, no
        // formula.
        let [low, high] = [-50, 50];
        for (let round = 0; round < 100; round++) {
          const b = (low + high) / 2;
          const rest = triad.y.map((v, i) => v - b * triad.m[i]!);
          const errors = project(rest, [triad.x, c])!.residuals;
          if (correlation(errors, ofM.residuals) > rho) low = b;
          else high = b;
        }
        expect(at(s, rho).indirect).toBeCloseTo((ofM.slopes[0]! * (low + high)) / 2, 7);
      }),
      RUNS,
    ));

  it("keeps its shares and turns its sign with the mediator's, wherever the data lie", () =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const own = tell(triadOf(seed));
        const far = tell(triadOf(seed, { shift: 1e6, times: 10 }));
        expect(far.rhoAtZero).toBeCloseTo(own.rhoAtZero, 6);
        expect(far.indirect).toBeCloseTo(own.indirect, 6);
        expect(far.r2Total).toBeCloseTo(own.r2Total, 6);
        const turned = tell(triadOf(seed, { sign: -1 }));
        expect(turned.indirect).toBeCloseTo(own.indirect, 9);
        expect(turned.rhoAtZero).toBeCloseTo(-own.rhoAtZero, 9);
        expect(turned.r2Residual).toBeCloseTo(own.r2Residual, 9);
      }),
      RUNS,
    ));

  it("ends its interval's zero where a limit is zero", () =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const s = tell(triadOf(seed));
        const [low, high] = s.rhoOfInterval;
        for (const end of [low, high]) {
          if (end === null) continue;
          // Between neighbours of the curve the limit changes its sign.
          const before = [...s.curve].reverse().find((c) => c.rho < end);
          const after = s.curve.find((c) => c.rho > end);
          if (!before || !after) continue;
          const holds = (c: typeof before): boolean => c.lower <= 0 && c.upper >= 0;
          if (Math.abs(before.rho - s.rhoAtZero) > 0.05 && Math.abs(after.rho - s.rhoAtZero) > 0.05)
            expect(holds(before) || holds(after) || after.rho - before.rho < 0.051).toBe(true);
        }
        expect(low === null || low <= s.rhoAtZero).toBe(true);
        expect(high === null || high >= s.rhoAtZero).toBe(true);
      }),
      RUNS,
    ));

  it("has errors as large as those of samples drawn again", () => {
    const found = Array.from({ length: 400 }, (_, seed) => tell(triadOf(seed + 1)));
    for (const rho of [-0.4, 0, 0.4]) {
      const values = found.map((s) => at(s, rho).indirect);
      const centre = mean(values);
      const sd = Math.sqrt(values.reduce((a, v) => a + (v - centre) ** 2, 0) / (values.length - 1));
      const told = mean(found.map((s) => at(s, rho).indirectSe));
      expect(told / sd).toBeGreaterThan(0.85);
      expect(told / sd).toBeLessThan(1.15);
    }
  });
});

describe("something left out", () => {
  it("that was measured after all is what its benchmark says", () =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const triad = triadOf(seed);
        const whole = tell(triad);
        // Leaving the covariate out of the outcome's equation alone moves the direct effect by its
        // difference times its effect.
        const without = project(triad.y, [triad.x, triad.m])!;
        const own = whole.leftOut[0]!;
        expect(own.covariate).toBe("c");
        const direct = whole.total - whole.indirect;
        expect(without.slopes[0]!).toBeCloseTo(direct + own.difference * own.effect, 9);
      }),
      RUNS,
    ));

  it("is allowed for in both parts, and so many times as strong takes all", () => {
    const [guess] = [{ difference: 0.4, effect: 0.3 }];
    const s = tell(triadOf(4), [guess]);
    const own = s.leftOut.at(-1)!;
    expect(own.covariate).toBeNull();
    expect(own.indirect).toBeCloseTo(s.indirect + 0.12, 12);
    expect(own.indirect + own.direct).toBeCloseTo(s.total, 12);
    const k = own.timesToZero!;
    const taken = leftOut(
      { indirect: s.indirect, direct: 0 },
      { difference: -k * 0.4 * Math.sign(s.indirect), effect: k * 0.3 },
    );
    expect(taken.indirect).toBeCloseTo(0, 10);
    expect(tell(triadOf(4), [{ difference: 0, effect: 1 }]).leftOut.at(-1)!.timesToZero).toBeNull();
  });

  it("is said in words: enough, not enough, or no matter", () => {
    const strong = tell(triadOf(4), [{ difference: 3, effect: 3 }]).words.at(-1)!;
    expect(strong).toContain("it is enough to explain all of it");
    const weak = tell(triadOf(4), [{ difference: 0.01, effect: 0.1 }]).words.at(-1)!;
    expect(weak).toContain("is not enough;");
    expect(weak).toContain("times as strong in both relations");
    const none = tell(triadOf(4), [{ difference: 0, effect: 1 }]).words.at(-1)!;
    expect(none).toContain("would change nothing");
    const nothing = { ...triadOf(4), m: Float64Array.from(normals(N, 9)) };
    expect(tell(nothing).words.join(" ")).toContain("contains zero");
  });

  it("has an E-value of one for no effect, the same for a ratio and its inverse", () => {
    expect(eValue(1)).toBe(1);
    expect(eValue(2)).toBeCloseTo(2 + Math.SQRT2, 12);
    expect(eValue(0.5)).toBeCloseTo(eValue(2), 12);
  });
});

describe("where it is told", () => {
  const columns = {
    x: [...triadOf(2).x],
    m: [...triadOf(2).m],
    y: [...triadOf(2).y],
    c: [...triadOf(2).others[0]!.values],
  };
  const told = (theory: string, settings = {}): LinearSensitivity[] =>
    analyseMade({ columns, theory, settings: { interval: "delta", ...settings } }).sections.flatMap(
      (s) => (s.kind === "sensitivity" ? s.effects : []),
    );

  it("of one mediator by straight lines with the same covariates, by both engines alike", () => {
    const theory = "H1: x raises y through m\nadjust m, y for c";
    const [squares] = told(theory);
    const [others] = told(`${theory}\ncompare x at 1 with 0`, {
      engine: "generalised",
      options: { treatment_product: "out" },
    });
    expect(others!.indirect).toBeCloseTo(squares!.indirect, 9);
    expect(others!.rhoAtZero).toBeCloseTo(squares!.rhoAtZero, 9);
  });

  it("not where covariates differ, a product stands, or paths go through several", () => {
    expect(told("H1: x raises y through m\nadjust y for c")).toEqual([]);
    expect(told("H1: x raises y through m\nH2: c strengthens m to y")).toEqual([]);
    expect(told("H1: x raises y through m\nH2: x raises y through c")).toEqual([]);
    expect(told("H1: x raises y through m\nadjust m, y for c", { engine: "generalised" })).toEqual(
      [],
    );
  });

  it("not of a perfect fit, nor of rows made up from a matrix", () => {
    const { x, m } = columns;
    const exact = { ...columns, y: x.map((v, i) => 2 * v - 3 * m[i]!) };
    const found = analyseMade({
      columns: exact,
      theory: "H1: x raises y through m",
      settings: { interval: "delta" },
    });
    expect(found.sections.some((s) => s.kind === "sensitivity")).toBe(false);
    const none = { ...columns, y: m.map(() => 1).map((v, i) => v + (i % 2)) };
    expect(() =>
      analyseMade({
        columns: none,
        theory: "H1: x raises y through m",
        settings: { interval: "delta" },
      }),
    ).not.toThrow();
  });
});
