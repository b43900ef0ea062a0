import { describe, expect, it } from "vitest";
import { analyseMade, amount, madeStudy, normals } from "../../test-kit";
import { Analysis } from "../../analysis";
import { INTERVALS } from "../../study";

/** Two constructs of three items each that have nothing to do with one another. */
function noise(n: number, seed: number) {
  const item = (k: number) => normals(n, 97 * seed + k);
  const names = ["a1", "a2", "a3", "b1", "b2", "b3"];
  return Object.fromEntries(names.map((name, k) => [name, item(k)]));
}
const THEORY = [
  "measure A combines a1, a2, a3",
  "measure B combines b1, b2, b3",
  "H1: A affects B",
].join("\n");
const settings = { options: { folds: 0 } };

describe("constructs of noise", () => {
  it.each(["bca", "percentile", "basic", "normal", "delta"] as const)(
    "are found to be related no more often than chance allows, whatever is asked for: %s",
    (interval) => {
      const samples = amount(30, 300);
      let found = 0;
      for (let seed = 1; seed <= samples; seed++) {
        const { definition, table } = madeStudy({
          columns: noise(60, seed),
          theory: THEORY,
          settings: { ...settings, interval, replications: 300 },
        });
        const evidence = Analysis.of(definition, table).complete().evidence();
        if (evidence.hypotheses[0]!.verdict === "supported") found += 1;
      }
      // The chosen interval alone finds 15 to 80 % here.
      const error = Math.sqrt((0.05 * 0.95) / samples);
      expect(found / samples).toBeLessThanOrEqual(0.05 + 3 * error);
    },
  );

  it("an interval that is not offered is replaced, and that is said", () => {
    const evidence = analyseMade({
      columns: noise(60, 4),
      theory: THEORY,
      settings: { ...settings, interval: "basic", replications: 200 },
    });
    expect(evidence.settings.interval).toBe("bca");
    const said = evidence.warnings.find((w) => w.code === "interval_replaced")!;
    expect(said.message).toContain("The basic bootstrap interval that was chosen is not offered");
    expect(said.message).toContain("the BCa one stands in its place");
    expect(evidence.hypotheses[0]!.cautions.map((c) => c.code)).toContain("interval_replaced");
    expect(INTERVALS.filter((kind) => !(kind in evidence.withheldIntervals))).toEqual([
      "bca",
      "bc",
    ]);
  });

  it("of fixed weights keep every interval that can be resampled", () => {
    const { withheldIntervals, settings: used } = analyseMade({
      columns: noise(60, 5),
      theory: "measure A combines a1\nmeasure B combines b1\nH1: A affects B",
      settings: { ...settings, interval: "basic", replications: 200 },
    });
    expect(Object.keys(withheldIntervals).sort()).toEqual(["bootstrap_t", "monte_carlo"]);
    expect(used.interval).toBe("basic");
  });

  it("without resamples have no verdict, and the reason says what is missing", () => {
    const { hypotheses } = analyseMade({
      columns: noise(60, 6),
      theory: THEORY,
      settings: { ...settings, replications: 0 },
    });
    expect(hypotheses[0]!.verdict).toBe("not_testable");
    expect(hypotheses[0]!.reason).toContain("no bootstrap samples are asked for");
  });
});
