import { describe, expect, it } from "vitest";
import { compileExpression, type Expression } from "../model";
import { prepare } from "../preparation";
import { madeStudy, problemOf, type MadeStudy } from "../test-kit";
import { claimOf, directOf, type Claimed } from "./claims";
import {
  caseAt,
  CODES,
  COLUMNS,
  made,
  mean,
  N,
  readerOf,
  type Values,
} from "../test-kit/second-route";

const { x, w, v } = COLUMNS;

/** The claims of a theory by label, with the numbers of their expressions. */
function claimsOf(theory: string, change: Partial<MadeStudy> = {}) {
  const study = { ...made(theory), ...change };
  const { definition, table } = madeStudy(study);
  const prepared = prepare(definition, table);
  const { context, theta } = prepared;
  const sentences = [...context.theory.hypotheses, ...context.theory.moderations];
  const of = (label: string): Claimed =>
    claimOf(
      context,
      sentences.find((s) => s.label === label)!,
    );
  const value = (e: Expression): number => compileExpression(e)(theta, 0);
  const values = (label: string): number[] => of(label).quantities.map((q) => value(q.expression));
  const direct = (label: string) =>
    directOf(
      context,
      context.theory.hypotheses.find((h) => h.label === label)!,
    );
  return { of, values, value, direct, prepared, ...readerOf(study) };
}

const MIDDLE: Values = { x: mean(x), w: mean(w), v: mean(v), z: 0, m: 0, k: 0, ...CODES.low };
const averageOf = (f: (values: Values) => number): number =>
  x.reduce((sum, _, i) => sum + f(caseAt(i)), 0) / N;

describe("what a hypothesis claims", () => {
  it("a path, or the sum over all named ones, whatever the order of naming", () => {
    const { of, values, path } = claimsOf(
      "H1: x raises y\nH2: x raises y through m\nH3: x raises y through m and k\nH4: x raises y through k and m\nH5: x raises y through m then k",
    );
    const at = (...nodes: string[]): number => path(nodes, MIDDLE);
    expect(values("H1")[0]).toBeCloseTo(at("x", "y"), 9);
    expect(values("H2")[0]).toBeCloseTo(at("x", "m", "y"), 9);
    expect(values("H3")[0]).toBeCloseTo(at("x", "m", "y") + at("x", "k", "y"), 9);
    expect(values("H5")[0]).toBeCloseTo(at("x", "m", "k", "y"), 9);
    expect(of("H3").quantities[0]!.id).toBe(of("H4").quantities[0]!.id);
    expect(of("H1").quantities[0]).toMatchObject({
      id: "direct x > y",
      kind: "direct",
      label: "x on y",
      via: [],
    });
    expect(of("H2").quantities[0]).toMatchObject({
      id: "indirect x > m > y",
      kind: "specific_indirect",
      label: "x on y through m",
      via: ["m"],
    });
    expect(of("H2").quantities[0]!.averaged).toBeUndefined();
    for (const label of ["H1", "H2", "H3"])
      expect(of(label)).toMatchObject({ joint: false, open: null, focal: [], along: null });
  });

  it("of a moderated path its average over the cases, alone and within a sum", () => {
    const { of, values, path } = claimsOf(
      "H1: x raises y\nH2: x raises y through m\nH3: x raises y through m and k\nH4: w strengthens x to m\nH5: v strengthens x to y",
    );
    const average = (...nodes: string[]): number => averageOf((values) => path(nodes, values));
    expect(values("H1")[0]).toBeCloseTo(average("x", "y"), 9);
    expect(values("H2")[0]).toBeCloseTo(average("x", "m", "y"), 9);
    expect(values("H3")[0]).toBeCloseTo(average("x", "m", "y") + path(["x", "k", "y"], MIDDLE), 9);
    expect(of("H1").quantities[0]).toMatchObject({
      kind: "average_direct",
      id: "average direct x > y",
      label: "x on y, on average",
      averaged: true,
    });
    expect(of("H2").quantities[0]).toMatchObject({
      kind: "average_indirect",
      id: "average indirect x > m > y",
      averaged: true,
    });
    expect(of("H3").quantities[0]).toMatchObject({
      kind: "combined_indirect",
      averaged: true,
      label: expect.stringMatching(/ together, on average$/),
    });
  });

  it("the direct effect beside an indirect one, where the theory has it", () => {
    const { direct } = claimsOf("H1: x raises y through m\nalso x to y");
    expect(direct("H1")!.quantities.map((q) => q.id)).toEqual(["direct x > y"]);
    // A third variable without a path of its own has no direct effect.
    const without = claimsOf("H1: x raises y through m\nH2: w raises y through m");
    expect(without.direct("H1")!.quantities).toHaveLength(1);
  });

  it("of a categorical predictor all codes together, or the difference of two levels", () => {
    const { of, values, value, direct } = claimsOf(
      'H1: g affects y through m\nH2: g ("high" against "middle") raises y through m\nH3: g ("middle" against "high") raises y through m\nalso g to y',
    );
    expect(of("H1")).toMatchObject({
      joint: true,
      open: { variable: "g", levels: ["low", "high", "middle"] },
    });
    expect(of("H1").quantities.map((q) => q.from)).toEqual(["g.1", "g.2"]);
    const [high, middle] = values("H1") as [number, number];
    expect(values("H2")).toHaveLength(1);
    expect(values("H2")[0]).toBeCloseTo(high - middle, 10);
    expect(values("H3")[0]).toBeCloseTo(middle - high, 10);
    expect(of("H2")).toMatchObject({ joint: false, open: null });
    expect(of("H2").quantities[0]).toMatchObject({
      kind: "comparison",
      label: "g (high against middle) on y through m",
      from: "g (high against middle)",
    });
    const [own] = direct("H2")!.quantities;
    const [a, b] = direct("H1")!.quantities.map((q) => value(q.expression)) as [number, number];
    expect(value(own!.expression)).toBeCloseTo(a - b, 10);
  });

  it("of two levels also the sum over several routes", () => {
    const { of, values } = claimsOf(
      'H1: g affects y through m and k\nH2: g ("high" against "low") raises y through m and k',
    );
    expect(values("H2")[0]).toBeCloseTo(values("H1")[0]!, 10);
    expect(of("H2").quantities[0]).toMatchObject({
      kind: "comparison",
      from: "g (high against low)",
      label: expect.stringMatching(/^g \(high against low\) on y through/),
    });
  });

  it("names levels by their labels too, and refuses what is no level, or no categorical variable", () => {
    const variables = {
      ...made("").variables,
      g: { ...made("").variables!.g, labels: { high: "much", low: "little" } },
    };
    const { of } = claimsOf('H1: g ("much" against "little") raises m', { variables });
    expect(of("H1").quantities[0]!.from).toBe("g (high against low)");
    expect(problemOf(made('H1: g ("hihg" against "low") raises m'))).toMatchObject({
      code: "notation",
      message: expect.stringContaining("Did you mean “high”?"),
    });
    expect(problemOf(made('H1: g ("zebra" against "low") raises m')).message).toContain(
      "Levels: low, high, middle.",
    );
    expect(problemOf(made('H1: x ("high" against "low") raises m')).message).toContain(
      "not categorical here",
    );
    expect(problemOf(made('H1: w ("high" against "low") strengthens x to m')).message).toContain(
      "not categorical here",
    );
  });
});

describe("what a moderation claims", () => {
  it("of one step the interaction, with the average effect as what it is about", () => {
    const { of, values, value, step } = claimsOf("H1: w strengthens x to m");
    const slope = (at: number): number => step("m", "x", { ...MIDDLE, w: at });
    expect(values("H1")[0]).toBeCloseTo(slope(7) - slope(6), 9);
    expect(of("H1").quantities[0]).toMatchObject({
      id: "interaction x:w on m",
      kind: "interaction",
      label: "x × w on m",
    });
    expect(of("H1").focal.map((q) => q.id)).toEqual(["average direct x > m"]);
    expect(of("H1")).toMatchObject({ joint: false, open: null });
    const along = of("H1").along!;
    expect(along.key).toBe("w");
    const [c0, c1, ...more] = along.coefficients.map(value);
    expect(more).toEqual([]);
    for (const at of [3, 8]) expect(c0! + c1! * (at - mean(w))).toBeCloseTo(slope(at), 9);
  });

  it("of a whole path the index, and of both stages the change averaged over the cases", () => {
    const one = claimsOf("H1: w strengthens x to y through m on x to m");
    expect(one.of("H1").quantities[0]).toMatchObject({
      id: "index of moderated mediation x > m > y by w",
      kind: "index",
      via: ["m"],
      label: "x on y through m: index of moderated mediation by w",
    });
    const both = claimsOf("H1: v alters x to y through m on x to m and m to y");
    const change = averageOf((values) => {
      const at = (shift: number): number =>
        both.path(["x", "m", "y"], { ...values, v: values.v! + shift });
      return (at(1) - at(-1)) / 2;
    });
    expect(both.values("H1")[0]).toBeCloseTo(change, 8);
    expect(both.of("H1").quantities[0]).toMatchObject({
      kind: "average_change",
      averaged: true,
      label: "x on y through m: change per unit of v, averaged over the sample",
    });
    const [c0, c1, c2] = both.of("H1").along!.coefficients.map(both.value);
    for (const d of [-9, 4])
      expect(c0! + c1! * d + c2! * d * d).toBeCloseTo(
        both.path(["x", "m", "y"], { ...MIDDLE, v: mean(v) + d }),
        7,
      );
  });

  it("along one moderator everything else is averaged over the sample", () => {
    const { of, value, step } = claimsOf("H1: w strengthens x to m\nH2: v strengthens x to m");
    const [c0, c1] = of("H1").along!.coefficients.map(value);
    for (const at of [3, 8])
      expect(c0! + c1! * (at - mean(w))).toBeCloseTo(
        averageOf((values) => step("m", "x", { ...values, w: at })),
        8,
      );
  });

  it("of a moderator with two values on both stages the difference between them", () => {
    const { of, values, path } = claimsOf(
      "H1: z strengthens x to y through m on x to m and m to y",
    );
    const at = (value: number): number => path(["x", "m", "y"], { ...MIDDLE, z: value });
    expect(values("H1")[0]).toBeCloseTo(at(1) - at(0), 8);
    expect(of("H1").quantities[0]).toMatchObject({
      kind: "average_change",
      label: expect.stringContaining("difference, z"),
    });
    const single = claimsOf("H1: z strengthens x to m");
    expect(single.of("H1").quantities[0]!.id).toBe("interaction x:z on m");
  });

  it("of a categorical moderator all codes together, or two levels", () => {
    const { of, values, step } = claimsOf(
      'H1: g alters x to m\nH2: g ("high" against "middle") strengthens x to m',
    );
    expect(of("H1")).toMatchObject({
      joint: true,
      open: { variable: "g", levels: ["low", "high", "middle"] },
      along: null,
    });
    expect(of("H1").quantities.map((q) => q.id)).toEqual([
      "interaction x:g.1 on m",
      "interaction x:g.2 on m",
    ]);
    const at = (level: string): number => step("m", "x", { ...MIDDLE, ...CODES[level] });
    expect(values("H2")[0]).toBeCloseTo(at("high") - at("middle"), 9);
    expect(of("H2")).toMatchObject({ joint: false, open: null });
    expect(of("H2").quantities[0]).toMatchObject({
      kind: "average_change",
      label: "x on m: difference, g (high against middle)",
    });
  });

  it("of a categorical predictor that is moderated: its codes, or a comparison", () => {
    const { of, values } = claimsOf(
      'H1: w alters g to k\nH2: w alters g ("high" against "middle") to k',
    );
    expect(of("H1")).toMatchObject({ joint: true, open: { variable: "g" }, along: null });
    expect(of("H1").quantities).toHaveLength(2);
    const [high, middle] = values("H1") as [number, number];
    expect(values("H2")[0]).toBeCloseTo(high - middle, 10);
    expect(of("H2").quantities[0]).toMatchObject({
      from: "g (high against middle)",
      kind: "average_change",
    });
    expect(of("H2").focal[0]!.from).toBe("g (high against middle)");
    expect(of("H2").along).not.toBeNull();
  });

  it("of two moderators together the change of the change", () => {
    const one = claimsOf("H1: w with v alters x to m");
    const slope = (a: number, b: number): number => one.step("m", "x", { ...MIDDLE, w: a, v: b });
    expect(one.values("H1")[0]).toBeCloseTo(
      slope(6, 51) - slope(5, 51) - slope(6, 50) + slope(5, 50),
      8,
    );
    expect(one.of("H1").quantities[0]!.kind).toBe("interaction");
    expect(one.of("H1").along).toBeNull();
    const path = claimsOf("H1: w with v alters x to y through m on x to m");
    expect(path.of("H1").quantities[0]).toMatchObject({
      id: "index of moderated moderated mediation x > m > y by v and w",
      kind: "index",
      label: "x on y through m: index of moderated moderated mediation by v and w",
    });
    expect(path.prepared.quantities.filter((q) => q.kind === "index").map((q) => q.id)).toContain(
      "index of moderated moderated mediation x > m > y by v and w",
    );
  });

  it("of a variable on its own effect the square", () => {
    const { of, values, step } = claimsOf("H1: x strengthens x to k");
    const slope = (at: number): number => step("k", "x", { ...MIDDLE, x: at });
    expect(2 * values("H1")[0]!).toBeCloseTo(slope(11) - slope(10), 8);
    expect(of("H1").quantities[0]).toMatchObject({
      id: "interaction x:x on k",
      label: "x² (curvature) on k",
    });
  });
});

describe("quantities of one's own", () => {
  const theory = "H1: x raises y through m\nH2: x raises y through k\nalso x to y";
  const own = (more: string) => {
    const { definition, table } = madeStudy(made(`${theory}\n${more}`));
    const { quantities, estimates } = prepare(definition, table);
    return (id: string): number => estimates[quantities.findIndex((q) => q.id === id)]!;
  };

  it("calculate with sentences, effects and earlier definitions", () => {
    const value = own(
      [
        "define both as H1 + H2",
        "define share as H1 / both",
        "define whole as total x to y",
        "define straight as direct x to y",
        "define around as indirect x to y",
        "define first as indirect x to y through m",
        "define odd as -sqrt(abs(H1)) * 2 - exp(0)",
        "contrast H1 with both",
      ].join("\n"),
    );
    const [h1, h2] = [value("indirect x > m > y"), value("indirect x > k > y")];
    expect(value("define both")).toBeCloseTo(h1 + h2, 12);
    expect(value("define share")).toBeCloseTo(h1 / (h1 + h2), 12);
    expect(value("define straight")).toBeCloseTo(value("direct x > y"), 12);
    expect(value("define around")).toBeCloseTo(h1 + h2, 12);
    expect(value("define whole")).toBeCloseTo(h1 + h2 + value("direct x > y"), 12);
    expect(value("define first")).toBeCloseTo(h1, 12);
    expect(value("define odd")).toBeCloseTo(-2 * Math.sqrt(Math.abs(h1)) - 1, 12);
    expect(value("contrast H1 with both")).toBeCloseTo(h1 - (h1 + h2), 12);
  });

  it("say what they do not know, and what is near", () => {
    const message = (more: string): string => problemOf(made(`${theory}\n${more}`)).message;
    expect(message("contrast H1 with H3")).toMatch(
      /no earlier sentence is called “H3”\. Did you mean “H[12]”\?/,
    );
    expect(message("contrast H1 with somethingelse")).toContain("Known: H1, H2.");
    expect(message("define a as indirect x to y through w")).toMatch(
      /has no indirect \(through w\) effect on y|no effect there/,
    );
    expect(message("define a as direct m to x")).toContain("“m” has no effect there");
    expect(
      problemOf(made("H1: g affects y through m\ndefine a as total g to y")).message,
    ).toContain("“g” has 2 code columns");
    expect(problemOf(made("H1: g affects y through m\ndefine a as H1 * 2")).message).toContain(
      "“g” has 2 code columns",
    );
    expect(problemOf(made("define a as H1\nalso x to y")).message).not.toContain("Known:");
  });
});
