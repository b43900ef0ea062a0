import { equationsOf } from "./equations-of";
import { describe, expect, it } from "vitest";
import type { Settings } from "../study";
import { analyseMade, normals, problemOf, regress, type MadeStudy } from "../test-kit";
import type { Evidence, HypothesisEvidence } from "./types";

/** Situations in which a verdict could go wrong, each with numbers found another way. */
const N = 160;
const [e1, e2, e3, e4, e5] = [61, 62, 63, 64, 65].map((seed) => normals(N, seed)) as [number[], number[], number[], number[], number[]];
const mean = (v: number[]): number => v.reduce((sum, one) => sum + one, 0) / v.length;

const hypothesis = (evidence: Evidence, label: string): HypothesisEvidence => evidence.hypotheses.find((h) => h.label === label)!;
const effect = (evidence: Evidence, id: string) => evidence.effects.find((e) => e.id === id)!;

const x = e1;
const w = e2.map((v) => 5 + v);
const m = x.map((v, i) => 0.18 * v + e3[i]!);
const k = x.map((v, i) => 0.5 * v + e4[i]!);
const y = m.map((v, i) => 0.2 * v + 0.4 * k[i]! + 0.1 * x[i]! + e5[i]!);
const columns = { x, w, m, k, y };
const run = (theory: string, settings: Partial<Settings> = {}, more: Partial<MadeStudy> = {}): Evidence =>
  analyseMade({ columns, theory, settings: { replications: 600, seed: 5, ...settings }, ...more });

describe("another sentence changes no digit of a claim", () => {
  const base = run("H1: x raises y through m");
  const claim = hypothesis(base, "H1").claim;
  const { percentile, se } = effect(base, "indirect x > m > y").bootstrap!;

  it("a quantity that is not finite in some resamples is missing there for itself alone", () => {
    const more = run(`H1: x raises y through m\ndefine size as ln(H1 - ${percentile!.lower})\ncontrast H1 with H1`);
    expect(hypothesis(more, "H1").claim).toEqual(claim);
    for (const e of base.effects) expect(effect(more, e.id)).toEqual(e);
    const size = effect(more, "define size").bootstrap!;
    const lost = base.effects.find((e) => e.id === "indirect x > m > y")!.bootstrap!;
    expect(size.missing).toBeGreaterThan(0);
    expect(size.used + size.missing).toBe(lost.used);
    expect(more.warnings.find((one) => one.code === "replicates_missing")!.about).toContain("define size");
  });

  it("above a tenth of missing resamples a quantity has no limits, and says so", () => {
    const more = run(`H1: x raises y through m\ndefine root as sqrt(H1 - ${claim!.estimate! - 0.5 * se!})`);
    const root = effect(more, "define root");
    expect(root.bootstrap!.missing / (root.bootstrap!.missing + root.bootstrap!.used)).toBeGreaterThan(0.1);
    expect(root.bootstrap!.percentile).toBeNull();
    expect(root.shown).toMatchObject({ lower: null, upper: null, p: null });
  });

  it("two hypotheses about one effect each have their own test, in any order", () => {
    const theory = ["H1: x raises y through m", "H2: x lowers y through m", "H3: x affects y through m"];
    const [there, back] = [theory, [...theory].reverse()].map((lines) => run(lines.join("\n"), { tail: "one" }));
    for (const label of ["H1", "H2", "H3"])
      expect({ ...hypothesis(there!, label), line: 0 }).toEqual({ ...hypothesis(back!, label), line: 0 });
    const [up, down, either] = ["H1", "H2", "H3"].map((label) => hypothesis(there!, label).claim!);
    expect([up!.lower === null, up!.upper === null, down!.lower === null, down!.upper === null]).toEqual([false, true, true, false]);
    expect([either!.tail, either!.lower]).toEqual(["two", claim!.lower]);
    const { bca } = effect(there!, "indirect x > m > y").bootstrap!;
    expect(down!.p).toBe(bca!.pLess);
    expect(up!.p).toBe(bca!.pIsBound ? 1 / 600 : bca!.pGreater);
  });

  it("“through m and k” claims the sum of both routes, also when another sentence moderates a step of one", () => {
    const plain = run("H1: x raises y through m and k", { replications: 0 });
    const moderated = run("H1: x raises y through m and k\nH2: w alters x to m", { replications: 0 });
    const [, a] = regress(m, x) as [number, number];
    const [, c] = regress(k, x) as [number, number];
    const [, , b, d] = regress(y, x, m, k) as [number, number, number, number];
    expect(hypothesis(plain, "H1").claim!.estimate).toBeCloseTo(a * b + c * d, 10);
    const xw = x.map((v, i) => v * w[i]!);
    const [, a1, , a3] = regress(m, x, w, xw) as [number, number, number, number];
    expect(hypothesis(moderated, "H1").claim!.estimate).toBeCloseTo((a1 + a3 * mean(w)) * b + c * d, 8);
    expect(hypothesis(moderated, "H1").effects).toEqual(["combined indirect x > y through m and k"]);
    // The order in which routes are named is no difference.
    const turned = hypothesis(run("H1: x raises y through k and m", { replications: 0 }), "H1").claim!;
    expect([turned.estimate, turned.lower, turned.p]).toEqual(
      ["estimate", "lower", "p"].map((key) => expect.closeTo(hypothesis(plain, "H1").claim![key as "p"]!, 12)),
    );
  });
});

describe("an effect on a moderated path is its average over the sample", () => {
  const both = "H1: x raises y through m\nH2: w alters x to y through m on x to m and m to y";
  it("the mean of the products of stages, whatever the probes and the centring", () => {
    const xw = x.map((v, i) => v * w[i]!);
    const mw = m.map((v, i) => v * w[i]!);
    const [, a1, , a3] = regress(m, x, w, xw) as number[];
    const [, , b1, , b3] = regress(y, x, m, w, mw) as number[];
    const wanted = mean(w.map((v) => (a1! + a3! * v) * (b1! + b3! * v)));
    const change = mean(w.map((v) => a3! * (b1! + b3! * v) + b3! * (a1! + a3! * v)));
    for (const settings of [{}, { probes: { w: [9, 1] } }, { probes: { w: ["quartiles"] } }, { centring: "mean" }] as Partial<Settings>[]) {
      const evidence = run(both, { replications: 0, ...settings });
      expect(hypothesis(evidence, "H1").claim!.estimate).toBeCloseTo(wanted, 8);
      expect(hypothesis(evidence, "H2").claim!.estimate).toBeCloseTo(change, 8);
    }
  });

  it("a binary moderator of both stages is judged by the difference between its values", () => {
    const g = x.map((_, i) => (i * 7) % 3 === 0);
    const code = g.map(Number);
    const evidence = analyseMade({
      columns: { ...columns, g: g.map((v) => (v ? "yes" : "no")) },
      theory: "H1: g alters x to y through m on x to m and m to y",
    });
    const [, a1, , a3] = regress(
      m,
      x,
      code,
      x.map((v, i) => v * code[i]!),
    ) as number[];
    const [, , b1, , b3] = regress(
      y,
      x,
      m,
      code,
      m.map((v, i) => v * code[i]!),
    ) as number[];
    expect(hypothesis(evidence, "H1").claim!.estimate).toBeCloseTo((a1! + a3!) * (b1! + b3!) - a1! * b1!, 8);
  });

  it("a contrast and an own quantity calculate with it instead of stopping the analysis", () => {
    const evidence = run(`${both}\nH3: x raises y\ncontrast H1 with H3\ndefine all as total x to y`, { replications: 0 });
    const [h1, h3] = ["H1", "H3"].map((label) => hypothesis(evidence, label).claim!.estimate!);
    expect(effect(evidence, "contrast H1 with H3").estimate).toBeCloseTo(h1! - h3!, 12);
    expect(effect(evidence, "define all").estimate).toBeCloseTo(h1! + h3!, 12);
  });

  it("a square: a variable that moderates its own effect claims curvature, labelled so", () => {
    const bent = x.map((v, i) => 0.5 * v + 0.3 * v * v + 0.5 * e5[i]!);
    const evidence = analyseMade({ columns: { x, bent }, theory: "H1: x strengthens x to bent\nH2: x raises bent" });
    const [, b1, b2] = regress(
      bent,
      x,
      x.map((v) => v * v),
    ) as number[];
    const h = hypothesis(evidence, "H1");
    expect(h).toMatchObject({ verdict: "supported", effects: ["interaction x:x on bent"] });
    expect(h.claim!.estimate).toBeCloseTo(b2!, 10);
    expect(effect(evidence, h.effects[0]!).label).toContain("curvature");
    expect(h.quantity).toBe("curvature");
    expect(hypothesis(evidence, "H2").claim!.estimate).toBeCloseTo(b1! + 2 * b2! * mean(x), 10);
    expect(evidence.moderations[0]!.crossings[0]!.at).toBeCloseTo(-b1! / (2 * b2!), 8);
    const low = evidence.moderations[0]!.slopes[0]!;
    expect(low.estimate).toBeCloseTo(b1! + 2 * b2! * (low.at.x as number), 10);
    expect(problemOf({ columns: { g: x.map((_, i) => "abc"[i % 3]!), bent }, theory: "H1: g strengthens g to bent" }).code).toBe(
      "wrong_level",
    );
  });
});

describe("strengthens and weakens mean away from zero and towards it", () => {
  const stress = e1;
  const support = e2.map((v) => 3 + v);
  // The classical buffer: a negative effect that support brings towards zero.
  const wellbeing = stress.map((v, i) => (-0.6 + 0.3 * e2[i]!) * v + 0.2 * e2[i]! + 0.7 * e3[i]!);
  const buffer = (theory: string, settings: Partial<Settings> = {}): HypothesisEvidence =>
    analyseMade({ columns: { stress, support, wellbeing }, theory, settings }).hypotheses.find((h) => h.label === "H2")!;

  it("by the sign that another hypothesis states", () => {
    const h = buffer("H1: stress lowers wellbeing\nH2: support weakens stress to wellbeing");
    expect([h.verdict, h.claim!.direction]).toEqual(["supported", 1]);
    expect(buffer("H1: stress lowers wellbeing\nH2: support strengthens stress to wellbeing").verdict).toBe("opposite");
    expect(buffer("H1: stress lowers wellbeing\nH2: support alters stress to wellbeing").verdict).toBe("supported");
    // Order does not matter, nor does one tail.
    expect(buffer("H2: support weakens stress to wellbeing\nH1: stress lowers wellbeing").verdict).toBe("supported");
    expect(buffer("H1: stress lowers wellbeing\nH2: support weakens stress to wellbeing", { tail: "one" })).toMatchObject({
      verdict: "supported",
      claim: { tail: "one", upper: null },
    });
  });

  it("else by the sign of the average effect, where that is clear", () => {
    const h = buffer("H2: support weakens stress to wellbeing");
    expect(h.verdict).toBe("supported");
    expect(h.reason).toContain("negative on average");
    const turned = analyseMade({
      columns: { stress, support, wellbeing: wellbeing.map((v) => -v) },
      theory: "H2: support weakens stress to wellbeing",
    });
    expect(turned.hypotheses[0]!.verdict).toBe("supported");
  });

  it("else upwards, and says so; contradicting hypotheses settle nothing", () => {
    const flat = stress.map((v, i) => (0.4 * e2[i]! - 0.1) * v + e3[i]!);
    const evidence = analyseMade({ columns: { stress, support, flat }, theory: "H2: support strengthens stress to flat" });
    expect(evidence.hypotheses[0]).toMatchObject({ verdict: "supported", reason: expect.stringContaining("no clear sign") });
    const two = analyseMade({
      columns: { stress, support, flat },
      theory: "H1: stress lowers flat\nH3: stress raises flat\nH2: support strengthens stress to flat",
    });
    expect(two.hypotheses.find((h) => h.label === "H2")!.reason).toContain("no clear sign");
  });

  it("says where the effect crosses zero, and how many cases are on each side", () => {
    const h = buffer("H1: stress lowers wellbeing\nH2: support weakens stress to wellbeing");
    const product = stress.map((v, i) => v * support[i]!);
    const [, b1, , b3] = regress(wellbeing, stress, support, product) as number[];
    const zero = -b1! / b3!;
    const below = support.filter((v) => v < zero).length;
    expect(h.reason).toContain(
      `support = ${zero.toFixed(2)} (${below} people below, ${N - below} above): weaker up to ${zero.toFixed(2)}, then reversed`,
    );
  });
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
    expect(shown).toMatchObject({ reference: "t", df: test.df, se: test.se, lower: test.lower, upper: test.upper });
    expect(shown.p).toBe(test.p);
    expect(hypothesis(evidence, "H2").claim).toMatchObject({ p: test.p, lower: test.lower });
    const slopes = evidence.moderations.find((one) => one.focal === "x")!.slopes;
    for (const s of slopes) expect(effect(evidence, s.effect!).shown!.p).toBeCloseTo(s.errors.HC3!.p, 12);
  });
  it("products rest on z, and the evidence's delta method stays z throughout", () => {
    expect(effect(evidence, "average indirect x > m > y").shown).toMatchObject({ reference: "z", df: null });
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
    expect(effect(drawn, "indirect x > m > y").shown!.p).toBeCloseTo(effect(drawn, "indirect x > m > y").monteCarlo!.pTwoSided, 15);
  });
  it("a standardised coefficient's error allows for the SDs: it is that of a correlation", () => {
    const many = 2000;
    const [p, q] = [normals(many, 71), normals(many, 72)] as [number[], number[]];
    const evidence = analyseMade({ columns: { p, r: p.map((v, i) => 2 * v + q[i]!) }, theory: "H1: p raises r" });
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
    const evidence = analyseMade({ columns: { x, m, none }, theory: "H1: x raises none through m\ndefine share as H1 / total x to none" });
    for (const id of ["proportion mediated x > none", "ratio indirect/direct x > none", "define share"]) {
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
      expect(effect(evidence, id)).toMatchObject({ shown: null, withheld: expect.stringContaining("two values") });
    expect(effect(evidence, "partially standardised indirect g > m > y").withheld).toBeNull();
  });
  it("shares of explained variance beyond one", () => {
    const near = x.map((v, i) => v + 0.05 * e2[i]!);
    const odd = near.map((v, i) => 5 * v - 4.9 * x[i]! + 0.1 * e3[i]!);
    const evidence = analyseMade({ columns: { x, near, odd }, theory: "H1: x raises odd through near" });
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
    // The theory explains the covariate by x, so the regression on x alone is another quantity than the sum of the paths.
    expect(Math.abs(regress(out, x)[1]! - total.estimate!)).toBeGreaterThan(0.1);
    expect(total.reduced).toBeNull();
    const shown = total.shown!;
    expect(shown.lower! < total.estimate! && total.estimate! < shown.upper!).toBe(true);
  });
  it("suppression of a coefficient that does not differ from zero", () => {
    const evidence = analyseMade({ columns: { x, m, y: x.map((v, i) => 0.3 * v + e4[i]!) }, theory: "H1: x raises y\nalso m to y" });
    const row = equationsOf(evidence)[0]!.suppression.find((s) => s.term === "m")!;
    expect(equationsOf(evidence)[0]!.coefficients.find((c) => c.term === "m")!.errors.classical!.p).toBeGreaterThan(0.05);
    expect(row.kind).toBeNull();
    const twin = x.map((v, i) => v + 0.3 * e2[i]!);
    const suppressed = analyseMade({
      columns: { x, twin, y: x.map((v, i) => 2 * v - 1.5 * twin[i]! + 0.3 * e4[i]!) },
      theory: "H1: x raises y\nalso twin to y",
    });
    expect(equationsOf(suppressed)[0]!.suppression.map((s) => s.kind)).toEqual(["suppression", "suppression"]);
  });
});

describe("two routes that cancel", () => {
  const up = x.map((v, i) => v + e2[i]!);
  const down = x.map((v, i) => v + e3[i]!);
  const out = up.map((v, i) => 0.6 * v - 0.6 * down[i]! + 0.5 * e4[i]!);
  it("are mediation along each, whatever their sum", () => {
    const evidence = analyseMade({ columns: { x, up, down, out }, theory: "H1: x affects out through up and down" });
    const h = hypothesis(evidence, "H1");
    expect(h.verdict).toBe("not_supported");
    expect(h.pattern).toMatchObject({ kind: "opposing_routes", words: expect.stringContaining("cancel in the total") });
    expect(h.pattern!.words).not.toContain("no mediation");
  });
});

describe("several hypotheses", () => {
  const weak = x.map((v, i) => 0.22 * v + e4[i]!);
  const theory = "H1: x raises weak\nH2: w raises weak\nH3: m raises weak";
  const made = (several: Settings["several"]) => analyseMade({ columns: { x, w, m, weak }, theory, settings: { several } });
  it("are said once: which verdicts Holm's correction would change; by a setting it decides", () => {
    const [each, holm] = [made("none"), made("holm")];
    const smallest = Math.min(...each.hypotheses.map((h) => h.claim!.p!));
    const [first] = each.several!.claims;
    expect(first!.adjustedP).toBeCloseTo(Math.min(1, 3 * smallest), 12);
    expect(smallest).toBeLessThan(0.05);
    expect(3 * smallest).toBeGreaterThan(0.05);
    expect([hypothesis(each, "H1").verdict, hypothesis(holm, "H1").verdict]).toEqual(["supported", "not_supported"]);
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
        columns: { p: p.map((v) => v + shift), q: q.map((v) => v + shift), out: out.map((v) => v + shift) },
        theory: "H1: q strengthens p to out",
      });
    const near = at(0);
    for (const shift of [1e6, 1e8]) {
      const far = at(shift);
      expect(equationsOf(far)[0]!.modelF.HC3!.F / equationsOf(near)[0]!.modelF.HC3!.F).toBeCloseTo(1, 6);
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
    const evidence = run("H1: x raises shifted", { strata: "s", replications: 100 }, { columns: { x, shifted, s } });
    const left = x.map(
      (_, i) =>
        regress(
          shifted.filter((__, j) => j !== i),
          x.filter((__, j) => j !== i),
        )[1]!,
    );
    const centres = ["a", "b"].map((name) => mean(left.filter((_, i) => s[i] === name)));
    const d = left.map((v, i) => centres[i < 50 ? 0 : 1]! - v);
    const wanted = d.reduce((sum, v) => sum + v ** 3, 0) / (6 * d.reduce((sum, v) => sum + v ** 2, 0) ** 1.5);
    expect(effect(evidence, "direct x > shifted").bootstrap!.acceleration).toBeCloseTo(wanted, 8);
  });
});
