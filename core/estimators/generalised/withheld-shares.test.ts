import { describe, expect, it } from "vitest";
import type { Evidence } from "../../evidence";
import { completeChoices, composeReport, type Block } from "../../report";
import { dataEvidence } from "../../evidence";
import { analyse } from "../../analysis";
import { madeStudy, normals } from "../../test-kit";
import type { NaturalEffect, ResponseSection } from "./types";
import { isShare, withheldAmong } from "./withheld-shares";

const N = 400;
const [a, b, c] = [1, 2, 3].map((k) => normals(N, 700 + k)) as [number[], number[], number[]];
const x = a.map((v) => (v > 0 ? 1 : 0));
const m = x.map((v, i) => 0.9 * v + b[i]!);

/** A yes/no outcome on which the treatment acts through m by `through`, and past it by `past`. */
const studyOf = (through: number, past: number) =>
  madeStudy({
    columns: { x, m, yes: m.map((v, i) => (through * v + past * x[i]! + c[i]! > 0.2 ? 1 : 0)) },
    theory: "H1: x raises yes through m",
    settings: { interval: "delta", options: { treatment_product: "out" } },
  });
const sectionOf = ({ sections }: Evidence): ResponseSection =>
  sections.find((s) => s.kind === "responses")!;
const sharesOf = (evidence: Evidence): NaturalEffect[] =>
  Object.values(sectionOf(evidence).natural[0]!.effects).flat().filter(isShare);
const found = (through: number, past: number): Evidence => {
  const { definition, table } = studyOf(through, past);
  return analyse(definition, table);
};

describe("shares of a total effect", () => {
  it("are reported where the total is clear and its parts have one sign", () => {
    const evidence = found(0.8, 0.9);
    const shares = sharesOf(evidence);
    const plain = shares.filter((s) => !s.name.includes("interaction") && !s.name.includes("["));
    expect(plain.length).toBeGreaterThan(2);
    expect(plain.map((s) => s.withheld)).toEqual(plain.map(() => null));
    expect(sectionOf(evidence).products[0]!.rescaled.withheld).toBeNull();
  });

  it("are withheld where the total may be zero", () => {
    const evidence = found(0.6, -0.55);
    const shares = sharesOf(evidence);
    for (const { withheld } of shares) expect(withheld).toContain("may be zero");
    expect(sectionOf(evidence).products[0]!.rescaled.withheld).not.toBeNull();
    // What is no share is told as before.
    const effects = sectionOf(evidence).natural[0]!.effects.difference!;
    expect(effects.filter((e) => !isShare(e)).every((e) => e.withheld === null)).toBe(true);
  });

  it("are withheld where the parts have opposite signs", () => {
    const shares = sharesOf(found(0.5, -1.6));
    expect(shares.find((s) => s.name === "proportion_mediated")!.withheld).toContain("opposite");
  });

  it("stand nowhere in the report, the reason does", () => {
    const { definition, table } = studyOf(0.6, -0.55);
    const evidence = analyse(definition, table);
    const report = composeReport(
      { evidence, data: dataEvidence(definition, table), definition },
      completeChoices(undefined),
    );
    const tables = report.blocks.filter(
      (block): block is Extract<Block, { kind: "table" }> =>
        block.kind === "table" && block.id.startsWith("natural"),
    );
    expect(tables.length).toBeGreaterThan(0);
    const words = JSON.stringify(tables);
    for (const { estimate } of sharesOf(evidence)) expect(words).not.toContain(String(estimate));
    expect(words).toMatch(/Not reported: [^"]* others\. The total effect may be zero/);
  });
});

describe("the total that shares are judged by", () => {
  const effect = (
    name: NaturalEffect["kind"],
    estimate: number,
    more: Partial<NaturalEffect> = {},
  ) =>
    ({
      kind: name,
      held: null,
      name,
      words: "",
      estimate,
      model: { se: 1, lower: 0.1, upper: 1, p: 0.01 },
      robust: { se: 1, lower: -0.1, upper: 1, p: 0.1 },
      bootstrap: null,
      drawn: null,
      withheld: null,
      ...more,
    }) as NaturalEffect;
  const share = effect("proportion_mediated", 0.4);
  const judged = (total: NaturalEffect, errors: "classical" | "HC0") =>
    withheldAmong([share], total, { interval: "delta", errors })[0]!.withheld;

  it("has the limits of the chosen errors and interval", () => {
    const total = effect("total_effect", 0.5);
    expect(judged(total, "classical")).toBeNull();
    expect(judged(total, "HC0")).toContain("may be zero");
    expect(judged({ ...total, drawn: { lower: -0.2, upper: 1 } }, "classical")).not.toBeNull();
  });

  it("leaves nothing in that lies outside its own interval", () => {
    const total = effect("total_effect", 0.5);
    const wild = effect("pure_natural_direct", 1.4);
    const told = withheldAmong([total, wild], total, { interval: "delta", errors: "classical" });
    expect(told.map((e) => e.withheld !== null)).toEqual([false, true]);
    expect(told[1]!.withheld).toContain("leaves out the estimate itself");
    expect(told[1]!.estimate).toBe(1.4);
  });

  const at = (...held: number[]) => ({ held, name: `held at ${held.join(" and ")}` });

  it("does not judge parts by those of another place where the mediator is held", () => {
    const parts = [
      effect("share_controlled_direct", 0.6, at(1, 20)),
      effect("share_reference_interaction", 0.2, at(1, 20)),
      effect("share_controlled_direct", 1.2, at(1, 2)),
      effect("share_interaction_total", 0.1, at(1, 2)),
      effect("proportion_eliminated", 0.1, at(1, 2)),
    ];
    const told = withheldAmong(parts, effect("total_effect", 0.5), {
      interval: "delta",
      errors: "classical",
    });
    expect(told.map((e) => e.withheld !== null)).toEqual([false, false, true, true, false]);
  });

  it("takes all four parts along where one of them has another sign", () => {
    const four = [
      effect("share_controlled_direct", 1.2, at(1)),
      effect("share_reference_interaction", -0.4, at(1)),
      effect("share_mediated_interaction", 0.1),
      effect("share_pure_indirect", 0.1),
    ];
    const told = withheldAmong(four, effect("total_effect", 0.5), {
      interval: "delta",
      errors: "classical",
    });
    expect(told.map((e) => e.withheld !== null)).toEqual([true, true, false, false]);
    const one = withheldAmong(
      [effect("share_controlled_direct", 0.9, at(1)), effect("share_pure_indirect", -0.2)],
      effect("total_effect", 0.5),
      { interval: "delta", errors: "classical" },
    );
    expect(one.map((e) => e.withheld !== null)).toEqual([true, true]);
  });
});
