import { equationsOf } from "./equations-of";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { analyse } from "../analysis";
import { guessVariable, TableBuilder } from "../data";
import {
  boundaries,
  falseDiscovery,
  johnsonNeyman,
  slopeAt,
  varianceAt,
  type LinearSlope,
} from "../inference/johnson-neyman";
import { RandomStream } from "../numerics/random";
import { DEFAULT_SETTINGS, newDefinition, type Settings } from "../study";
import { effectAt, predictAt } from "./probe-model";
import { regionSentence } from "./region-words";
import type { Evidence } from "./types";

/**
 * x moderated by w on m, m on y; multiples of 2^-10, so that adding a million loses nothing of the
 * data themselves.
 */
function run(
  theory: string,
  {
    shift = 0,
    n = 120,
    change = {},
  }: { shift?: number; n?: number; change?: Partial<Settings> } = {},
): Evidence {
  const builder = new TableBuilder(["x", "w", "g", "m", "y"]);
  const round = (v: number): number => Math.round(v * 1024) / 1024;
  for (let i = 0; i < n; i++) {
    const r = new RandomStream(77, i);
    const [x, w] = [round(r.normal()), round(r.normal())];
    const g = i % 3;
    const m = 0.4 * x + 0.3 * w + 0.35 * x * w + 0.2 * g + r.normal();
    builder.add(
      [
        x + shift,
        w + shift,
        "abc"[g]!,
        round(m),
        round(0.5 * m + 0.1 * x + 0.2 * m * w + r.normal()),
      ].map(String),
    );
  }
  const table = builder.build();
  const variables = table.columns.map((c) => ({
    ...guessVariable(c),
    ...(c.name === "g" ? { level: "categorical" as const } : {}),
  }));
  const settings = { ...DEFAULT_SETTINGS, replications: 0, ...change };
  return analyse({ ...newDefinition("", variables), theory, settings }, table);
}

const estimates = (e: Evidence): Record<string, number | null> =>
  Object.fromEntries(e.effects.map((q) => [q.id, q.estimate]));
const FIRST = "H1: w strengthens x to y through m on x to m";

describe("moderated effects", () => {
  it("do not depend on how coefficients are centred, nor on where the data lie", () => {
    const base = estimates(run(FIRST));
    for (const centring of ["mean", "products"] as const)
      expect(estimates(run(FIRST, { change: { centring } }))).toEqual(base);
    for (const [id, value] of Object.entries(estimates(run(FIRST, { shift: 1e6 }))))
      expect([id, value]).toEqual([id, expect.closeTo(base[id]!, 7)]);
  });

  it("report an equation without products in raw units, its z-scores being the standardised coefficients", () => {
    const y = equationsOf(run(FIRST)).find((e) => e.outcome === "y")!;
    const intercept = (e: typeof y): number =>
      e.coefficients.find((c) => c.term === "intercept")!.b;
    // The same equation in a study where nothing is moderated.
    expect(intercept(y)).toBeCloseTo(
      intercept(equationsOf(run("H1: x raises y through m")).find((e) => e.outcome === "y")!),
      12,
    );
    for (const c of y.coefficients.filter((one) => one.term !== "intercept")) {
      expect(c.zScores!.b).toBeCloseTo(c.beta!, 12);
      expect(c.zScores!.errors.classical!.t).toBeCloseTo(c.errors.classical!.t!, 9);
    }
    expect(y.coefficients[0]!.zScores!.b).toBeCloseTo(0, 12);
  });

  it("keep regions and crossing points at means of a million", () => {
    const [near, far] = [run(FIRST), run(FIRST, { shift: 1e6 })].map((e) =>
      e.moderations.find((m) => m.focal === "x")!,
    );
    const roots = (m: typeof near): number[] => m!.johnsonNeyman[0]!.tests.HC3!.pointwise.rootsAll;
    roots(far).forEach((root, i) => expect(root - 1e6).toBeCloseTo(roots(near)[i]!, 6));
    expect(far!.crossings[1]!.at - 1e6).toBeCloseTo(near!.crossings[1]!.at, 6);
    expect(far!.crossings[1]!.se.classical).toBeCloseTo(near!.crossings[1]!.se.classical!, 6);
  });

  it("are what a refit about the probe gives: raw coefficients of shifted data", () => {
    const evidence = run(FIRST);
    const moderation = evidence.moderations.find((m) => m.focal === "x")!;
    const low = moderation.slopes[0]!;
    const m = equationsOf(evidence).find((e) => e.outcome === "m")!;
    const b = (term: string): number => m.coefficients.find((c) => c.term === term)!.b;
    expect(low.estimate).toBeCloseTo(b("x") + b("x:w") * (low.at.w as number), 12);
    const { model } = moderation;
    expect(effectAt(model, "x", new Map([["w", low.at.w as number]])).estimate).toBeCloseTo(
      low.estimate,
      12,
    );
    expect(effectAt(model, "x", new Map([["w", low.at.w as number]])).se).toBeCloseTo(
      low.errors.classical!.se,
      12,
    );
    const at = (x: number, w: number): number =>
      predictAt(
        model,
        new Map([
          ["x", x],
          ["w", w],
        ]),
      ).estimate;
    expect(at(2, 1) - at(1, 1)).toBeCloseTo(b("x") + b("x:w"), 10);
    expect(at(0, 0)).toBeCloseTo(b("intercept"), 10);
  });

  it("have no index where one variable moderates both stages, and a cross index where two do", () => {
    const both = run("H1: w alters x to y through m on x to m and m to y");
    expect(both.effects.some((e) => e.kind === "index")).toBe(false);
    expect(both.hypotheses[0]!.effects).toEqual(["average change x > m > y by w"]);
    const q = (power: number): number =>
      both.effects.find((e) => e.id === `quadratic q${power} x > m > y by w`)!.estimate!;
    const high = both.effects.find(
      (e) => e.id === "conditional indirect x > m > y at w mean+sd",
    )!.estimate!;
    const w = both.moderations[0]!.moderators.find((m) => m.name === "w")!.probes.at(-1)!.value!;
    expect(q(0) + q(1) * w + q(2) * w * w).toBeCloseTo(high, 10);
  });

  it("takes categorical moderators by their levels", () => {
    const evidence = run("H1: g alters x to m");
    const moderation = evidence.moderations.find((m) => m.focal === "x")!;
    expect(moderation.slopes.map((s) => s.at.g)).toEqual(["a", "b", "c"]);
    expect(evidence.hypotheses[0]!.effects).toEqual([
      "interaction x:g.1 on m",
      "interaction x:g.2 on m",
    ]);
    expect(equationsOf(evidence)[0]!.r2Change).toHaveLength(1);
    expect(equationsOf(evidence)[0]!.r2Change[0]!.tests.classical!.df1).toBe(2);
  });

  it("warns of probes beyond the data and judges a moderated path by its average", () => {
    const evidence = run(`${FIRST}\nH2: x raises y through m`, { change: { probes: { w: [99] } } });
    expect(evidence.warnings.map((w) => w.code)).toContain("probe_outside_range");
    const path = run(`${FIRST}\nH2: x raises y through m`).hypotheses[1]!;
    expect([path.effects, path.quantity]).toEqual([
      ["average indirect x > m > y"],
      "average indirect effect",
    ]);
  });

  it("has its own resamples: limits lie around the estimate, and the band agrees with the effect at a probe", () => {
    const evidence = run(FIRST, { change: { replications: 800 } });
    const index = evidence.effects.find((e) => e.kind === "index")!;
    expect(index.bootstrap!.percentile!.lower).toBeLessThan(index.estimate!);
    expect(index.bootstrap!.percentile!.upper).toBeGreaterThan(index.estimate!);
    const { grid, bands } = evidence.regions[0]!;
    const probed = run(FIRST, {
      change: { replications: 800, probes: { w: [grid[20]!] } },
    }).effects.find((e) => e.kind === "conditional_indirect")!;
    expect(bands!.bca.lower[20]).toBeCloseTo(probed.bootstrap!.bca!.lower, 9);
    expect(bands!.percentile.upper[20]).toBeCloseTo(probed.bootstrap!.percentile!.upper, 9);
    const coefficient = equationsOf(evidence)[0]!.coefficients.find((c) => c.term === "x")!;
    expect(coefficient.bootstrap!.percentile!.lower).toBeLessThan(coefficient.b);
  });
});

describe("regions of significance", () => {
  const slopes = fc.record({
    b1: fc.double({ min: -3, max: 3, noNaN: true }),
    b3: fc.double({ min: -3, max: 3, noNaN: true }),
    v11: fc.double({ min: 0.01, max: 1, noNaN: true }),
    r: fc.double({ min: -0.9, max: 0.9, noNaN: true }),
    v33: fc.double({ min: 0.01, max: 1, noNaN: true }),
  });
  const make = ({
    r,
    ...s
  }: {
    b1: number;
    b3: number;
    v11: number;
    r: number;
    v33: number;
  }): LinearSlope => ({
    ...s,
    v13: r * Math.sqrt(s.v11 * s.v33),
    centre: 2,
    df: 50,
  });
  const values = Float64Array.from({ length: 40 }, (_, i) => i / 10);

  it("at every boundary the slope is exactly the critical number of standard errors", () => {
    fc.assert(
      fc.property(slopes, (s) => {
        const slope = make(s);
        for (const root of boundaries(slope, 2)) {
          fc.pre(Math.abs(root) < 1e4);
          expect(Math.abs(slopeAt(slope, root)) / Math.sqrt(varianceAt(slope, root))).toBeCloseTo(
            2,
            4,
          );
        }
      }),
    );
  });

  it("cover the range without gaps, and their shares add up", () => {
    fc.assert(
      fc.property(slopes, (s) => {
        for (const found of [
          johnsonNeyman(make(s), 2, values),
          falseDiscovery(make(s), 0.95, values),
        ]) {
          expect(found.regions[0]!.from).toBe(0);
          expect(found.regions.at(-1)!.to).toBe(3.9);
          found.regions.slice(1).forEach((r, i) => expect(r.from).toBe(found.regions[i]!.to));
          expect(found.regions.reduce((sum, r) => sum + r.percent, 0)).toBeCloseTo(100, 9);
        }
      }),
    );
  });

  it("are told in a sentence that never says an effect is absent", () => {
    const sure = johnsonNeyman(
      { b1: 1, b3: 1, v11: 0.05, v13: 0, v33: 0.01, centre: 2, df: 50 },
      2,
      values,
    );
    const words = (of: typeof sure): string =>
      regionSentence(
        of,
        { focal: "hours", focalLabel: "hours", focalVariable: "hours", outcome: "confidence" },
        "support",
        { n: 40, unit: "people" },
        { rule: "pointwise", errors: "classical", level: 0.95, shown: true },
      );
    expect(words(sure)).toMatch(
      /positive where support is at least 1\.\d+ \(\d+ % of the 40 people\)\. Elsewhere/,
    );
    const none = johnsonNeyman(
      { b1: 0, b3: 0, v11: 1, v13: 0, v33: 1, centre: 2, df: 50 },
      2,
      values,
    );
    expect(words(none)).toMatch(/has an interval that contains zero at every value of support/);
  });
});
