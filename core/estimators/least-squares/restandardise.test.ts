import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { guessVariable, TableBuilder } from "../../data";
import { compileExpression, parameterAt } from "../../model";
import { prepare, type Prepared } from "../../preparation";
import { RandomStream } from "../../numerics/random";
import { DEFAULT_SETTINGS, newDefinition, type Settings } from "../../study";
import { refitUnder } from "../../test-kit";
import { LeastSquaresKernel } from "./refit";
import type { RefitProblem } from "./refit-problem";

const N = 60;

/** Rows with moderators and a grouping, far from zero and with unlike scales. */
const ROWS = Array.from({ length: N }, (_, i) => {
  const r = new RandomStream(31, i);
  const [x, w, v] = [100 + 5 * r.normal(), 3 + r.normal(), 40 + 10 * r.normal()];
  const g = i % 3;
  const m = 0.1 * x + w + 0.05 * x * w + 0.02 * w * v + g + 4 * r.normal();
  return [x, w, v, "abc"[g]!, m, 0.4 * m + 0.2 * w * m - 0.1 * x + 6 * r.normal()];
});

function prepared(
  theory: string,
  rows: (string | number)[][],
  centring: Settings["centring"],
): Prepared {
  const builder = new TableBuilder(["x", "w", "v", "g", "m", "y"]);
  for (const row of rows) builder.add(row.map(String));
  const table = builder.build();
  const variables = table.columns.map((c) => ({
    ...guessVariable(c),
    level: c.name === "g" ? ("categorical" as const) : ("continuous" as const),
  }));
  return prepare(
    { ...newDefinition("", variables), theory, settings: { ...DEFAULT_SETTINGS, centring } },
    table,
  );
}

const THEORIES = [
  "H1: w strengthens x to y through m on x to m and m to y",
  "H1: w with v alters x to m\nH2: m raises y",
  "H1: g alters x to m\nadjust m for v",
  "H1: x raises y through m",
  "H1: x strengthens x to m\nH2: m raises y",
  "H1: w with v alters x to y through m on x to m\nH2: x raises y through m",
];

describe("z-scores of a resample's own", () => {
  it.each(THEORIES)("equal a full analysis of the repeated rows: %s", (theory) => {
    const whole = prepared(theory, ROWS, "standardised");
    const kernel = new LeastSquaresKernel(whole.fit.kernelData() as RefitProblem);
    fc.assert(
      fc.property(fc.nat(10_000), (seed) => {
        const counts = new Float64Array(N);
        new RandomStream(seed, 5).countDraws(counts, N, N);
        const out = refitUnder(kernel, counts)!;
        fc.pre(out !== null);
        const own = prepared(
          theory,
          ROWS.flatMap((row, i) => new Array<(string | number)[]>(counts[i]!).fill(row)),
          "standardised",
        );
        own.theta.forEach((value, i) => {
          const label = own.fit.parameters.labels[i]!;
          // The SD of a product is no part of any effect and is left in the scores of the whole
          // sample.
          if (label.startsWith("SD(") && label.includes(":")) return;
          expect(Math.abs(out[i]! - value), label).toBeLessThanOrEqual(
            1e-7 * Math.max(1, Math.abs(value)),
          );
        });
      }),
      { numRuns: 12 },
    );
  });

  it.each(THEORIES)(
    "and in raw units every effect, averages of the resample's own cases among them: %s",
    (theory) => {
      const whole = prepared(theory, ROWS, "none");
      const kernel = new LeastSquaresKernel(whole.fit.kernelData() as RefitProblem);
      const counts = new Float64Array(N);
      new RandomStream(3, 5).countDraws(counts, N, N);
      const out = refitUnder(kernel, counts)!;
      const own = prepared(
        theory,
        ROWS.flatMap((row, i) => new Array<(string | number)[]>(counts[i]!).fill(row)),
        "none",
      );
      // Probe values stay those of the whole sample; everything else is found anew.
      const compared = whole.quantities.filter(
        (q) =>
          !/ at [wv] | minus |derivative|quadratic|at x|conditional/.test(q.id) &&
          !/^(partially|completely).*:/.test(q.id),
      );
      expect(compared.some((q) => q.kind.startsWith("average"))).toBe(
        /through m|strengthens|alters/.test(theory) && theory !== "H1: x raises y through m",
      );
      for (const { id, expression } of compared) {
        const other = own.quantities.findIndex((q) => q.id === id);
        const value = compileExpression(expression)(out, 0);
        // The coefficient of a lower-order product is a slope at the centre of the whole sample.
        if (
          id.startsWith("interaction") &&
          whole.theory.moderated.some((s) => s.moderators.length > 1)
        )
          continue;
        expect(
          Math.abs(value - own.estimates[other]!) / Math.max(1e-3, Math.abs(value)),
          id,
        ).toBeLessThan(1e-7);
      }
    },
  );

  it("scale an index by the SDs of its variables, and leave tests of the product alone", () => {
    const theory = "H1: w strengthens x to y through m on x to m";
    const [raw, scores] = (["none", "standardised"] as const).map((c) =>
      prepared(theory, ROWS, c),
    ) as [Prepared, Prepared];
    const index = (p: Prepared): number =>
      p.estimates[p.quantities.findIndex((q) => q.kind === "index")]!;
    const sd = (p: Prepared, name: string): number =>
      p.theta[parameterAt(p.fit.parameters, `SD(${name})`)]!;
    expect(index(scores)).toBeCloseTo(
      (index(raw) * sd(raw, "x") * sd(raw, "w")) / sd(raw, "y"),
      10,
    );
    expect(sd(scores, "x")).toBeCloseTo(1, 12);
    const t = (p: Prepared): number => {
      const at = parameterAt(p.fit.parameters, "m ~ x:w");
      const v = p.fit.covariances.HC3;
      return p.theta[at]! / Math.sqrt(v.values[at * v.size + at]!);
    };
    expect(t(scores)).toBeCloseTo(t(raw), 8);
  });
});
