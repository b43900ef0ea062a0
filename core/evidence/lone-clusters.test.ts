import { describe, expect, it } from "vitest";
import { amount, analyseMade, normals } from "../test-kit";
import { effectiveClusters } from "./cluster-leverage";
import type { HypothesisEvidence } from "./types";

/** People in clusters that differ, whose arms are the clusters'; nothing has an effect. */
function study(clusters: number, armOf: (cluster: number) => string, seed: number, theory: string) {
  const of = Array.from({ length: 15 * clusters }, (_, i) => i % clusters);
  const [between, e, k] = [
    normals(clusters, seed),
    normals(of.length, seed + 1),
    normals(of.length, seed + 2),
  ];
  const y = of.map((g, i) => 0.8 * between[g]! + e[i]!);
  return {
    columns: {
      school: of.map((g) => `s${g}`),
      arm: of.map(armOf),
      coded: of.map((g) => (armOf(g) === "new" ? 1 : 0)),
      y,
      k: y.map((v, i) => 0.5 * v + k[i]!),
    },
    theory,
    variables: {
      school: { level: "categorical" as const },
      arm: { level: "categorical" as const },
    },
  };
}
const SENTENCES = [
  'H1: arm ("new" against "old") raises y',
  'H2: arm ("new" against "old") raises k through y',
  "H3: y raises k",
].join("\n");

const told = (found: HypothesisEvidence | undefined) =>
  found!.cautions.map((c) => c.message).join();

describe("a claim that rests on one cluster", () => {
  it.each(["delta", "percentile", "monte_carlo"] as const)(
    "gets no verdict, no interval and no p by %s; others keep theirs",
    (interval) => {
      const settings = { cluster: "school", interval, replications: 100, monteCarloDraws: 400 };
      const made = study(6, (g) => (g === 2 ? "new" : "old"), 3, SENTENCES);
      const { hypotheses, effects } = analyseMade({ ...made, settings });
      const [h1, h2, h3] = hypotheses;
      for (const one of [h1!, h2!]) {
        expect(one.verdict).toBe("not_testable");
        expect(one.reason).toContain("A single cluster of “school” holds arm “new”");
        expect(one.claim).toMatchObject({
          lower: null,
          upper: null,
          p: null,
          se: null,
          joint: null,
        });
        expect(Number.isFinite(one.claim!.estimate)).toBe(true);
        expect(one.report).toContain(
          "could not be tested. A single cluster of “school” holds arm “new”",
        );
        // Nor does a table print what has no error.
        const own = effects.find((f) => f.id === one.effects[0])!;
        expect(own.withheld).toContain("single cluster");
      }
      // Resamples without that cluster fail, and take the limits of all claims with them.
      if (interval === "percentile") expect(h3!.reason).toContain("% of the bootstrap samples");
      else expect(h3!.verdict).not.toBe("not_testable");
    },
  );

  it("is the same for a number with two values, and in arms of one cluster each", () => {
    const settings = { cluster: "school", interval: "delta" } as const;
    const coded = study(12, (g) => (g === 5 ? "new" : "old"), 8, "H1: coded raises y");
    expect(analyseMade({ ...coded, settings }).hypotheses[0]!.verdict).toBe("not_testable");
    const each = study(
      3,
      (g) => ["new", "old", "none"][g]!,
      9,
      `H1: arm affects y\n${SENTENCES.split("\n")[0]!.replace("H1", "H2")}`,
    );
    for (const { verdict, claim } of analyseMade({ ...each, settings }).hypotheses) {
      expect(verdict).toBe("not_testable");
      expect(claim).toMatchObject({ lower: null, upper: null, p: null, joint: null });
    }
  });

  it("with two to four clusters on a side keeps its verdict, which says so", () => {
    const settings = { cluster: "school", interval: "delta" } as const;
    const made = study(10, (g) => (g < 3 ? "new" : "old"), 12, SENTENCES);
    const [h1] = analyseMade({ ...made, settings }).hypotheses;
    expect(h1!.verdict).not.toBe("not_testable");
    expect(told(h1)).toContain("Only 3 clusters of “school” hold arm “new”");
    const enough = study(14, (g) => (g < 6 ? "new" : "old"), 12, SENTENCES);
    expect(told(analyseMade({ ...enough, settings }).hypotheses[0])).not.toContain("Only");
  });
});

describe("a predictor with many values", () => {
  it("rests on as many clusters as hold what tells of it, in effect", () => {
    const clusters = 12;
    const of = Array.from({ length: 240 }, (_, i) => i % clusters);
    const [e, spread, k] = [normals(240, 51), normals(240, 52), normals(240, 53)];
    const made = (wide: number, times: number) => ({
      columns: {
        school: of.map((g) => `s${g}`),
        // Some clusters vary so much more that what is known of the effect lies in them.
        x: spread.map((v, i) => (of[i]! < wide ? times * v : v)),
        y: e.map((v, i) => v + k[of[i]!]!),
      },
      theory: "H1: x raises y",
      variables: { school: { level: "categorical" as const } },
      settings: { cluster: "school", interval: "delta" as const },
    });
    const h = (wide: number, times: number) => analyseMade(made(wide, times)).hypotheses[0]!;
    expect(h(12, 1).cautions.map((c) => c.code)).not.toContain("thin_contrast");
    const three = h(3, 30);
    expect(three.verdict).not.toBe("not_testable");
    expect(told(three)).toMatch(/lies in (2\.\d|3\.0) clusters of “school” in effect/);
    expect(h(1, 100).verdict).toBe("not_testable");
    expect(h(1, 100).reason).toContain("nearly all of it in one");
    expect(h(1, 100).claim).toMatchObject({ p: null, lower: null });
  });

  it("counts equal shares as what they are", () => {
    const of = Array.from({ length: 60 }, (_, i) => Math.floor(i / 10));
    const values = Float64Array.from(of, (_, i) => (i % 2 ? 1 : -1));
    const column = { key: "x", values } as never;
    const scheme = {
      kind: "clusters",
      members: [0, 1, 2, 3, 4, 5].map((g) => of.flatMap((own, i) => (own === g ? [i] : []))),
    };
    const prepared = {
      fit: { points: () => ({ y: values, columns: [column] }) },
      resampling: { scheme },
    } as never;
    expect(effectiveClusters(prepared, "x", "y")).toBeCloseTo(6, 10);
  });
});

describe("a category with one lone level", () => {
  it("keeps the differences between its other levels in tables", () => {
    const levels = ["none", "weekly", "daily"];
    const made = study(11, (g) => (g === 0 ? "daily" : levels[g % 2]!), 21, "H1: arm affects y");
    const settings = { cluster: "school", interval: "delta" as const };
    const { effects } = analyseMade({ ...made, settings });
    const direct = effects.filter((row) => row.kind === "direct" && row.to === "y");
    const lone = direct.filter((row) => row.withheld?.includes("single cluster"));
    expect(direct.length).toBe(2);
    expect(lone.map((row) => row.label).join()).toContain("daily");
    // The reference stands in one cluster: then both differences rest on it, else one of them.
    expect(lone.length).toBe(direct.every((row) => row.label.includes("daily")) ? 2 : 1);
  });
});

describe("under the null", () => {
  // The claim is that nothing is found by the cluster, in as many samples as are affordable.
  const samples = amount(60, 300);
  const found = (clusters: number, treated: number, verdicts: readonly string[]) => {
    let count = 0;
    for (let s = 1; s <= samples; s++) {
      const made = study(clusters, (g) => (g < treated ? "new" : "old"), 1000 * s, SENTENCES);
      const settings = { cluster: "school", interval: "delta" as const };
      const { verdict } = analyseMade({ ...made, settings }).hypotheses[0]!;
      if (verdicts.includes(verdict)) count += 1;
    }
    return count / samples;
  };
  it.each([6, 12])("one treated cluster of %d is never supported", (clusters) =>
    expect(found(clusters, 1, ["supported", "opposite"])).toBe(0),
  );
  it("three treated clusters of twelve are found no more often than the level says", () => {
    const error = Math.sqrt((0.05 * 0.95) / samples);
    expect(found(12, 3, ["supported", "opposite"])).toBeLessThanOrEqual(0.05 + 3 * error);
  });
});
