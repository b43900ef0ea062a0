import { describe, expect, it } from "vitest";
import { demoCompositesStudy } from "../../demo/composites";
import { demoFactorsStudy } from "../../demo/factors";
import { demoLeverStudy, demoStudy } from "../../demo/study";
import { Analysis } from "../analysis";
import { prepare } from "../preparation";
import type { IntervalKind } from "../study";
import { claimsAlone } from "./claims-alone";

const STUDIES = { demoStudy, demoLeverStudy, demoFactorsStudy, demoCompositesStudy };
const INTERVALS: IntervalKind[] = ["bca", "percentile", "delta", "monte_carlo"];

describe("the tests of sentences alone", () => {
  it.each(Object.entries(STUDIES))("are those of the whole analysis: %s", (_, make) => {
    const { definition, table } = make();
    for (const interval of INTERVALS) {
      const settings = { ...definition.settings, interval, replications: 60 };
      const study = { ...definition, settings };
      const { hypotheses, effects } = Analysis.of(study, table).complete().evidence();
      const alone = claimsAlone(prepare(study, table), true);
      expect(alone.map(({ label, test }) => [label, test])).toEqual(
        hypotheses.map(({ label, claim }) => [label, claim]),
      );
      hypotheses.forEach((h, i) => {
        const effect = h.effects.length === 1 && effects.find((e) => e.id === h.effects[0]);
        if (!effect) return;
        const { lower, upper } = effect.bootstrap?.percentile ?? {};
        const { percentile } = alone[i]!.limits;
        if (percentile) expect([percentile.lower, percentile.upper]).toEqual([lower, upper]);
        expect(alone[i]!.joint).toBe(effect.jointSignificance?.classical?.significant ?? null);
      });
    }
  });
});
