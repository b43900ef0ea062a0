import { describe, expect, it } from "vitest";
import type { Settings } from "../study";
import { analyseMade, problemOf, regress } from "../test-kit";
import {
  N,
  e1,
  e2,
  e3,
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
import type { HypothesisEvidence } from "./types";

/** Situations in which a verdict could go wrong, each with numbers found another way. */
describe("another sentence changes no digit of a claim", () => {
  const base = run("H1: x raises y through m");
  const claim = hypothesis(base, "H1").claim;
  const { percentile, se } = effect(base, "indirect x > m > y").bootstrap!;

  it("a quantity that is not finite in some resamples is missing there for itself alone", () => {
    const more = run(
      `H1: x raises y through m\ndefine size as ln(H1 - ${percentile!.lower})\ncontrast H1 with H1`,
    );
    expect(hypothesis(more, "H1").claim).toEqual(claim);
    for (const e of base.effects) expect(effect(more, e.id)).toEqual(e);
    const size = effect(more, "define size").bootstrap!;
    const lost = base.effects.find((e) => e.id === "indirect x > m > y")!.bootstrap!;
    expect(size.missing).toBeGreaterThan(0);
    expect(size.used + size.missing).toBe(lost.used);
    expect(more.warnings.find((one) => one.code === "replicates_missing")!.about).toContain(
      "define size",
    );
  });

  it("above a tenth of missing resamples a quantity has no limits, and says so", () => {
    const more = run(
      `H1: x raises y through m\ndefine root as sqrt(H1 - ${claim!.estimate! - 0.5 * se!})`,
    );
    const root = effect(more, "define root");
    expect(
      root.bootstrap!.missing / (root.bootstrap!.missing + root.bootstrap!.used),
    ).toBeGreaterThan(0.1);
    expect(root.bootstrap!.percentile).toBeNull();
    expect(root.shown).toMatchObject({ lower: null, upper: null, p: null });
  });

  it("two hypotheses about one effect each have their own test, in any order", () => {
    const theory = [
      "H1: x raises y through m",
      "H2: x lowers y through m",
      "H3: x affects y through m",
    ];
    const [there, back] = [theory, [...theory].reverse()].map((lines) =>
      run(lines.join("\n"), { tail: "one" }),
    );
    for (const label of ["H1", "H2", "H3"])
      expect({ ...hypothesis(there!, label), line: 0 }).toEqual({
        ...hypothesis(back!, label),
        line: 0,
      });
    const [up, down, either] = ["H1", "H2", "H3"].map((label) => hypothesis(there!, label).claim!);
    expect([
      up!.lower === null,
      up!.upper === null,
      down!.lower === null,
      down!.upper === null,
    ]).toEqual([false, true, true, false]);
    expect([either!.tail, either!.lower]).toEqual(["two", claim!.lower]);
    const { bca } = effect(there!, "indirect x > m > y").bootstrap!;
    expect(down!.p).toBe(bca!.pLess);
    expect(up!.p).toBe(bca!.pIsBound ? Math.max(bca!.pGreater, 1 / 601) : bca!.pGreater);
  });

  it("“through m and k” claims the sum of both routes, also when another sentence moderates a step of one", () => {
    const plain = run("H1: x raises y through m and k", { replications: 0 });
    const moderated = run("H1: x raises y through m and k\nH2: w alters x to m", {
      replications: 0,
    });
    const [, a] = regress(m, x) as [number, number];
    const [, c] = regress(k, x) as [number, number];
    const [, , b, d] = regress(y, x, m, k) as [number, number, number, number];
    expect(hypothesis(plain, "H1").claim!.estimate).toBeCloseTo(a * b + c * d, 10);
    const xw = x.map((v, i) => v * w[i]!);
    const [, a1, , a3] = regress(m, x, w, xw) as [number, number, number, number];
    expect(hypothesis(moderated, "H1").claim!.estimate).toBeCloseTo(
      (a1 + a3 * mean(w)) * b + c * d,
      8,
    );
    expect(hypothesis(moderated, "H1").effects).toEqual([
      "combined indirect x > y through m and k",
    ]);
    // The order in which routes are named is no difference.
    const turned = hypothesis(
      run("H1: x raises y through k and m", { replications: 0 }),
      "H1",
    ).claim!;
    expect([turned.estimate, turned.lower, turned.p]).toEqual(
      ["estimate", "lower", "p"].map((key) =>
        expect.closeTo(hypothesis(plain, "H1").claim![key as "p"]!, 12),
      ),
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
    for (const settings of [
      {},
      { probes: { w: [9, 1] } },
      { probes: { w: ["quartiles"] } },
      { centring: "mean" },
    ] as Partial<Settings>[]) {
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
    expect(hypothesis(evidence, "H1").claim!.estimate).toBeCloseTo(
      (a1! + a3!) * (b1! + b3!) - a1! * b1!,
      8,
    );
  });

  it("a contrast and an own quantity calculate with it instead of stopping the analysis", () => {
    const evidence = run(
      `${both}\nH3: x raises y\ncontrast H1 with H3\ndefine all as total x to y`,
      { replications: 0 },
    );
    const [h1, h3] = ["H1", "H3"].map((label) => hypothesis(evidence, label).claim!.estimate!);
    expect(effect(evidence, "contrast H1 with H3").estimate).toBeCloseTo(h1! - h3!, 12);
    expect(effect(evidence, "define all").estimate).toBeCloseTo(h1! + h3!, 12);
  });

  it("a square: a variable that moderates its own effect claims curvature, labelled so", () => {
    const bent = x.map((v, i) => 0.5 * v + 0.3 * v * v + 0.5 * e5[i]!);
    const evidence = analyseMade({
      columns: { x, bent },
      theory: "H1: x strengthens x to bent\nH2: x raises bent",
    });
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
    expect(
      problemOf({
        columns: { g: x.map((_, i) => "abc"[i % 3]!), bent },
        theory: "H1: g strengthens g to bent",
      }).code,
    ).toBe("wrong_level");
  });
});

describe("strengthens and weakens mean away from zero and towards it", () => {
  const stress = e1;
  const support = e2.map((v) => 3 + v);
  // The classical buffer: a negative effect that support brings towards zero.
  const wellbeing = stress.map((v, i) => (-0.6 + 0.3 * e2[i]!) * v + 0.2 * e2[i]! + 0.7 * e3[i]!);
  const buffer = (theory: string, settings: Partial<Settings> = {}): HypothesisEvidence =>
    analyseMade({ columns: { stress, support, wellbeing }, theory, settings }).hypotheses.find(
      (h) => h.label === "H2",
    )!;

  it("by the sign that another hypothesis states", () => {
    const h = buffer("H1: stress lowers wellbeing\nH2: support weakens stress to wellbeing");
    expect([h.verdict, h.claim!.direction]).toEqual(["supported", 1]);
    expect(
      buffer("H1: stress lowers wellbeing\nH2: support strengthens stress to wellbeing").verdict,
    ).toBe("opposite");
    expect(
      buffer("H1: stress lowers wellbeing\nH2: support alters stress to wellbeing").verdict,
    ).toBe("supported");
    // Order does not matter, nor does one tail.
    expect(
      buffer("H2: support weakens stress to wellbeing\nH1: stress lowers wellbeing").verdict,
    ).toBe("supported");
    expect(
      buffer("H1: stress lowers wellbeing\nH2: support weakens stress to wellbeing", {
        tail: "one",
      }),
    ).toMatchObject({
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
    const evidence = analyseMade({
      columns: { stress, support, flat },
      theory: "H2: support strengthens stress to flat",
    });
    expect(evidence.hypotheses[0]).toMatchObject({
      verdict: "supported",
      reason: expect.stringContaining("no clear sign"),
    });
    const two = analyseMade({
      columns: { stress, support, flat },
      theory:
        "H1: stress lowers flat\nH3: stress raises flat\nH2: support strengthens stress to flat",
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
