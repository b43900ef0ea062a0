import { describe, expect, it } from "vitest";
import type { Settings } from "../study";
import { analyseMade, normals, regress } from "../test-kit";
import { equationsOf } from "./equations-of";
import { reportSentence } from "./report";
import {
  e2,
  e3,
  e4,
  e5,
  mean,
  hypothesis,
  effect,
  x,
  w,
  m,
  k,
  y,
  columns,
  run,
} from "../test-kit/situations";
import type { Evidence } from "./types";

it("several effects at once are told by one test: differing, not, or too near to say", () => {
  const { claim } = hypothesis(run("H1: x raises y", { replications: 0, interval: "delta" }), "H1");
  const sentence = (p: number, verdict: "supported" | "not_supported" | "unsettled"): string => {
    const joint = { reference: "F" as const, statistic: 4.12, df1: 2, df2: 116, p };
    const test = { ...claim!, estimate: null, level: 0.95, joint };
    const claimed = ["b", "c"].map((level) => ({
      kind: "direct" as const,
      label: `${level} on y`,
    }));
    return reportSentence(claimed as never, test as never, verdict, {
      settings: {} as Settings,
      errors: "classical",
      used: null,
      measure: "b",
      name: null,
      adjusted: null,
      reason: "",
    });
  };
  expect(sentence(0.019, "supported")).toBe(
    "The 2 effects (b on y; c on y), tested together, differed from zero (joint test F(2, 116) = 4.12, p = .019).",
  );
  expect(sentence(0.06, "not_supported")).toContain("were not distinguishable from zero");
  expect(sentence(0.049, "unsettled")).toMatch(
    /Another seed, or more bootstrap samples, could change/,
  );
});

/** What may be printed, and that one number has one p everywhere. */
it("a sentence begins with the label, whatever colons the names of variables hold", () => {
  const test = {
    joint: null,
    estimate: 0.2,
    se: null,
    lower: 0.1,
    upper: 0.3,
    nullValue: 0,
    level: 0.95,
    tail: "two",
    direction: 1,
    reference: "normal",
    p: null,
  };
  const begins = (kind: string, label: string): string =>
    reportSentence([{ kind, label }] as never, test as never, "supported", {
      settings: {} as never,
      errors: "classical",
      used: null,
      measure: "b",
      name: null,
      adjusted: null,
      reason: "",
    }).split(" was ")[0]!;
  const route = "Q1: hours on Q2: difference, felt through m";
  expect(begins("average_change", `${route}: difference, w, averaged over the sample`)).toBe(
    `The moderation of the effect of ${route}, difference, w, averaged over the sample,`,
  );
  expect(begins("average_change", `${route}: change per unit of Q3: age`)).toBe(
    `The moderation of the effect of ${route}, change per unit of Q3: age,`,
  );
  expect(begins("index", `${route}: index of moderated mediation by Q3: age`)).toBe(
    `The effect of ${route}, the index of moderated mediation by Q3: age,`,
  );
  expect(begins("specific_indirect", "x on y through m, as a product of coefficients")).toBe(
    "The indirect effect of x on y through m, as a product of coefficients,",
  );
  expect(begins("index", "a rating: x on y")).toBe("The effect of a rating: x on y,");
});

describe("one number has one p on every screen", () => {
  const evidence = run("H1: x raises y through m\nH2: x raises y\nH3: w alters x to m", {
    replications: 0,
    interval: "delta",
    errors: "HC3",
  });
  it("single coefficients rest on t with the equation's degrees of freedom", () => {
    const shown = effect(evidence, "direct x > y").shown!;
    const test = equationsOf(evidence)
      .find((q) => q.outcome === "y")!
      .coefficients.find((c) => c.term === "x")!.errors.HC3!;
    expect(shown).toMatchObject({
      reference: "t",
      df: test.df,
      se: test.se,
      lower: test.lower,
      upper: test.upper,
    });
    expect(shown.p).toBe(test.p);
    expect(hypothesis(evidence, "H2").claim).toMatchObject({ p: test.p, lower: test.lower });
    const slopes = evidence.moderations.find((one) => one.focal === "x")!.slopes;
    for (const s of slopes)
      expect(effect(evidence, s.effect!).shown!.p).toBeCloseTo(s.errors.HC3!.p, 12);
  });
  it("products rest on z, and the evidence's delta method stays z throughout", () => {
    expect(effect(evidence, "average indirect x > m > y").shown).toMatchObject({
      reference: "z",
      df: null,
    });
    const direct = effect(evidence, "direct x > y");
    expect(direct.delta.joint.HC3!.p).toBeLessThan(direct.shown!.p!);
  });
  it("Monte Carlo draws serve products; single coefficients keep t, quantities of SDs the jackknife", () => {
    const drawn = run("H1: x raises y through m", { interval: "monte_carlo" });
    expect(effect(drawn, "indirect x > m > y").shown!.reference).toBe("monte_carlo");
    expect(effect(drawn, "direct x > y").shown!.reference).toBe("t");
    const scaled = effect(drawn, "completely standardised indirect x > m > y");
    expect(scaled.monteCarlo).toBeNull();
    expect(scaled.shown).toMatchObject({ method: "delta", provisional: true });
    expect(effect(drawn, "indirect x > m > y").shown!.p).toBeCloseTo(
      effect(drawn, "indirect x > m > y").monteCarlo!.pTwoSided,
      15,
    );
  });
  it("a standardised coefficient's error allows for the SDs: it is that of a correlation", () => {
    const many = 2000;
    const [p, q] = [normals(many, 71), normals(many, 72)] as [number[], number[]];
    const evidence = analyseMade({
      columns: { p, r: p.map((v, i) => 2 * v + q[i]!) },
      theory: "H1: p raises r",
    });
    const found = effect(evidence, "completely standardised direct p > r");
    // With the SDs taken as known it would be sqrt(1 - r2) / sqrt(n), more than twice as much.
    const wanted = (1 - found.estimate! ** 2) / Math.sqrt(many);
    expect(found.shown!.se! / wanted).toBeGreaterThan(0.93);
    expect(found.shown!.se! / wanted).toBeLessThan(1.07);
  });
});

describe("what must not be printed", () => {
  it("a proportion whose denominator may be zero, or whose parts have opposite signs", () => {
    const none = x.map((v, i) => 0.5 * m[i]! - 0.12 * v + e5[i]!);
    const evidence = analyseMade({
      columns: { x, m, none },
      theory: "H1: x raises none through m\ndefine share as H1 / total x to none",
    });
    for (const id of [
      "proportion mediated x > none",
      "ratio indirect/direct x > none",
      "define share",
    ]) {
      const ratio = effect(evidence, id);
      expect([id, ratio.shown]).toEqual([id, null]);
      expect(ratio.withheld).toMatch(/zero|opposite/);
      expect(ratio.estimate).not.toBeNull();
    }
    const clear = x.map((v, i) => 0.8 * v + 0.8 * k[i]! + 0.3 * e5[i]!);
    const kept = analyseMade({ columns: { x, k, clear }, theory: "H1: x raises clear through k" });
    expect(effect(kept, "proportion mediated x > clear").shown).not.toBeNull();
  });
  it("standard deviations and explained variance of a predictor with two values", () => {
    const g = x.map((_, i) => i % 2);
    const evidence = analyseMade({ columns: { g, m, y }, theory: "H1: g raises y through m" });
    for (const id of ["completely standardised indirect g > m > y", "upsilon indirect g > m > y"])
      expect(effect(evidence, id)).toMatchObject({
        shown: null,
        withheld: expect.stringContaining("two values"),
      });
    expect(effect(evidence, "partially standardised indirect g > m > y").withheld).toBeNull();
  });
  it("shares of explained variance beyond one", () => {
    const near = x.map((v, i) => v + 0.05 * e2[i]!);
    const odd = near.map((v, i) => 5 * v - 4.9 * x[i]! + 0.1 * e3[i]!);
    const evidence = analyseMade({
      columns: { x, near, odd },
      theory: "H1: x raises odd through near",
    });
    expect(effect(evidence, "upsilon indirect x > near > odd")).toMatchObject({
      shown: null,
      withheld: expect.stringContaining("beyond 1"),
    });
  });
  it("the regression without mediators where its slope is not the total effect", () => {
    const covariate = x.map((v, i) => 0.6 * v + e2[i]!);
    const out = m.map((v, i) => 0.5 * v + 0.5 * covariate[i]! + e4[i]!);
    const evidence = analyseMade({
      columns: { x, m, covariate, out },
      theory: "H1: x raises out through m\nalso x to covariate\nadjust m, out for covariate",
      settings: { interval: "delta" },
    });
    const total = effect(evidence, "total x > out");
    // The theory explains the covariate by x, so the regression on x alone is another quantity than
    // the sum of the paths.
    expect(Math.abs(regress(out, x)[1]! - total.estimate!)).toBeGreaterThan(0.1);
    expect(total.reduced).toBeNull();
    const shown = total.shown!;
    expect(shown.lower! < total.estimate! && total.estimate! < shown.upper!).toBe(true);
  });
  it("suppression of a coefficient that does not differ from zero", () => {
    const evidence = analyseMade({
      columns: { x, m, y: x.map((v, i) => 0.3 * v + e4[i]!) },
      theory: "H1: x raises y\nalso m to y",
    });
    const row = equationsOf(evidence)[0]!.suppression.find((s) => s.term === "m")!;
    expect(
      equationsOf(evidence)[0]!.coefficients.find((c) => c.term === "m")!.errors.classical!.p,
    ).toBeGreaterThan(0.05);
    expect(row.kind).toBeNull();
    const twin = x.map((v, i) => v + 0.3 * e2[i]!);
    const suppressed = analyseMade({
      columns: { x, twin, y: x.map((v, i) => 2 * v - 1.5 * twin[i]! + 0.3 * e4[i]!) },
      theory: "H1: x raises y\nalso twin to y",
    });
    expect(equationsOf(suppressed)[0]!.suppression.map((s) => s.kind)).toEqual([
      "suppression",
      "suppression",
    ]);
  });
});

describe("two routes that cancel", () => {
  const up = x.map((v, i) => v + e2[i]!);
  const down = x.map((v, i) => v + e3[i]!);
  const out = up.map((v, i) => 0.6 * v - 0.6 * down[i]! + 0.5 * e4[i]!);
  it("are mediation along each, whatever their sum", () => {
    const evidence = analyseMade({
      columns: { x, up, down, out },
      theory: "H1: x affects out through up and down",
    });
    const h = hypothesis(evidence, "H1");
    expect(h.verdict).toBe("not_supported");
    expect(h.pattern).toMatchObject({
      kind: "opposing_routes",
      words: expect.stringContaining("cancel in the total"),
    });
    expect(h.pattern!.words).not.toContain("no mediation");
  });
});

describe("several hypotheses", () => {
  const weak = x.map((v, i) => 0.22 * v + e4[i]!);
  const theory = "H1: x raises weak\nH2: w raises weak\nH3: m raises weak";
  const made = (several: Settings["several"]) =>
    analyseMade({ columns: { x, w, m, weak }, theory, settings: { several } });
  it("are said once: which verdicts Holm's correction would change; by a setting it decides", () => {
    const [each, holm] = [made("none"), made("holm")];
    const smallest = Math.min(...each.hypotheses.map((h) => h.claim!.p!));
    const [first] = each.several!.claims;
    expect(first!.adjustedP).toBeCloseTo(Math.min(1, 3 * smallest), 12);
    expect(smallest).toBeLessThan(0.05);
    expect(3 * smallest).toBeGreaterThan(0.05);
    expect([hypothesis(each, "H1").verdict, hypothesis(holm, "H1").verdict]).toEqual([
      "supported",
      "not_supported",
    ]);
    expect([each.several!.rule, each.several!.claims[0]!.changes, each.several!.words]).toEqual([
      "none",
      true,
      expect.stringContaining("H1"),
    ]);
    expect(hypothesis(holm, "H1").claim).toEqual(hypothesis(each, "H1").claim);
    expect(run("H1: x raises y", { replications: 0 }).several).toBeNull();
  });
});

describe("data of another kind", () => {
  it("values moved by 1e8 keep model F, lines and their errors", () => {
    const grid = (v: number): number => Math.round(v * 64) / 64;
    const [p, q] = [x.map(grid), w.map(grid)];
    const out = p.map((v, i) => grid(0.4 * v + 0.2 * v * (q[i]! - 5) + e3[i]!));
    const at = (shift: number): Evidence =>
      analyseMade({
        columns: {
          p: p.map((v) => v + shift),
          q: q.map((v) => v + shift),
          out: out.map((v) => v + shift),
        },
        theory: "H1: q strengthens p to out",
      });
    const near = at(0);
    for (const shift of [1e6, 1e8]) {
      const far = at(shift);
      expect(equationsOf(far)[0]!.modelF.HC3!.F / equationsOf(near)[0]!.modelF.HC3!.F).toBeCloseTo(
        1,
        6,
      );
      expect(far.hypotheses[0]!.claim!.p! / near.hypotheses[0]!.claim!.p!).toBeCloseTo(1, 6);
      far.moderations[0]!.lines.forEach((line, i) =>
        line.points.forEach((point, j) => {
          const other = near.moderations[0]!.lines[i]!.points[j]!;
          expect(point.predicted - shift).toBeCloseTo(other.predicted, 5);
          expect(point.errors.HC3!.se / other.errors.HC3!.se).toBeCloseTo(1, 6);
        }),
      );
    }
  });

  it("columns that only group the rows have no moments; unknown probes are not passed over in silence", () => {
    const school = x.map((_, i) => 100 + (i % 45));
    const evidence = run(
      "H1: x raises y through m",
      { replications: 50, cluster: "school", probes: { w: [1], zz: ["quartiles"] } },
      { columns: { ...columns, school } },
    );
    expect(Object.keys(evidence.descriptives).sort()).toEqual(["m", "x", "y"]);
    const unused = evidence.warnings.filter((one) => one.code === "probes_unused");
    expect(unused.map((one) => one.about[0])).toEqual(["w", "zz"]);
    expect(unused[1]!.message).toContain("no variable is called that");
  });

  it("the acceleration of a stratified bootstrap centres within strata", () => {
    const s = x.map((_, i) => (i < 50 ? "a" : "b"));
    const shifted = y.map((v, i) => v + (i < 50 ? 3 : 0));
    const evidence = run(
      "H1: x raises shifted",
      { strata: "s", replications: 100 },
      { columns: { x, shifted, s } },
    );
    const left = x.map(
      (_, i) =>
        regress(
          shifted.filter((__, j) => j !== i),
          x.filter((__, j) => j !== i),
        )[1]!,
    );
    const centres = ["a", "b"].map((name) => mean(left.filter((_, i) => s[i] === name)));
    const d = left.map((v, i) => centres[i < 50 ? 0 : 1]! - v);
    const wanted =
      d.reduce((sum, v) => sum + v ** 3, 0) / (6 * d.reduce((sum, v) => sum + v ** 2, 0) ** 1.5);
    expect(effect(evidence, "direct x > shifted").bootstrap!.acceleration).toBeCloseTo(wanted, 8);
  });
});
