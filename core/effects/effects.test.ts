import { equationsOf } from "../evidence";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DEFAULT_SETTINGS, newDefinition } from "../study";
import { analyse } from "../analysis";
import { guessVariable, TableBuilder } from "../data";
import { RandomStream } from "../numerics/random";
import { compileExpression, gradient, parametersOf, type Expression } from "../model";

const leaf: fc.Arbitrary<Expression> = fc.oneof(
  fc.record({ op: fc.constant("parameter" as const), index: fc.nat(2) }),
  fc.record({
    op: fc.constant("number" as const),
    value: fc.double({ min: 0.5, max: 2, noNaN: true }),
  }),
);
const tree: fc.Arbitrary<Expression> = fc.letrec<{ e: Expression }>((tie) => ({
  e: fc.oneof(
    { maxDepth: 3 },
    leaf,
    fc.record({
      op: fc.constantFrom("add" as const, "multiply" as const, "divide" as const),
      a: tie("e"),
      b: tie("e"),
    }),
    fc.record({ op: fc.constantFrom("sqrt" as const, "exp" as const, "ln" as const), a: leaf }),
  ),
})).e;

it("gradients agree with central differences, and vanish for parameters that are not used", () => {
  const theta = Float64Array.from([1.3, 0.8, 1.7]);
  fc.assert(
    fc.property(tree, (e) => {
      const f = compileExpression(e);
      const value = f(theta, 0);
      fc.pre(Number.isFinite(value) && Math.abs(value) < 1e4 && Math.abs(value) > 1e-4);
      const g = gradient(e, theta);
      fc.pre(g.every((d) => Math.abs(d) < 1e5));
      for (let i = 0; i < 3; i++) {
        const h = 1e-5;
        const [up, down] = [theta.slice(), theta.slice()];
        up[i]! += h;
        down[i]! -= h;
        const numeric = (f(up, 0) - f(down, 0)) / (2 * h);
        expect(Math.abs(g[i]! - numeric)).toBeLessThan(
          1e-4 * Math.max(1, Math.abs(numeric), Math.abs(value)),
        );
        if (!parametersOf(e).has(i)) expect(g[i]).toBe(0);
      }
    }),
  );
});

function study(theory: string, change: Partial<typeof DEFAULT_SETTINGS> = {}) {
  const builder = new TableBuilder(["x", "m", "k", "y", "z", "g"]);
  for (let i = 0; i < 120; i++) {
    const r = new RandomStream(2, i);
    const x = r.normal();
    const m = 0.5 * x + r.normal();
    const k = 0.4 * m + 0.2 * x + r.normal();
    builder.add(
      [x, m, k, 0.3 * m + 0.3 * k + 0.1 * x + r.normal(), r.normal(), "abc"[i % 3]!].map(String),
    );
  }
  const table = builder.build();
  const settings = { ...DEFAULT_SETTINGS, replications: 0, ...change };
  return analyse(
    { ...newDefinition("", table.columns.map(guessVariable)), theory, settings },
    table,
  );
}

describe("effects that exist", () => {
  const serial = study("H1: x raises y through m then k\nH2: x raises y through m and k");
  const value = (evidence: typeof serial, id: string): number =>
    evidence.effects.find((e) => e.id === id)!.estimate!;

  it("add up: total = direct + every specific indirect effect", () => {
    const specific = serial.effects.filter(
      (e) => e.kind === "specific_indirect" && e.from === "x" && e.to === "y",
    );
    expect(specific.map((e) => e.via.join(">"))).toEqual(["m", "k", "m>k"]);
    const sum = specific.reduce((s, e) => s + e.estimate!, 0);
    expect(value(serial, "total indirect x > y")).toBeCloseTo(sum, 12);
    expect(value(serial, "total x > y")).toBeCloseTo(sum + value(serial, "direct x > y"), 12);
  });

  it("the total of a saturated model is the slope of the reduced regression", () => {
    const total = serial.effects.find((e) => e.id === "total x > y")!;
    const alone = study("x raises y");
    const reduced = alone.effects.find((e) => e.id === "direct x > y")!;
    expect(total.reduced!.tests.classical!.se).toBeCloseTo(
      equationsOf(alone)[0]!.coefficients[1]!.errors.classical!.se,
      10,
    );
    expect(total.reduced!.tests.HC3!.se).toBeCloseTo(
      equationsOf(alone)[0]!.coefficients[1]!.errors.HC3!.se,
      10,
    );
    expect(total.estimate).toBeCloseTo(reduced.estimate!, 10);
  });

  it("own quantities calculate with named effects", () => {
    const evidence = study(
      "H1: x raises y through m\ndefine share as H1 / total x to y\ndefine twice as 2 * share - abs(-H1) + indirect x to y through m\ndefine gap as direct x to y - H1",
    );
    const [h1, total] = [value(evidence, "indirect x > m > y"), value(evidence, "total x > y")];
    expect(value(evidence, "define share")).toBeCloseTo(h1 / total, 12);
    expect(value(evidence, "define twice")).toBeCloseTo((2 * h1) / total, 12);
    expect(
      evidence.effects.find((e) => e.id === "define share")!.delta.joint.classical!.se,
    ).toBeCloseTo(
      evidence.effects.find((e) => e.id === "proportion mediated x > y")!.delta.joint.classical!.se,
      12,
    );
  });

  it("lists no effect without a path, and no total without a direct one", () => {
    const evidence = study("x raises y only through m\nz raises k");
    expect(evidence.effects.some((e) => e.from === "z" && e.to === "y")).toBe(false);
    expect(evidence.effects.some((e) => e.kind === "total" && e.from === "x")).toBe(false);
  });

  it.each([
    ["define q as H9", /“H9”/],
    ["define q as direct z to y", /“z” has no effect/],
    ["define q as indirect x to m", /no indirect effect/],
    ["contrast H1 with H3", /“H3”/],
  ])("refuses %s", (line, message) =>
    expect(() => study(`H1: x raises y through m\n${line}`)).toThrow(message),
  );

  it("a categorical predictor has relative effects, one for each code column", () => {
    const evidence = study("H1: g affects y through m");
    expect(evidence.hypotheses[0]!.effects).toEqual([
      "indirect g.1 > m > y",
      "indirect g.2 > m > y",
    ]);
    expect(evidence.hypotheses[0]!.report).toMatch(
      /^The 2 effects \(g \(b against a\) on y through m; g \(c against a\) on y through m\), tested together, (differed from zero|were not distinguishable from zero) \(joint test/,
    );
    expect(
      evidence.effects.some((e) => e.kind === "completely_standardised" && e.from === "g.1"),
    ).toBe(false);
  });
});

describe("refusals name what is concerned", () => {
  const cells = (make: (i: number) => string[]) => {
    const builder = new TableBuilder(["a", "b", "c"]);
    for (let i = 0; i < 12; i++) builder.add(make(i));
    const table = builder.build();
    return (theory: string) =>
      analyse(
        {
          ...newDefinition(
            "",
            table.columns.map((c) => ({ ...guessVariable(c), level: "continuous" as const })),
          ),
          theory,
          settings: { ...DEFAULT_SETTINGS, replications: 0 },
        },
        table,
      );
  };
  it("a constant column", () =>
    expect(() =>
      cells((i) => [String(i), "4", String(i * i)])("a raises c\nadjust c for b"),
    ).toThrow(/“b” has the same value \(4\)/));
  it("too few rows", () =>
    expect(() =>
      cells((i) => (i < 3 ? [`${i}`, `${i * i}`, `${i % 2}`] : ["", "", ""]))(
        "a raises c\nadjust c for b",
      ),
    ).toThrow(/only 3 complete rows/));
  it("a word among numbers", () =>
    expect(() =>
      cells((i) => [i === 6 ? "six" : String(i), "1", String(i * i)])("a raises c"),
    ).toThrow(/“six” in column “a”, row 7/));
  it("a bad setting", () =>
    expect(() => study("x raises y", { level: 1.2 })).toThrow(/confidence level is 1.2/));
});
