import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { StudyProblem } from "../../problems";
import { analyseMade, normals } from "../../test-kit";

const N = 140;
const normal = (seed: number): number[] => normals(N, seed);
const toCount = (values: number[], seed: number): number[] =>
  values.map((v, i) => Math.max(0, Math.round(1.5 + 0.6 * v + 0.6 * normal(seed)[i]!)));
const toYes = (values: number[], seed: number): string[] =>
  values.map((v, i) => (0.5 * v + normal(seed)[i]! > 0 ? "yes" : "no"));

const x = normal(1);
const treated = normal(2).map((v) => (v > 0 ? "b" : "a"));
const w = normal(3);
const g = normal(4).map((v) => (v > 0.5 ? "p" : v > -0.4 ? "q" : "r"));
const m1 = x.map((v, i) => 0.4 * v + normal(5)[i]!);
const m2 = m1.map((v, i) => 0.4 * v + normal(6)[i]!);
const y = m2.map((v, i) => 0.4 * v + normal(7)[i]!);
const columns = {
  ...{ x, treated, w, g, m1, m2, y },
  ...{ mYes: toYes(m1, 8), mCount: toCount(m1, 9), yes: toYes(m2, 10), count: toCount(m2, 11) },
};
/** Explained by no straight line. */
const CURVED = new Set(["mYes", "mCount", "yes", "count"]);

const theories = fc
  .record({
    from: fc.constantFrom("x", "treated"),
    to: fc.constantFrom("y", "yes", "count"),
    through: fc.shuffledSubarray(["m1", "m2", "mYes", "mCount"], { minLength: 1, maxLength: 2 }),
    serial: fc.boolean(),
    alone: fc.boolean(),
    moderator: fc.constantFrom("w", "g", null),
    step: fc.nat(),
  })
  .map(({ from, to, through, serial, alone, moderator, step }) => {
    const [first, second] = through;
    const steps = [
      [from, first],
      ...(second ? (serial ? [[first, second]] : [[from, second]]) : []),
      ...(second && serial ? [[second, to]] : through.map((m) => [m, to])),
      [from, to],
    ];
    const [a, b] = steps[step % steps.length]!;
    return [
      `H1: ${from} raises ${to} through ${through.join(serial ? " then " : " and ")}`,
      ...(alone && second ? [`H2: ${from} raises ${to} through ${second}`] : []),
      ...(moderator ? [`H3: ${moderator} alters ${a} to ${b}`] : []),
      ...[...through, to].filter((v) => /count/i.test(v)).map((v) => `model ${v} as poisson`),
    ].join("\n");
  });

describe("numbers on the scale of a model and differences of means", () => {
  it("never stand side by side without a word, nor in SDs, nor in sums and shares", () => {
    let analysed = 0;
    fc.assert(
      fc.property(theories, (theory) => {
        let effects;
        try {
          const settings = { engine: "generalised", interval: "delta" } as const;
          effects = analyseMade({ columns, theory, settings }).effects;
        } catch (error) {
          // Some moderated paths are refused in words.
          expect(error).toBeInstanceOf(StudyProblem);
          return;
        }
        analysed += 1;
        for (const { id, kind, made, scale, linkScale } of effects) {
          const explained = [...made.formula.matchAll(/b\([^)]*→ (\w+)\)/g)].map((m) => m[1]!);
          if (!explained.some((outcome) => CURVED.has(outcome))) continue;
          expect([id, scale !== null || linkScale === true]).toEqual([id, true]);
          expect([id, kind]).not.toEqual([
            id,
            expect.stringMatching(/total|proportion|ratio|standardised|variance/),
          ]);
        }
      }),
      {
        numRuns: 40,
        examples: [
          ["H1: x raises yes through m1 and m2"],
          ["H1: x raises yes through m1 and m2\nH3: w alters x to yes"],
          [
            "H1: x raises yes through m1 then m2\nH2: x raises yes through m2\nH3: w alters m1 to m2",
          ],
          [
            "H1: x raises yes through m1 then m2\nH2: x raises yes through m1\nH3: g alters x to yes",
          ],
          ["H1: x raises yes through m2\nH3: g alters m2 to yes"],
          [
            "H1: treated raises count through mYes\nH3: w alters treated to mYes\nmodel count as poisson",
          ],
        ],
      },
    );
    expect(analysed).toBeGreaterThan(10);
  });
});
