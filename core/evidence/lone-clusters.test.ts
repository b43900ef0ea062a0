import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../test-kit";
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
