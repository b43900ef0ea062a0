import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { RandomStream } from "../../numerics/random";
import { analyseMade, normals, problemOf } from "../../test-kit";
import { countLogLikelihood, MOST_SIZE, sizeOf } from "./dispersion";

/** Poisson counts, or counts whose rates vary from row to row. */
function counts(seed: number, n: number, mean: number, scatter: boolean): number[] {
  const stream = new RandomStream(seed, 0);
  return normals(n, seed + 1000).map((z) => {
    const rate = scatter ? mean * Math.exp(0.7 * z - 0.245) : mean;
    let [k, product] = [0, stream.uniform()];
    while (product > Math.exp(-rate)) {
      k += 1;
      product *= stream.uniform();
    }
    return k;
  });
}

const seeds = fc.integer({ min: 1, max: 300 });

describe("the size of a negative binomial response", () => {
  it("is where the log-likelihood is highest", () =>
    fc.assert(
      fc.property(seeds, fc.constantFrom(0.5, 1, 8), (seed, start) => {
        const y = Float64Array.from(counts(seed, 200, 3, true));
        const centre = y.reduce((a, v) => a + v, 0) / y.length;
        const mu = y.map(() => centre);
        const theta = sizeOf(
          y,
          mu,
          y.map(() => 1),
          start,
        );
        const at = (t: number): number => countLogLikelihood(y, mu, t);
        if (theta === MOST_SIZE) return;
        expect(at(theta)).toBeGreaterThanOrEqual(at(theta * 1.001) - 1e-9);
        expect(at(theta)).toBeGreaterThanOrEqual(at(theta / 1.001) - 1e-9);
      }),
      { numRuns: 20 },
    ));

  it("counts a row drawn twice as two rows", () => {
    const y = Float64Array.from(counts(4, 60, 3, true));
    const mu = y.map(() => 3);
    const weights = y.map((_, i) => (i % 3 === 0 ? 2 : i % 3 === 1 ? 1 : 0));
    const rows = [...y].flatMap((v, i) => Array.from({ length: weights[i]! }, () => v));
    const repeated = Float64Array.from(rows);
    expect(sizeOf(y, mu, weights, 1)).toBeCloseTo(
      sizeOf(
        repeated,
        repeated.map(() => 3),
        repeated.map(() => 1),
        1,
      ),
      8,
    );
  });

  it("is as good as without bound where counts scatter less than a Poisson model has them", () => {
    const y = Float64Array.from({ length: 80 }, (_, i) => 3 + (i % 2));
    expect(
      sizeOf(
        y,
        y.map(() => 3.5),
        y.map(() => 1),
        1,
      ),
    ).toBe(MOST_SIZE);
  });
});

describe("a count that scatters more", () => {
  const N = 160;
  const x = normals(N, 5).map((v) => (v > 0 ? 1 : 0));
  const m = normals(N, 6).map((v, i) => v + 0.5 * x[i]!);
  const visits = counts(9, N, 3, true).map((v, i) => v + x[i]!);
  const columns = { x, m, visits, yes: visits.map((v) => (v > 3 ? 1 : 0)) };
  const run = (family: string) =>
    analyseMade({
      columns,
      theory: `H1: x raises visits through m\nmodel visits as ${family}`,
      settings: { interval: "delta" },
    });

  it("has wider errors, no warning of scatter, and effects on the same scales", () => {
    const [plain, wide] = [run("poisson"), run("negative binomial")].map((e) => {
      const section = e.sections.find((s) => s.kind === "responses")!;
      return { e, model: section.models.find((k) => k.outcome === "visits")!, section };
    });
    expect(plain!.e.warnings.map((w) => w.code)).toContain("overdispersion");
    expect(wide!.e.warnings.map((w) => w.code)).not.toContain("overdispersion");
    expect(wide!.model.size!).toBeGreaterThan(0);
    expect(wide!.model.fit.aic).toBeLessThan(plain!.model.fit.aic);
    plain!.model.coefficients.forEach((c, i) =>
      expect(wide!.model.coefficients[i]!.se.classical).toBeGreaterThan(c.se.classical),
    );
    expect(Object.keys(wide!.section.natural[0]!.effects)).toEqual(
      Object.keys(plain!.section.natural[0]!.effects),
    );
  });

  it("is refused as a mediator on the way to a curve, in words", () => {
    const { message } = problemOf({
      columns,
      theory: "H1: x raises yes through visits\nmodel visits as negative binomial",
    });
    expect(message).toContain("negative binomial");
    expect(message).toContain("poisson");
  });
});
