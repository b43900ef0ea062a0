import { equationsOf } from "../evidence";
import { describe, expect, it } from "vitest";
import { analyse } from "../analysis";
import { demoLeverStudy, demoStudy } from "../../demo/study";
import { prepare } from "../preparation";

import { demoFactorsStudy } from "../../demo/factors";
import { measuredOtherwise } from "./measured-otherwise";
import { influentialRows, robustness, withoutRows } from "./robustness";
import { parseTheory } from "../theory";

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

describe("measures made otherwise", () => {
  it("become averages, latent variables and composites, whichever they are not all", () => {
    const theory = [
      "measure f reflects a, b, c with variance 1",
      "measure g averages d, e",
      "H1: f raises g",
      "covary a with b",
    ];
    const statements = (lines: string[]) =>
      parseTheory(lines.join("\n"), ["a", "b", "c", "d", "e"]).statements;
    const otherwise = (lines: string[]) =>
      measuredOtherwise(lines.join("\n"), statements(lines)).map((m) => m.theory.split("\n"));
    expect(otherwise(theory)).toEqual([
      ["measure f averages a, b, c", "measure g averages d, e", "H1: f raises g", ""],
      [theory[0], "measure g reflects d, e", theory[2], theory[3]],
      ["measure f combines a, b, c", "measure g combines d, e", "H1: f raises g", ""],
    ]);
    expect(otherwise(theory.slice(1, 3))).toEqual([
      ["measure g reflects d, e", "H1: f raises g"],
      ["measure g combines d, e", "H1: f raises g"],
    ]);
    expect(otherwise(["measure k combines a, b weighted by regression", "H1: c raises k"])).toEqual(
      [
        ["measure k averages a, b", "H1: c raises k"],
        ["measure k reflects a, b", "H1: c raises k"],
      ],
    );
    expect(otherwise(["H1: a raises b"])).toEqual([]);
  });

  it("are among the ways, with other estimators of latent variables", () => {
    const demo = demoFactorsStudy();
    const few = {
      ...demo.definition,
      settings: { ...demo.definition.settings, replications: 60 },
    };
    // A third of the people: estimates by other ways take their time, and leave each out once.
    const found = robustness(
      withoutRows(
        few,
        Array.from({ length: demo.table.rows - 120 }, (_, i) => i + 121),
      ),
      demo.table,
    );
    expect(found.every((way) => way.problem === null)).toBe(true);
    const everybody = found.find((way) => /everybody/.test(way.name))!;
    expect(everybody.n).toBe(120);
    expect(found.filter((way) => way.group === "measures").map((way) => way.name)).toEqual([
      expect.stringMatching(/averages/),
      expect.stringMatching(/composites/),
    ]);
    const estimators = found.filter((way) => way.group === "estimators");
    expect(estimators).toHaveLength(5);
    const ordered = estimators.find((way) => /answers as ordered/.test(way.name))!;
    expect(ordered.claims.map((c) => c.verdict)).not.toContain("untestable");
    expect(found.find((way) => way.name === "by partial least squares")!.claims).toHaveLength(
      demo.definition.theory.match(/^H/gm)!.length,
    );
  });
});
