import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { compileTheory, nearestName, parseTheory, pathsBetween, RESERVED, writeStatement } from ".";
import { StudyProblem } from "../problems";

const NAMES = ["hours", "confidence", "friends", "belonging", "age", "months", "group", "weekly hours", "to"];
const parse = (text: string) => parseTheory(text, NAMES);
const compile = (text: string) => compileTheory(parse(text).statements);

describe("reading the notation", () => {
  it("reads every kind of sentence and writes it back", () => {
    const text = [
      "H1: hours raises belonging through confidence then friends and friends",
      'H2: "weekly hours" lowers belonging only through confidence',
      'also age to belonging, "to" to belonging',
      "adjust confidence, belonging for age, months",
      "define share as H1 / (H1 + (2 * abs(direct hours to belonging)))",
      "contrast H1 with H2",
    ].join("\n");
    const { statements, complaints } = parse(text);
    expect(complaints).toEqual([]);
    expect(statements.map(writeStatement).join("\n")).toBe(text);
  });

  it("numbers sentences without a label, past those that have one", () => {
    const { statements } = parse("hours raises friends\nH1: hours raises belonging");
    expect(statements.map((s) => s.kind === "hypothesis" && s.label)).toEqual(["H2", "H1"]);
  });

  it.each([
    ["H1: hour raises belonging", 5, /“hour”.*“hours”/, "hours"],
    ["H1: hours raise belonging", 11, /“raises”/, "raises"],
    ["H1: hours raises belonging trough confidence", 28, /should end before “trough”/, undefined],
    ["H1: hours raises belonging through confidence, friends", 46, /“and” when they stand side by side/, "and"],
    ["H1: hours raises", 17, /Expected the variable/, undefined],
    ["contrast H1 and H2", 13, /“with”/, undefined],
    ['H1: "hours raises belonging', 5, /never closed/, undefined],
    ["H1: hours strengthens belonging", 11, /does not estimate/, undefined],
    ["H1: hours raises belonging; really", 27, /no meaning/, undefined],
  ])("complains of %s at column %i", (text, column, message, suggestion) => {
    const { complaints } = parse(text);
    expect(complaints[0]).toMatchObject({ line: 1, column });
    expect(complaints[0]!.message).toMatch(message);
    expect(complaints[0]!.suggestion).toBe(suggestion);
  });

  it("keeps the good lines when one is bad, and refuses a label used twice", () => {
    expect(parse("H1: hours raises belonging\nnonsense").statements).toHaveLength(1);
    expect(parse("H1: hours raises belonging\nH1: age raises belonging").complaints[0]!.message).toContain("already names line 1");
  });

  it("never throws, whatever is typed", () => {
    const pieces = fc.constantFrom(...NAMES, ...RESERVED, "H1", ":", ",", "+", "(", ")", '"', "#", "\n", "3.5", "é;");
    fc.assert(fc.property(fc.array(pieces, { maxLength: 25 }), (words) => void parse(words.join(" "))));
  });

  it("finds the nearest name, or none", () => {
    expect(nearestName("confidnece", NAMES)).toBe("confidence");
    expect(nearestName("bel", NAMES)).toBe("belonging");
    expect(nearestName("zebra", NAMES)).toBeUndefined();
  });
});

describe("compiling", () => {
  it("unites sentences into equations, mediators before outcomes", () => {
    const theory = compile("H1: hours raises belonging through confidence then friends\nadjust confidence, belonging for age");
    expect(theory.equations).toEqual([
      { outcome: "confidence", predictors: ["hours"], covariates: ["age"] },
      { outcome: "friends", predictors: ["confidence"], covariates: [] },
      { outcome: "belonging", predictors: ["hours", "friends"], covariates: ["age"] },
    ]);
    expect(theory.roles).toEqual({
      predictors: ["hours"],
      mediators: ["confidence", "friends"],
      outcomes: ["belonging"],
      covariates: ["age"],
    });
  });

  it("leaves the direct path out after “only through”", () => {
    expect(compile("hours raises belonging only through confidence").equations[1]).toMatchObject({
      outcome: "belonging",
      predictors: ["confidence"],
    });
  });

  it("enters a variable once when it is both predictor and covariate", () => {
    const theory = compile("months lowers belonging\nadjust belonging for months, age");
    expect(theory.equations[0]).toEqual({ outcome: "belonging", predictors: ["months"], covariates: ["age"] });
  });

  it("spells a cycle out, also one through a covariate", () => {
    expect(() => compile("hours raises belonging\nbelonging raises friends\nfriends raises hours")).toThrow(
      /hours → belonging → friends → hours/,
    );
    expect(() => compile("hours raises belonging through confidence\nadjust confidence for belonging")).toThrow(StudyProblem);
  });

  it.each([
    "hours raises hours",
    "hours raises belonging through confidence then confidence",
    "hours raises belonging\nadjust age for months",
    "",
  ])("refuses %j", (text) => expect(() => compile(text)).toThrow(StudyProblem));

  it("lists every path between two variables once, in a random acyclic graph", () => {
    const edges = fc.uniqueArray(
      fc.tuple(fc.nat(5), fc.nat(5)).filter(([a, b]) => a < b),
      { selector: ([a, b]) => `${a} ${b}`, maxLength: 12 },
    );
    fc.assert(
      fc.property(edges, (list) => {
        const paths = list.map(([a, b]) => ({ from: `v${a}`, to: `v${b}` }));
        const count = (node: number): number =>
          node === 5 ? 1 : list.filter(([a]) => a === node).reduce((sum, [, b]) => sum + count(b), 0);
        const found = pathsBetween(paths, "v0", "v5");
        expect(found).toHaveLength(count(0));
        expect(new Set(found.map(String)).size).toBe(found.length);
      }),
    );
  });
});
