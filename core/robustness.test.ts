import { equationsOf } from "./evidence";
import { describe, expect, it } from "vitest";
import { analyse } from "./analyse";
import { demoLeverStudy, demoStudy } from "../demo/study";
import { prepare } from "./prepare";

import { influentialRows, robustness, withoutRows } from "./robustness";

const { definition, table } = demoStudy();
const study = { ...definition, settings: { ...definition.settings, replications: 600 } };

describe("the hypotheses over ways of analysing", () => {
  const ways = robustness(study, table);
  const way = (name: RegExp) => ways.find((s) => name.test(s.name))!;

  it("agree with a run of their own", () => {
    const own = analyse(study, table);
    expect(way(/main analysis/).claims.map((c) => [c.label, c.verdict, c.lower])).toEqual(
      own.hypotheses.map((h) => [h.label, h.verdict, h.claim!.lower]),
    );
    const robust = analyse(
      { ...study, settings: { ...study.settings, errors: "HC3", interval: "delta" } },
      table,
    );
    expect(way(/HC3/).claims[0]!.upper).toBe(robust.hypotheses[0]!.claim!.upper);
  });

  it("leave covariates and influential rows out where they say so", () => {
    const rows = influentialRows(analyse(study, table));
    expect(rows.length).toBeGreaterThan(0);
    expect(way(/influential/).n).toBe(way(/main analysis/).n! - rows.length);
    const bare = analyse({ ...study, theory: study.theory.replace(/^adjust.*$/m, "") }, table);
    expect(way(/without covariates/).claims[0]!.estimate).toBe(
      bare.effects.find((e) => e.id === bare.hypotheses[0]!.effects[0])!.estimate,
    );
    expect(way(/main analysis/).claims.every((c) => !c.differs)).toBe(true);
  });

  it("says why a way is not possible", () => {
    const tiny = withoutRows(
      study,
      Array.from({ length: 416 }, (_, i) => i + 1),
    );
    const broken = robustness(
      { ...study, theory: `${study.theory}\nalso group to friends` },
      table,
    );
    expect(broken.every((s) => s.claims.length > 0 || s.problem !== null)).toBe(true);
    expect(() => robustness(tiny, table)).toThrow(/complete rows|No row is complete/);
  });
});

describe("residual rows", () => {
  it("are those that the checks are made of, also with products", () => {
    const lever = demoLeverStudy();
    const prepared = prepare(
      { ...lever.definition, settings: { ...lever.definition.settings, replications: 0 } },
      lever.table,
    );
    const found = prepared.fit.residuals!("confidence")!;
    const evidence = analyse(
      { ...lever.definition, settings: { ...lever.definition.settings, replications: 0 } },
      lever.table,
    );
    const top = equationsOf(evidence).find((e) => e.outcome === "confidence")!.checks!.topCook[0]!;
    const at = found.rows.indexOf(top.row);
    expect(found.cook[at]).toBeCloseTo(top.cook, 12);
    expect(found.studentised[at]).toBeCloseTo(top.studentisedInternal, 12);
    expect(found.leverage.reduce((a, b) => a + b, 0)).toBeCloseTo(6, 9);
    expect(prepared.fit.residuals!("nothing")).toBeNull();
  });
});
