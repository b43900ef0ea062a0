import { equationsOf } from "./equations-of";
import { describe, expect, it } from "vitest";
import type { Settings } from "../study";
import { analyseMade, normals, regress } from "../test-kit";
import type { Evidence, HypothesisEvidence } from "./types";

const N = 160;
const [x, e2, e3, e4, e5] = [61, 62, 63, 64, 65].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
  number[],
];
const mean = (v: number[]): number => v.reduce((sum, one) => sum + one, 0) / v.length;
const y = x.map((v, i) => 0.3 * v + e5[i]!);
const hypothesis = (evidence: Evidence, label: string): HypothesisEvidence =>
  evidence.hypotheses.find((h) => h.label === label)!;

describe("three groups", () => {
  const names = x.map((_, i) => ["waiting", "weekly", "partner"][(i * 5) % 3]!);
  const shift: Record<string, number> = { waiting: 0, weekly: 0.5, partner: 0.9 };
  const conf = names.map((name, i) => shift[name]! + e2[i]!);
  const bel = conf.map((v, i) => 0.5 * v + e3[i]!);
  const made = (
    theory: string,
    variable: object = {},
    settings: Partial<Settings> = {},
  ): Evidence =>
    analyseMade({
      columns: { group: names, conf, bel },
      theory,
      variables: { group: { level: "categorical", ...variable } },
      settings: { replications: 400, interval: "percentile", ...settings },
    });
  const recoded = [
    {},
    { coding: "effect" },
    { coding: "helmert" },
    { coding: "sequential", levels: ["partner", "waiting", "weekly"] },
    { reference: "weekly" },
  ];

  it("an undirected claim is a joint test, the same for every coding, reference and order of levels", () => {
    const found = recoded.map(
      (v) =>
        hypothesis(made("H1: group affects bel through conf\nH2: group affects conf", v), "H1")
          .claim!.joint!,
    );
    for (const joint of found) {
      expect(joint.reference).toBe("bootstrap");
      expect(joint.statistic).toBeCloseTo(found[0]!.statistic, 8);
      expect(joint.p).toBe(found[0]!.p);
    }
    const direct = recoded.map(
      (v) =>
        hypothesis(made("H1: group affects conf", v, { replications: 0, errors: "HC3" }), "H1")
          .claim!,
    );
    for (const { joint, p } of direct)
      expect([joint!.statistic, p]).toEqual([
        expect.closeTo(direct[0]!.joint!.statistic, 9),
        expect.closeTo(direct[0]!.p!, 12),
      ]);
    // F of the means of three groups by sums of squares.
    const groups = Object.keys(shift).map((name) => conf.filter((_, i) => names[i] === name));
    const within = groups.flatMap((g) => g.map((v) => (v - mean(g)) ** 2)).reduce((a, b) => a + b);
    const between = groups.reduce((sum, g) => sum + g.length * (mean(g) - mean(conf)) ** 2, 0);
    const classical = hypothesis(made("H1: group affects conf", {}, { replications: 0 }), "H1")
      .claim!.joint!;
    expect(classical.statistic).toBeCloseTo(between / 2 / (within / (N - 3)), 8);
  });

  it("a direction without a comparison is undirected; with one it is that difference, whatever the coding", () => {
    expect(hypothesis(made("H1: group raises conf"), "H1")).toMatchObject({
      verdict: "undirected",
      reason: expect.stringContaining("3 levels"),
    });
    const wanted =
      mean(conf.filter((_, i) => names[i] === "partner")) -
      mean(conf.filter((_, i) => names[i] === "waiting"));
    const found = recoded.map((v) =>
      hypothesis(made('H1: group ("partner" against "waiting") raises conf', v), "H1"),
    );
    for (const h of found) {
      expect(h.verdict).toBe("supported");
      expect(h.claim!.estimate).toBeCloseTo(wanted, 10);
      expect(h.claim!.lower).toBeCloseTo(found[0]!.claim!.lower!, 8);
    }
    const turned = hypothesis(
      made('H1: group ("waiting" against "partner") lowers bel through conf'),
      "H1",
    );
    const [, b] = regress(
      bel,
      conf,
      names.map((v) => Number(v === "weekly")),
      names.map((v) => Number(v === "partner")),
    ) as number[];
    expect(turned.claim!.estimate).toBeCloseTo(-wanted * b!, 10);
    expect(turned.pattern).not.toBeNull();
  });

  it("value labels are understood, and an unknown level is named with its neighbours", () => {
    const labels = { labels: { partner: "cafe with a partner", waiting: "waiting list" } };
    expect(
      hypothesis(
        made('H1: group ("cafe with a partner" against "waiting list") raises conf', labels),
        "H1",
      ).verdict,
    ).toBe("supported");
    expect(() => made('H1: group ("partnr" against "waiting") raises conf')).toThrow(
      /no level “partnr”.*Did you mean “partner”/,
    );
    expect(() => made('H1: conf ("a" against "b") raises bel')).toThrow(/not categorical/);
  });

  it("pairwise differences carry p as it is and adjusted by Holm", () => {
    const evidence = made("H1: group affects conf", {}, { replications: 0 });
    const pairs = evidence.effects.filter((e) => e.kind === "comparison");
    expect(pairs).toHaveLength(3);
    const sorted = [...pairs].sort((a, b) => a.shown!.p! - b.shown!.p!);
    const adjusted = sorted.reduce<number[]>(
      (list, e, i) => [...list, Math.max(list.at(-1) ?? 0, Math.min(1, (3 - i) * e.shown!.p!))],
      [],
    );
    sorted.forEach((e, i) => expect(e.holmP).toBeCloseTo(adjusted[i]!, 12));
  });

  it("a categorical moderator is a joint test; a named comparison of its levels has a direction", () => {
    const theory = (claim: string): string => `H1: ${claim}`;
    const slope = names.map((name, i) => (shift[name]! - 0.2) * x[i]! + 0.5 * e4[i]!);
    const moderated = (claim: string, variable: object = {}): HypothesisEvidence =>
      analyseMade({
        columns: { group: names, x, slope },
        theory: theory(claim),
        variables: { group: { level: "categorical", ...variable } },
      }).hypotheses[0]!;
    const joint = recoded.map(
      (v) => moderated("group alters x to slope", v).claim!.joint!.statistic,
    );
    joint.forEach((statistic) => expect(statistic).toBeCloseTo(joint[0]!, 8));
    expect(moderated("group strengthens x to slope").verdict).toBe("undirected");
    const slopes = Object.fromEntries(
      Object.keys(shift).map((name) => [
        name,
        regress(
          slope.filter((_, i) => names[i] === name),
          x.filter((_, i) => names[i] === name),
        )[1]!,
      ]),
    );
    for (const variable of recoded) {
      const h = moderated('group ("partner" against "waiting") strengthens x to slope', variable);
      expect(h.claim!.estimate).toBeCloseTo(slopes.partner! - slopes.waiting!, 9);
      expect(h.verdict).toBe("supported");
    }
  });

  it("an average over a categorical moderator weighs its levels by their shares", () => {
    const evidence = analyseMade({
      columns: { group: names, x, y },
      theory: "H1: group alters x to y\nH2: x raises y",
      variables: { group: { level: "categorical", coding: "helmert" } },
    });
    const slopes = Object.keys(shift).map((name) => {
      const rows = names.flatMap((v, i) => (v === name ? [i] : []));
      return (
        rows.length *
        regress(
          rows.map((i) => y[i]!),
          rows.map((i) => x[i]!),
        )[1]!
      );
    });
    expect(hypothesis(evidence, "H2").claim!.estimate).toBeCloseTo(
      slopes.reduce((a, b) => a + b) / N,
      9,
    );
  });

  it("the variance inflation of a set of codes is one number for every coding", () => {
    const found = recoded.map(
      (v) =>
        equationsOf(made("H1: group affects bel\nalso conf to bel", v, { replications: 0 }))[0]!
          .omnibus[0]!,
    );
    found.forEach((o) => expect(o.gvif).toBeCloseTo(found[0]!.gvif!, 9));
    expect(found[0]!.gvifPerDimension).toBeCloseTo(found[0]!.gvif! ** 0.25, 12);
    // With one other predictor GVIF is 1 / (1 - R2) of that predictor on the codes.
    const groups = Object.keys(shift).map((name) => conf.filter((_, i) => names[i] === name));
    const total = conf.reduce((sum, v) => sum + (v - mean(conf)) ** 2, 0);
    const r2 = groups.reduce((sum, g) => sum + g.length * (mean(g) - mean(conf)) ** 2, 0) / total;
    expect(found[0]!.gvif).toBeCloseTo(1 / (1 - r2), 9);
  });
});
