import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  add,
  compileExpression,
  compileGradient,
  divide,
  isLinear,
  multiply,
  number,
  parameter,
  parametersOf,
  subtract,
  type Expression,
} from "./expression";
import {
  at,
  combined,
  derivative,
  moderatorsOf,
  powerOf,
  substitute,
  times,
  type Polynomial,
} from "./polynomial";

/** Effects as polynomials of their moderators, checked by their values at numbers. */
const THETA = Float64Array.of(0.7, -1.3, 2.1, 0.4, -0.6);
const KEYS = ["w", "z", "g.1"];
const value = (p: Polynomial, here: Record<string, number>): number => {
  let sum = 0;
  for (const { moderators, expression } of p)
    sum +=
      compileExpression(expression)(THETA, 0) *
      moderators.reduce((all, key) => all * here[key]!, 1);
  return sum;
};
const terms: fc.Arbitrary<Polynomial> = fc
  .uniqueArray(
    fc.record({
      moderators: fc.array(fc.constantFrom(...KEYS), { maxLength: 2 }).map((m) => [...m].sort()),
      index: fc.nat(4),
    }),
    {
      minLength: 1,
      maxLength: 4,
      selector: (t) => t.moderators.join(),
    },
  )
  .map((list) =>
    list.map(({ moderators, index }) => ({ moderators, expression: parameter(index) })),
  );
const places = fc.record({
  w: fc.double({ min: -3, max: 3, noNaN: true }),
  z: fc.double({ min: -3, max: 3, noNaN: true }),
  "g.1": fc.constantFrom(0, 1),
});
const near = (a: number, b: number): void => expect(a).toBeCloseTo(b, 8);

describe("polynomials in moderators", () => {
  it("multiply as their values do, terms alike joined", () =>
    fc.assert(
      fc.property(terms, terms, places, (p, q, here) => {
        const product = times(p, q);
        near(value(product, here), value(p, here) * value(q, here));
        expect(new Set(product.map((t) => t.moderators.join())).size).toBe(product.length);
      }),
    ));

  it("add with weights as their values do; weight zero leaves nothing", () =>
    fc.assert(
      fc.property(
        terms,
        terms,
        places,
        fc.double({ min: -2, max: 2, noNaN: true }),
        (p, q, here, weight) => {
          near(
            value(
              combined([
                { weight: 1, polynomial: p },
                { weight, polynomial: q },
              ]),
              here,
            ),
            value(p, here) + weight * value(q, here),
          );
          expect(combined([{ weight: 0, polynomial: p }])).toEqual([]);
        },
      ),
    ));

  it("have the derivative that differences approach", () =>
    fc.assert(
      fc.property(terms, places, fc.constantFrom("w", "z"), (p, here, key) => {
        const step = 1e-5;
        const up = { ...here, [key]: here[key] + step };
        const down = { ...here, [key]: here[key] - step };
        expect(value(derivative(p, key), here)).toBeCloseTo(
          (value(p, up) - value(p, down)) / (2 * step),
          5,
        );
        expect(powerOf(derivative(p, key), key)).toBe(Math.max(0, powerOf(p, key) - 1));
      }),
    ));

  it("keep their value when some moderators are put in as numbers first", () =>
    fc.assert(
      fc.property(terms, places, (p, here) => {
        const partly = substitute(p, new Map([["w", here.w]]));
        near(value(partly, here), value(p, here));
        expect(moderatorsOf(partly)).not.toContain("w");
        near(compileExpression(at(p, new Map(Object.entries(here))))(THETA, 0), value(p, here));
      }),
    ));

  it("name their moderators once, in order", () => {
    const p: Polynomial = [
      { moderators: ["z"], expression: parameter(0) },
      { moderators: ["w", "w"], expression: parameter(1) },
    ];
    expect([moderatorsOf(p), powerOf(p, "w"), powerOf(p, "z"), powerOf(p, "v")]).toEqual([
      ["w", "z"],
      2,
      1,
      0,
    ]);
  });
});

describe("expressions", () => {
  const leaf: fc.Arbitrary<Expression> = fc.oneof(
    fc.nat(4).map(parameter),
    fc.double({ min: -2, max: 2, noNaN: true }).map(number),
  );
  const { tree } = fc.letrec<{ tree: Expression }>((tie) => ({
    tree: fc.oneof(
      { maxDepth: 3 },
      leaf,
      fc.tuple(tie("tree"), tie("tree")).map(([a, b]) => add(a, b)),
      fc.tuple(tie("tree"), tie("tree")).map(([a, b]) => subtract(a, b)),
      fc.tuple(tie("tree"), tie("tree")).map(([a, b]) => multiply(a, b)),
      tie("tree").map((a): Expression => ({ op: "exp", a: multiply(number(0.1), a) })),
    ),
  }));

  it("have the gradient that differences approach, in the parameters they name", () =>
    fc.assert(
      fc.property(tree, (e) => {
        const f = compileExpression(e);
        fc.pre(Math.abs(f(THETA, 0)) < 1e3);
        const out = new Float64Array(5);
        compileGradient(e)(THETA, 0, 1, out);
        for (let i = 0; i < 5; i++) {
          const [up, down] = [THETA.slice(), THETA.slice()];
          up[i] = up[i]! + 1e-5;
          down[i] = down[i]! - 1e-5;
          const slope = (f(up, 0) - f(down, 0)) / 2e-5;
          expect(Math.abs(out[i]! - slope)).toBeLessThan(1e-4 * Math.max(1, Math.abs(slope)));
          if (!parametersOf(e).has(i)) expect(out[i]).toBe(0);
        }
      }),
    ));

  it("are linear where their gradient does not change with the parameters", () =>
    fc.assert(
      fc.property(tree, (e) => {
        fc.pre(isLinear(e, () => true));
        const [here, there] = [new Float64Array(5), new Float64Array(5)];
        compileGradient(e)(THETA, 0, 1, here);
        compileGradient(e)(Float64Array.of(3, 1, -2, 5, 0.3), 0, 1, there);
        here.forEach((g, i) => expect(g).toBeCloseTo(there[i]!, 9));
      }),
    ));

  it("are not linear as products, ratios by parameters or functions of them; numbers and fixed parameters do not count", () => {
    const [a, b] = [parameter(0), parameter(1)];
    expect(isLinear(multiply(a, b), () => true)).toBe(false);
    expect(isLinear(multiply(a, b), (i) => i === 0)).toBe(true);
    expect(isLinear(divide(a, number(2)), () => true)).toBe(true);
    expect(isLinear(divide(number(2), a), () => true)).toBe(false);
    expect(isLinear({ op: "abs", a }, () => true)).toBe(false);
    expect(isLinear({ op: "abs", a: number(-1) }, () => true)).toBe(true);
    expect(isLinear(subtract(add(a, b), multiply(number(3), a)), () => true)).toBe(true);
  });
});
