import { describe, expect, it } from "vitest";
import { checkTest, Ledger } from "./compare";
import { analyseCase, expectedOf } from "./load";

describe("a latent mediation through the entry of app and command line", () => {
  const expected = expectedOf("latent-simple-mediation").result;
  const evidence = analyseCase("latent-simple-mediation", (json) => {
    json.settings = { replications: 0, interval: "delta" };
  });
  const effect = (id: string) => evidence.effects.find((e) => e.id === id)!;

  it("has direct, indirect and total effects with their delta-method errors", () => {
    const { unstandardised } = expected.effects["advice => wellbeing"];
    const ledger = new Ledger();
    for (const [id, wanted] of [
      ["direct advice > wellbeing", unstandardised.direct],
      ["total advice > wellbeing", unstandardised.total],
      [
        "indirect advice > skill > wellbeing",
        unstandardised.specific_indirect["advice -> skill -> wellbeing"],
      ],
    ] as const) {
      const { estimate, delta } = effect(id);
      ledger.same(id, estimate, wanted.est, 1e-6);
      checkTest(ledger, id, delta.joint.expected, wanted);
    }
    expect(ledger.off).toEqual([]);
    expect(evidence.estimator.id).toBe("covariance_structure");
    expect(evidence.errors).toBe("expected");
  });

  it("has the standardised effects", () => {
    const { standardised } = expected.effects["advice => wellbeing"];
    const ledger = new Ledger();
    ledger.same(
      "direct",
      effect("completely standardised direct advice > wellbeing").estimate,
      standardised.direct.est,
      1e-6,
    );
    ledger.same(
      "total",
      effect("completely standardised total advice > wellbeing").estimate,
      standardised.total.est,
      1e-6,
    );
    expect(ledger.off).toEqual([]);
  });

  it("does not depend on the direction in which an item is written, nor on the order of items but the first", () => {
    const other = analyseCase("latent-simple-mediation", (json) => {
      json.settings = { replications: 0, interval: "delta" };
      json.derived = [
        { name: "back", recipe: { kind: "formula", formula: "10 - adv3" } },
        { name: "shifted", recipe: { kind: "formula", formula: "skl2 + 1000000" } },
      ];
      json.theory[0] = "measure advice reflects adv1, adv4, reversed back, adv2";
      json.theory[1] = "measure skill reflects skl1, shifted, skl3, skl4";
    });
    for (const { id, estimate, delta } of evidence.effects) {
      const found = other.effects.find((e) => e.id === id)!;
      expect(found.estimate).toBeCloseTo(estimate!, 6);
      const se = delta.joint.expected?.se;
      if (se !== undefined) expect(found.delta.joint.expected!.se).toBeCloseTo(se, 6);
    }
  });

  it("is resampled to the same digits on any number of pieces, near the reference's limits", () => {
    const run = () =>
      analyseCase("latent-simple-mediation", (json) => {
        json.settings = { replications: 400, interval: "percentile" };
      });
    const found = run();
    expect(run()).toEqual(found);
    const indirect = found.effects.find((e) => e.id === "indirect advice > skill > wellbeing")!;
    const { percentile } = expectedOf("latent-simple-mediation").bootstrap_large.indirect;
    expect(indirect.shown!.lower).toBeCloseTo(percentile[0] as number, 1);
    expect(indirect.shown!.upper).toBeCloseTo(percentile[1] as number, 1);
    expect(found.bootstrap!.failed).toBe(0);
  });
});
