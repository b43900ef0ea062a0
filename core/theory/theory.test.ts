import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  lineKind,
  linesOf,
  theoryWithout,
  compileTheory,
  nearestName,
  parseTheory,
  pathsBetween,
  renameInTheory,
  RESERVED,
  writeStatement,
} from ".";
import { StudyProblem } from "../problems";

const NAMES = [
  "hours",
  "confidence",
  "friends",
  "belonging",
  "age",
  "months",
  "group",
  "weekly hours",
  "to",
];
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
    ["H1: hours raize belonging", 11, /“raises”/, "raises"],
    ["H1: hours raises belonging trough confidence", 28, /should end before “trough”/, undefined],
    [
      "H1: hours raises belonging through confidence, friends",
      46,
      /“and” when they stand side by side/,
      "and",
    ],
    ["H1: hours raises", 17, /Expected the variable/, undefined],
    ["contrast H1 and H2", 13, /“with”/, undefined],
    ['H1: "hours raises belonging', 5, /never closed/, undefined],
    ["H1: hours strengthens belonging", 32, /Expected “to” here/, undefined],
    ["H1: age strengthenz hours to friends", 9, /Expected “raises”/, "strengthens"],
    ["H1: age with months raises friends", 21, /Expected “strengthens”/, undefined],
    ["covary friends", 15, /covary conf1 with conf2/, undefined],
    ["measure age averages hours", 9, /already a column/, "age_scale"],
    ["measure s average hours, age", 11, /Expected “averages”/, "averages"],
    ["measure s averages hours on 5 to 1", 35, /not from 5 to 1/, undefined],
    ["measure s averages hours with 120 % answered", 45, /not a share/, undefined],
    ["measure s averages hours, hours", 27, /item of “s” already/, undefined],
    ["H1: hours raises belonging; really", 27, /no meaning/, undefined],
  ])("complains of %s at column %i", (text, column, message, suggestion) => {
    const { complaints } = parse(text);
    expect(complaints[0]).toMatchObject({ line: 1, column });
    expect(complaints[0]!.message).toMatch(message);
    expect(complaints[0]!.suggestion).toBe(suggestion);
  });

  it("keeps the good lines when one is bad, and refuses a label used twice", () => {
    expect(parse("H1: hours raises belonging\nnonsense").statements).toHaveLength(1);
    expect(
      parse("H1: hours raises belonging\nH1: age raises belonging").complaints[0]!.message,
    ).toContain("already names line 1");
  });

  it("never throws, whatever is typed", () => {
    const pieces = fc.constantFrom(
      ...NAMES,
      ...RESERVED,
      "H1",
      ":",
      ",",
      "+",
      "(",
      ")",
      '"',
      "#",
      "\n",
      "3.5",
      "é;",
    );
    fc.assert(
      fc.property(fc.array(pieces, { maxLength: 25 }), (words) => void parse(words.join(" "))),
    );
  });

  it("finds the nearest name, or none", () => {
    expect(nearestName("confidnece", NAMES)).toBe("confidence");
    expect(nearestName("bel", NAMES)).toBe("belonging");
    expect(nearestName("zebra", NAMES)).toBeUndefined();
  });
});

describe("compiling", () => {
  it("unites sentences into equations, mediators before outcomes", () => {
    const theory = compile(
      "H1: hours raises belonging through confidence then friends\nadjust confidence, belonging for age",
    );
    expect(theory.equations).toEqual([
      {
        outcome: "confidence",
        predictors: ["hours"],
        moderators: [],
        covariates: ["age"],
        products: [],
      },
      {
        outcome: "friends",
        predictors: ["confidence"],
        moderators: [],
        covariates: [],
        products: [],
      },
      {
        outcome: "belonging",
        predictors: ["hours", "friends"],
        moderators: [],
        covariates: ["age"],
        products: [],
      },
    ]);
    expect(theory.roles).toEqual({
      predictors: ["hours"],
      mediators: ["confidence", "friends"],
      moderators: [],
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
    expect(theory.equations[0]).toEqual({
      outcome: "belonging",
      predictors: ["months"],
      moderators: [],
      covariates: ["age"],
      products: [],
    });
  });

  it("spells a cycle out, also one through a covariate", () => {
    expect(() =>
      compile("hours raises belonging\nbelonging raises friends\nfriends raises hours"),
    ).toThrow(/hours → belonging → friends → hours/);
    expect(() =>
      compile("hours raises belonging through confidence\nadjust confidence for belonging"),
    ).toThrow(StudyProblem);
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
          node === 5
            ? 1
            : list.filter(([a]) => a === node).reduce((sum, [, b]) => sum + count(b), 0);
        const found = pathsBetween(paths, "v0", "v5");
        expect(found).toHaveLength(count(0));
        expect(new Set(found.map(String)).size).toBe(found.length);
      }),
    );
  });
});

describe("moderation", () => {
  const compile = (...lines: string[]) => compileTheory(parse(lines.join("\n")).statements);

  it.each<[string, string[], string[][]]>([
    ["age strengthens hours to friends", ["age"], [["hours", "age"]]],
    [
      "age with months alters hours to friends",
      ["age", "months"],
      [
        ["hours", "age"],
        ["hours", "months"],
        ["age", "months"],
        ["hours", "age", "months"],
      ],
    ],
  ])("%s puts lower-order terms in", (line, moderators, products) => {
    expect(compile(line).equations).toEqual([
      { outcome: "friends", predictors: ["hours"], moderators, covariates: [], products },
    ]);
  });

  it("acts additively when two sentences say so, and enters nothing twice", () => {
    const { equations, roles } = compile(
      "age alters hours to friends",
      "months weakens hours to friends",
      "also age to friends",
      "adjust friends for months",
    );
    expect(equations[0]).toEqual({
      outcome: "friends",
      predictors: ["hours", "age"],
      moderators: ["months"],
      covariates: [],
      products: [
        ["hours", "age"],
        ["hours", "months"],
      ],
    });
    expect(roles.moderators).toEqual(["age", "months"]);
  });

  it("acts on the step that is named, on the one another sentence names, and asks when that is open", () => {
    const path = "H2: age strengthens hours to belonging through confidence";
    expect(compile(`${path} on confidence to belonging`).moderated).toEqual([
      { from: "confidence", to: "belonging", moderators: ["age"] },
    ]);
    expect(compile("H1: age alters hours to confidence", path).moderated).toEqual([
      { from: "hours", to: "confidence", moderators: ["age"] },
    ]);
    expect(() => compile(path)).toThrow(
      /which step does age act on\? Add “on hours to confidence” or “on confidence to belonging”/,
    );
    expect(() => compile(`${path} on age to friends`)).toThrow(
      /no step of hours → confidence → belonging/,
    );
  });

  it("lets the predictor moderate a later step, but no variable its own end", () => {
    const { equations } = compile(
      "hours alters hours to belonging through confidence on confidence to belonging",
    );
    expect(equations.at(-1)).toMatchObject({
      predictors: ["confidence", "hours"],
      moderators: [],
      products: [["confidence", "hours"]],
    });
    expect(() => compile("friends alters hours to friends")).toThrow(/cannot moderate/);
    expect(() =>
      compile("belonging alters hours to confidence", "confidence raises belonging"),
    ).toThrow(/circle/);
  });

  it.each([
    "H1: age strengthens hours to friends",
    "H1: age with months weakens hours to belonging through confidence then friends on hours to confidence and friends to belonging",
    "H1: age alters hours to belonging only through confidence",
    "measure s averages hours, reversed age on -3 to 3 with 60 % answered",
    "measure s reflects hours, age",
    "measure s reflects hours with reliability 0.8",
    "measure s reflects hours, age with variance 1",
    "measure s reflects hours, age scaled by age",
    "model friends as poisson with exposure months",
    "model friends as logistic",
    "compare hours at 6 with -2.5",
    "control hours at 2, 5, 8",
    "measure s combines hours, age",
    "measure s combines hours, age weighted by correlation",
    "measure s combines hours, reversed age on 1 to 7 weighted by regression signed by age",
    "measure s combines hours, age weighted equally",
    "measure s reflects hours, age signed by hours",
    "covary hours with age, friends with months at -0.5",
    "hold hours to friends equal to age to friends equal to months to friends",
    "hold variance of hours, intercept of age at 1.5",
    "hold hours with age at 0",
    "groups by months with loadings and intercepts equal but intercept of age and hours to friends free",
    "groups by months",
  ])("reads back what it writes: %s", (line) => {
    expect(writeStatement(parse(line).statements[0]!)).toBe(line);
  });
});

describe("comparisons of levels", () => {
  const variables = ["group", "hours", "b c", "y", "m"];
  const read = (text: string) => parseTheory(text, variables);

  it("are read with and without brackets, quoted or plain, for predictors and moderators", () => {
    const texts = [
      'H1: group ("weekly cafe" against "waiting list") raises y through m',
      'H1: group "weekly cafe" against "waiting list" raises y through m',
      "H1: group (“weekly cafe” against “waiting list”) raises y through m",
    ];
    for (const text of texts) {
      const { statements, complaints } = read(text);
      expect(complaints).toEqual([]);
      expect(writeStatement(statements[0]!)).toBe(texts[0]);
    }
    const moderated = 'H2: group ("2" against "1") strengthens hours to y';
    for (const text of [moderated, "H2: group 2 against 1 strengthens hours to y"])
      expect(writeStatement(read(text).statements[0]!)).toBe(moderated);
    const focal = 'H3: hours weakens group ("a" against "b") to y through m on m to y';
    expect(writeStatement(read(focal).statements[0]!)).toBe(focal);
    const joint = 'H4: hours with group ("a" against "b") alters m to y';
    expect(writeStatement(read(joint).statements[0]!)).toBe(joint);
  });

  it("complain where something is missing", () => {
    expect(read('group ("a" against "a") raises y').complaints[0]!.message).toContain(
      "cannot be compared with itself",
    );
    expect(read('group ("a" "b") raises y').complaints[0]!.message).toContain("“against”");
    expect(read('group ("a" against "b" raises y').complaints[0]!.message).toContain("bracket");
    expect(read('group ("a" against').complaints[0]!.message).toContain("a level of “group”");
  });

  it("keep their levels when a variable of the same name is called otherwise", () => {
    const text = 'H1: group ("hours" against "y") raises y through hours';
    expect(renameInTheory(text, "hours", "time")).toBe(
      'H1: group ("hours" against "y") raises y through time',
    );
    expect(renameInTheory(text, "y", "z")).toBe(
      'H1: group ("hours" against "y") raises z through hours',
    );
  });

  it("let a variable moderate its own effect, but not act together with itself", () => {
    const { statements } = read("H1: hours strengthens hours to y");
    expect(compileTheory(statements).equations[0]).toMatchObject({
      predictors: ["hours"],
      moderators: [],
      products: [["hours", "hours"]],
    });
    expect(() => compileTheory(read("H1: m with m alters hours to y").statements)).toThrow(
      /cannot act together with itself/,
    );
  });
});

describe("lines of a theory", () => {
  const theory = [
    "measure support averages sup1, sup2",
    "",
    "H1: hours raises belonging through confidence",
    "support weakens hours to belonging",
    "# adjust nothing",
    "also age to friends",
    '"measure of sorts" raises friends',
    "adjust friends for age",
    "H3: hours raises",
  ].join("\n");

  it("are told apart by what they set out to be, right or not", () => {
    expect(theory.split("\n").map(lineKind)).toEqual([
      "measure",
      null,
      "hypothesis",
      "moderation",
      null,
      "also",
      "hypothesis",
      "adjust",
      "hypothesis",
    ]);
    expect(linesOf(theory, "hypothesis", "moderation")).toHaveLength(4);
    expect(linesOf(theory, "contrast")).toEqual([]);
  });

  it("can be left out by kind, and the others keep their numbers", () => {
    const without = theoryWithout(theory, "adjust").split("\n");
    expect(without).toHaveLength(9);
    expect(without[7]).toBe("");
    expect(without.filter((_, i) => i !== 7)).toEqual(theory.split("\n").filter((_, i) => i !== 7));
  });
});
