import { equationsOf } from "../core";
import { describe, expect, it } from "vitest";
import {
  ERRORS,
  type ConditionalSlope,
  type EffectEvidence,
  type Evidence,
  type ModerationEvidence,
} from "../core";
import { checkBootstrapOf, checkDelta, checkEquation, checkTest, Ledger } from "./compare";
import { analyseCase, expectedOf } from "./load";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const CASES = [
  "first-stage-moderated-mediation",
  "second-stage-moderated-mediation",
  "both-stages-same-moderator",
  "first-and-second-stage-different-moderators",
  "first-stage-two-moderators-additive",
  "first-stage-two-moderators-joint",
  "moderation-none-always",
  "moderation-none-never",
  "moderation-one-root",
  "moderation-two-roots",
  "moderation-categorical-moderator",
  "three-way",
];

/** The effect that the other implementation calls `name`. */
function find(evidence: Evidence, expected: any, name: string): EffectEvidence | undefined {
  const { predictor: x, outcome: y, mediators } = expected.model;
  const route = [x, ...(mediators ?? []), y].join(" > ");
  const by = (id: string): EffectEvidence | undefined => evidence.effects.find((e) => e.id === id);
  const rules: [RegExp, (m: RegExpExecArray) => string][] = [
    [/^direct$/, () => `direct ${x} > ${y}`],
    [/^conditional indirect at (.+)$/, (m) => `conditional indirect ${route} at ${m[1]}`],
    [/^conditional direct at (.+)$/, (m) => `conditional direct ${x} > ${y} at ${m[1]}`],
    [
      /^index of moderated mediation$/,
      () => `index of moderated mediation ${route} by ${expected.model.moderators[0].by[0]}`,
    ],
    [/^partial index (.+)$/, (m) => `index of moderated mediation ${route} by ${m[1]}`],
    [
      /^(?:conditional )?index of (\w+) at (.+)$/,
      (m) => `conditional index ${route} by ${m[1]} at ${m[2]}`,
    ],
    [
      /^contrast (\S+) minus (\S+)$/,
      (m) => `contrast conditional indirect ${route} at advice ${m[1]} minus ${m[2]}`,
    ],
    [
      /^contrast (\S+) to (\S+)$/,
      (m) => `contrast conditional indirect ${route} at advice ${m[2]} minus ${m[1]}`,
    ],
    [/^derivative at (.+)$/, (m) => `derivative ${route} at ${m[1]}`],
    [/^quadratic (q\d)$/, (m) => `quadratic ${m[1]} ${route} by advice`],
  ];
  if (/cross index|moderated moderated/.test(name))
    return evidence.effects.find((e) => e.id.startsWith("index of moderated moderated mediation"));
  for (const [pattern, make] of rules) {
    const match = pattern.exec(name);
    if (match) return by(make(match));
  }
  return undefined;
}

const slopesOf = (evidence: Evidence, outcome: string, focal: string): ModerationEvidence =>
  evidence.moderations.find((m) => m.outcome === outcome && m.focal === focal)!;

function near(
  at: Record<string, number | string>,
  wanted: Record<string, number>,
  codes: Record<string, Record<string, number>>,
): boolean {
  return Object.entries(wanted).every(([key, value]) => {
    const [variable, column] = key.split(".");
    if (column !== undefined) return codes[key]![String(at[variable!])] === value;
    return typeof at[key] === "number" && Math.abs(at[key] - value) < 1e-9;
  });
}

function checkSlopes(ledger: Ledger, evidence: Evidence, expected: any): void {
  for (const [name, e] of Object.entries<any>(expected.conditional ?? {})) {
    const two = Array.isArray(e.focal) || name.startsWith("two-way");
    const focal = two ? /two-way (\w+):/.exec(name)![1]! : e.focal;
    const moderation = slopesOf(evidence, e.outcome, focal);
    const list: ConditionalSlope[] = two
      ? moderation.twoWay.find((t) => t.with === /:(\w+) at/.exec(name)![1])!.slopes
      : moderation.slopes;
    const found = list.find((s) => near(s.at, e.at, expected.coding?.site?.codes ?? {}));
    ledger.same(name, found?.estimate, e.estimate);
    for (const kind of ERRORS)
      if (e[kind]) checkTest(ledger, `${name} ${kind}`, found?.errors[kind], e[kind]);
  }
}

function checkRegions(ledger: Ledger, what: string, found: any, e: any): void {
  ledger.same(`${what} critical`, found.critical, e.critical ?? e.critical_t);
  expect(found.rootsInRange.length, what).toBe(e.roots_in_range.length);
  e.roots_in_range.forEach((root: number, i: number) =>
    ledger.same(`${what} root ${i}`, found.rootsInRange[i], root),
  );
  if (e.outcome) {
    expect([what, found.outcome]).toEqual([what, e.outcome]);
    expect(found.rootsAll.length, what).toBe(e.roots_all.length);
    e.roots_all.forEach((root: number, i: number) =>
      ledger.same(`${what} root of all ${i}`, found.rootsAll[i], root),
    );
  }
  expect(found.regions.map((r: any) => [r.significant, r.sign])).toEqual(
    e.regions.map((r: any) => [r.significant, r.sign]),
  );
  e.regions.forEach((r: any, i: number) => {
    ledger.same(`${what} from`, found.regions[i].from, r.from);
    ledger.same(`${what} to`, found.regions[i].to, r.to);
    ledger.same(`${what} percent`, found.regions[i].percent, r.percent);
  });
  if ("k_star" in e) ledger.same(`${what} k*`, found.kStar, e.k_star);
}

function checkJohnsonNeyman(ledger: Ledger, evidence: Evidence, expected: any): void {
  for (const [name, e] of Object.entries<any>(expected.jn ?? {})) {
    const two = Array.isArray(e.focal);
    const moderation = slopesOf(evidence, e.outcome, two ? e.focal[0] : e.focal);
    const fixed = Array.isArray(e.fixed) ? {} : e.fixed;
    const words = / at (.+)$/.exec(name)?.[1]?.replace(/^mean (\w+)$/, "$1 mean") ?? "";
    const set = two
      ? moderation.twoWay.find((t) => t.with === e.focal[1])!.johnsonNeyman!
      : moderation.johnsonNeyman.find(
          (j) =>
            j.over === e.over && (words === "" || j.words === words) && near(j.fixed, fixed, {}),
        )!;
    for (const kind of ERRORS) {
      if (!e[kind]) continue;
      const found = set.tests[kind]!;
      checkRegions(ledger, `${name} ${kind} pointwise`, found.pointwise, e[kind].pointwise);
      checkRegions(
        ledger,
        `${name} ${kind} simultaneous`,
        found.simultaneous,
        e[kind].simultaneous_potthoff,
      );
      checkRegions(
        ledger,
        `${name} ${kind} false discovery`,
        found.falseDiscovery,
        e[kind].false_discovery,
      );
    }
  }
}

function checkLines(ledger: Ledger, evidence: Evidence, expected: any): void {
  const { predictor: x, outcome: y } = expected.model;
  for (const [name, points] of Object.entries<any[]>(expected.lines ?? {})) {
    for (const e of points) {
      const { [x]: at, ...rest } = e.at;
      const all = slopesOf(evidence, y, x).lines.flatMap((l) => l.points);
      const found = all.find(
        (p) =>
          near(p.at, rest, expected.coding?.site?.codes ?? {}) &&
          Math.abs((p.at[x] as number) - at) < 1e-9,
      );
      ledger.same(`line ${name}`, found?.predicted, e.yhat);
      for (const kind of ["classical", "HC3"] as const)
        checkTest(ledger, `line ${name} ${kind}`, found?.errors[kind], e[kind]);
    }
  }
  for (const [name, e] of Object.entries<any>(expected.crossing ?? {})) {
    const found = slopesOf(evidence, y, x).crossings.find((c) => c.words === name);
    ledger.same(name, found?.at, e.at);
    expect(found!.insideRange).toBe(e.inside_range);
    ledger.same(`${name} SE`, found?.se.classical, e.se_classical);
    ledger.same(`${name} HC3`, found?.se.HC3, e.se_HC3);
  }
}

describe.each(CASES)("moderation study %s", (name) => {
  const expected = expectedOf(name);
  const evidence = analyseCase(name);
  const settle = (
    check: (ledger: Ledger, evidence: Evidence, expected: any) => void,
    fewest: number,
  ): void => {
    const ledger = new Ledger();
    check(ledger, evidence, expected);
    expect(ledger.off).toEqual([]);
    expect(ledger.checked).toBeGreaterThanOrEqual(fewest);
  };

  it("agrees in coefficients, errors, fit, checks and R2 change", () =>
    settle((ledger) => {
      for (const e of Object.values<any>(expected.equations)) {
        const found = equationsOf(evidence).find((q) => q.outcome === e.outcome)!;
        checkEquation(ledger, found, e);
        if (!e.r2_change) continue;
        const change = (terms: string[]) =>
          found.r2Change.find((r) => [...r.terms].sort().join() === [...terms].sort().join());
        expect(found.r2Change).toHaveLength(e.r2_change.length);
        e.r2_change.forEach((r: any) => {
          ledger.same(`R2 change ${r.terms}`, change(r.terms)?.r2Change, r.r2_change);
          for (const kind of ERRORS)
            if (r[kind]) ledger.same(`F ${kind}`, change(r.terms)?.tests[kind]?.F, r[kind].F);
        });
      }
    }, 60));

  it("agrees in every conditional slope", () => settle(checkSlopes, 3));
  it("agrees in regions of significance of every kind", () =>
    settle(checkJohnsonNeyman, expected.jn ? 30 : 0));
  it("agrees in lines and crossing points", () => settle(checkLines, expected.lines ? 6 : 0));

  it("agrees in conditional indirect effects, indices and their bootstrap limits", () =>
    settle(
      (ledger) => {
        for (const [effect, e] of Object.entries<any>(expected.effects ?? {}))
          checkDelta(ledger, effect, find(evidence, expected, effect), e);
        for (const [effect, e] of Object.entries<any>(expected.bootstrap_limit?.effects ?? {})) {
          checkBootstrapOf(ledger, effect, find(evidence, expected, effect), e);
        }
      },
      expected.effects ? 20 : 0,
    ));

  it("agrees in z-scores and when centred", () => {
    const ledger = new Ledger();
    for (const [outcome, terms] of Object.entries<any>(expected.standardised_model ?? {})) {
      const found = equationsOf(evidence).find((q) => q.outcome === outcome)!;
      for (const [term, e] of Object.entries<any>(terms)) {
        const z = found.coefficients.find((c) => c.term === term)!.zScores!;
        ledger.same(`${term} z`, z.b, e.b);
        ledger.same(`${term} z SE`, z.errors.classical!.se, e.se_classical);
        ledger.same(`${term} z HC3`, z.errors.HC3!.se, e.se_HC3);
      }
    }
    const centred =
      expected.centred &&
      analyseCase(name, (json) =>
        Object.assign(json.settings, { centring: "mean", replications: 0 }),
      );
    for (const [outcome, e] of Object.entries<any>(expected.centred ?? {})) {
      const found = equationsOf(centred).find((q: any) => q.outcome === outcome)!;
      for (const [term, c] of Object.entries<any>(e.coefficients)) {
        const own = found.coefficients.find((x: any) => x.term === term)!;
        ledger.same(`${term} centred`, own.b, c.b);
        for (const kind of ERRORS)
          if (c[kind]) checkTest(ledger, `${term} centred ${kind}`, own.errors[kind], c[kind]);
      }
      ledger.same("condition", found.conditionNumber.scaled, e.condition_number.scaled);
    }
    expect(ledger.off).toEqual([]);
  });

  it("agrees in the region of the conditional indirect effect", () => {
    const e = expected.indirect_region;
    if (!e) return;
    const ledger = new Ledger();
    const region = evidence.regions[0]!;
    e.estimate.forEach((value: number, i: number) =>
      ledger.same(`at ${e.grid[i]}`, region.estimate[i], value),
    );
    for (const kind of ["percentile", "bc", "bca"] as const) {
      const band = region.bands![kind];
      (e[kind]?.low ?? []).forEach((limit: number, i: number) => {
        ledger.within(`${kind} lower ${i}`, band.lower[i], limit, e[kind].tol_low[i]);
        ledger.within(`${kind} upper ${i}`, band.upper[i], e[kind].high[i], e[kind].tol_high[i]);
      });
      // A boundary that some runs do not have is no number to compare.
      if (!e[kind] || e[kind].batches_with_same_number_of_boundaries < e[kind].batches) continue;
      expect(band.boundaries).toHaveLength(e[kind].boundaries.length);
      e[kind].boundaries.forEach((at: number, i: number) =>
        ledger.within(`${kind} boundary ${i}`, band.boundaries[i], at, e[kind].boundary_tol[i]),
      );
    }
    expect(ledger.off).toEqual([]);
    expect(ledger.checked).toBeGreaterThan(150);
  });

  it("raises no unexpected warning", () => {
    const shared = new Set([
      "rows_dropped",
      "perfect_fit",
      "near_collinear",
      "leverage_one",
      "probe_outside_range",
      "replicates_failed",
      "bc_undefined",
    ]);
    expect(evidence.warnings.map((w) => w.code).filter((c) => shared.has(c))).toEqual(
      expected.warnings_expected,
    );
  });
});
/* eslint-enable @typescript-eslint/no-explicit-any */
