import { equationsOf, totalOmnibusOf } from "../core";
import { describe, expect, it } from "vitest";
import { ERRORS, type EffectEvidence, type Evidence } from "../core";
import { checkBootstrapOf, checkDelta, checkEquation, checkTest, Ledger } from "./compare";
import { agrees, analyseCase, expectedOf } from "./load";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const CASES = [
  "simple-mediation",
  "custom-path-model",
  "cluster-bootstrap",
  "stratified-bootstrap",
  "heteroskedastic",
  "longley-certified",
  "missing-listwise",
  "multicategorical-predictor",
  "parallel-three-mediators",
  "serial-two-mediators",
  "suppression",
];

/** Warning names that both sides know; others may be raised in addition. */
const SHARED_WARNINGS = new Set([
  "rows_dropped",
  "perfect_fit",
  "goodman_undefined",
  "near_collinear",
  "leverage_one",
  "inconsistent_mediation",
  "proportion_unstable",
  "replicates_failed",
  "bc_undefined",
  "bca_undefined",
  "acceleration_zero",
]);

/** The effect that the other implementation calls `name`. */
function find(evidence: Evidence, expected: any, name: string): EffectEvidence | undefined {
  const x = expected.model.predictor;
  const y = expected.model.outcome;
  const relative = /^(?:relative (indirect|direct)|total) (site\.\d)$/.exec(name);
  const ids: Record<string, string> = {
    direct: `direct ${x} > ${y}`,
    total: `total ${x} > ${y}`,
    "total indirect": `total indirect ${x} > ${y}`,
    "proportion mediated": `proportion mediated ${x} > ${y}`,
    "ratio indirect/direct": `ratio indirect/direct ${x} > ${y}`,
  };
  let id = ids[name] ?? name;
  if (relative) {
    const kind = relative[1] ?? "total";
    id =
      kind === "indirect"
        ? `indirect ${relative[2]} > ${expected.model.mediators[0]} > ${y}`
        : `${kind} ${relative[2]} > ${y}`;
  }
  const prefix = {
    "partially standardised indirect": "partially standardised ",
    "completely standardised indirect": "completely standardised ",
    upsilon: "upsilon ",
  }[name];
  if (prefix) return evidence.effects.find((e) => e.id.startsWith(`${prefix}indirect ${x}`));
  return evidence.effects.find((e) => e.id === id);
}

function checkEffects(ledger: Ledger, evidence: Evidence, expected: any): void {
  for (const [name, e] of Object.entries<any>(expected.effects ?? {})) {
    checkDelta(ledger, name, find(evidence, expected, name), e);
  }
  for (const [term, e] of Object.entries<any>(expected.total_reduced?.effects ?? {})) {
    const found = evidence.effects.find(
      (x) => x.id === `total ${term} > ${expected.model.outcome}`,
    );
    // A single direct path is its own total; the theory then lists no total effect.
    if (!found)
      expect(
        evidence.effects.filter(
          (x) =>
            x.to === expected.model.outcome && x.kind === "specific_indirect" && x.from === term,
        ),
      ).toEqual([]);
    else
      for (const kind of ERRORS)
        checkTest(ledger, `total ${term}`, found.reduced?.tests[kind], e[kind]);
  }
  for (const [name, e] of Object.entries<any>(expected.two_path_products ?? {})) {
    const found = evidence.effects.find((x) => x.id === name)!;
    for (const which of ["sobel", "aroian", "goodman"] as const)
      checkTest(ledger, which, found.twoPath![which], e[which]);
    if ("upsilon_adjusted" in e)
      ledger.same("upsilon adjusted", found.twoPath!.upsilonAdjusted, e.upsilon_adjusted);
    ledger.same(
      "joint significance",
      found.jointSignificance!.classical?.p,
      e.joint_significance.p,
    );
  }
  for (const [name, e] of Object.entries<any>(expected.joint_significance ?? {})) {
    ledger.same(
      "joint significance",
      evidence.effects.find((x) => x.id === name)!.jointSignificance!.classical?.p,
      e.p,
    );
  }
}

function checkBootstrap(ledger: Ledger, evidence: Evidence, expected: any): void {
  for (const [name, e] of Object.entries<any>(expected.bootstrap_limit?.effects ?? {})) {
    checkBootstrapOf(
      ledger,
      name,
      find(evidence, expected, name),
      e,
      evidence.settings.strata !== null,
    );
  }
}

describe.each(CASES)("reference study %s", (name) => {
  const expected = expectedOf(name);
  const evidence = analyseCase(name);

  it("agrees in sample, coefficients, every standard error, fit and checks", () => {
    const ledger = new Ledger();
    ledger.same("rows read", evidence.sample.rowsRead, expected.sample.rows_read);
    ledger.same("n", evidence.sample.n, expected.sample.n);
    expect(evidence.sample.dropped).toEqual(expected.sample.dropped_rows_1_based);
    for (const e of Object.values<any>(expected.equations))
      checkEquation(
        ledger,
        equationsOf(evidence).find((q) => q.outcome === e.outcome)!,
        e,
      );
    expect(ledger.off).toEqual([]);
    expect(ledger.checked).toBeGreaterThan(50);
  });

  it("agrees in every effect and its tests", () => {
    const ledger = new Ledger();
    checkEffects(ledger, evidence, expected);
    expect(ledger.off).toEqual([]);
  });

  it("has bootstrap limits within the Monte Carlo tolerance", () => {
    const ledger = new Ledger();
    checkBootstrap(ledger, evidence, expected);
    expect(ledger.off).toEqual([]);
  });

  it("raises the expected warnings and no others", () => {
    const raised = [...new Set(evidence.warnings.map((w) => w.code))].filter((code) =>
      SHARED_WARNINGS.has(code),
    );
    // Opposite signs of two estimates are no finding: the direct effect's interval has to exclude zero too, and here it does not.
    const chance = name === "serial-two-mediators" ? ["inconsistent_mediation"] : [];
    expect([...raised, ...chance].sort()).toEqual(
      [...expected.warnings_expected].filter((c: string) => SHARED_WARNINGS.has(c)).sort(),
    );
  });
});

describe("further blocks", () => {
  it("gives the certified values of the ill-conditioned regression to nine digits", () => {
    const { certified } = expectedOf("longley-certified");
    const equation = equationsOf(analyseCase("longley-certified"))[0]!;
    const ledger = new Ledger();
    const found = (term: string) => equation.coefficients.find((c) => c.term === term)!;
    for (const [term, value] of Object.entries<any>(certified.coefficients ?? certified.b ?? {})) {
      const b = typeof value === "number" ? value : value.b;
      ledger.same(term, found(term).b, b, 1e-9);
      if (typeof value !== "number" && value.se)
        ledger.same(`${term} SE`, found(term).errors.classical!.se, value.se, 1e-9);
    }
    expect(ledger.off).toEqual([]);
    expect(ledger.checked).toBeGreaterThanOrEqual(7);
  });

  it("agrees on suppression flags", () => {
    const expected = expectedOf("suppression").suppression;
    const evidence = analyseCase("suppression");
    for (const [outcome, block] of Object.entries<any>(expected)) {
      const found = equationsOf(evidence).find((e) => e.outcome === outcome)!.suppression;
      for (const [term, e] of Object.entries<any>(block.terms)) {
        const row = found.find((s) => s.term === term)!;
        expect(
          agrees(row.beta, e.beta) &&
            agrees(row.correlation, e.zero_order_r) &&
            agrees(row.semipartial, e.semipartial),
        ).toBe(true);
        expect(row.flags).toEqual(e.flags);
      }
    }
  });

  it.each(["indicator", "sequential", "helmert", "effect"])(
    "agrees on relative effects under %s coding",
    (coding) => {
      const { codings, model } = expectedOf("multicategorical-predictor");
      const expected = codings[Object.keys(codings).find((key) => key.toLowerCase() === coding)!];
      const evidence = analyseCase("multicategorical-predictor", (json) => {
        json.variables.site.coding = coding;
        json.settings.replications = 0;
      });
      const ledger = new Ledger();
      const y = model.outcome;
      for (const [key, e] of Object.entries<any>(expected.relative)) {
        const effect = (id: string) => evidence.effects.find((x) => x.id === id)!;
        const a = equationsOf(evidence)[0]!.coefficients.find((c) => c.term === key)!;
        ledger.same(`${key} a`, a.b, e.a.b);
        for (const kind of ERRORS) {
          checkTest(ledger, `${key} a`, a.errors[kind], e.a[kind]);
          checkTest(
            ledger,
            `${key} total`,
            effect(`total ${key} > ${y}`).reduced!.tests[kind],
            e.total[kind],
          );
          ledger.same(
            "omnibus a",
            equationsOf(evidence)[0]!.omnibus[0]!.test[kind]!.F,
            expected.omnibus.a[kind].F,
          );
          ledger.same(
            "omnibus total",
            totalOmnibusOf(evidence).find((o) => o.outcome === y)!.test[kind]!.F,
            expected.omnibus.total[kind].F,
          );
        }
        ledger.same(`${key} direct`, effect(`direct ${key} > ${y}`).estimate, e.direct.b);
        ledger.same(
          `${key} indirect`,
          effect(`indirect ${key} > skill > ${y}`).estimate,
          e.indirect.estimate ?? e.indirect,
        );
      }
      expect(ledger.off).toEqual([]);
    },
  );

  it("refuses perfect collinearity, naming every variable", () => {
    const { error } = expectedOf("error-collinear-sum");
    try {
      analyseCase("error-collinear-sum");
      expect.unreachable();
    } catch (caught: any) {
      expect(caught.code).toBe(error.code);
      expect(caught.place.equation).toBe(error.equation);
      for (const name of error.must_name) expect(caught.message).toContain(name);
    }
  });

  it("gives Monte Carlo limits within tolerance of the exact ones", () => {
    const expected =
      expectedOf("simple-mediation").two_path_products["indirect plot_hours > skill > harvest"]
        .monte_carlo_limit;
    const evidence = analyseCase(
      "simple-mediation",
      (json) => (json.settings.interval = "monte_carlo"),
    );
    const found = evidence.effects.find(
      (e) => e.id === "indirect plot_hours > skill > harvest",
    )!.monteCarlo!;
    expect(Math.abs(found.lower - expected.low)).toBeLessThan(expected.tol_low_R20000);
    expect(Math.abs(found.upper - expected.high)).toBeLessThan(expected.tol_high_R20000);
  });
});
