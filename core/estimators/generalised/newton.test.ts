import { describe, expect, it } from "vitest";
import { RandomStream } from "../../numerics/random";
import { GeneralisedFit, type Equation } from "./generalised-fit";

const N = 80;

/** A model of a yes/no or counted response, with a column that hardly varies, from a seed. */
function modelOf(family: "logistic" | "poisson", seed: number, offset: boolean): Equation {
  const design = new Float64Array(N * 4);
  const y = new Float64Array(N);
  const random = new RandomStream(seed, 1);
  for (let i = 0; i < N; i++) {
    const [a, b] = [random.normal(), 1950 + 3 * random.normal()];
    design.set([1, a, b, i % 20 === 0 ? 1 : 0], 4 * i);
    const eta = 0.3 + 0.5 * a + 0.1 * (b - 1950);
    y[i] =
      family === "logistic"
        ? Number(random.uniform() < 1 / (1 + Math.exp(-eta)))
        : Math.floor(Math.exp(eta) * 2 * random.uniform());
  }
  const shift = offset ? Float64Array.from({ length: N }, (_, i) => (i % 5) / 10) : null;
  return { family, design, columns: 4, y, offset: shift };
}

const drawn = (seed: number, replicate: number): Float64Array => {
  const weights = new Float64Array(N);
  const random = new RandomStream(seed, replicate);
  for (let i = 0; i < N; i++) weights[Math.floor(random.uniform() * N)]! += 1;
  return weights;
};

describe("fits of resamples", () => {
  for (const family of ["logistic", "poisson"] as const)
    it(`of a ${family} model are those of iterations from nothing`, () => {
      let fitted = 0;
      for (let seed = 1; seed <= 4; seed++) {
        const equation = modelOf(family, seed, seed % 2 === 0);
        const quick = new GeneralisedFit(equation);
        quick.startFrom(new Float64Array(N).fill(1));
        for (let replicate = 0; replicate < 40; replicate++) {
          const weights = drawn(seed, replicate);
          const careful = new GeneralisedFit(equation);
          const ending = careful.fit(weights);
          expect(quick.fit(weights) === "converged").toBe(ending === "converged");
          if (ending !== "converged") continue;
          fitted += 1;
          careful.beta.forEach((b, k) => {
            const far = Math.abs(quick.beta[k]! - b);
            expect(far).toBeLessThan(1e-8 * (1 + Math.abs(b)));
          });
        }
      }
      expect(fitted).toBeGreaterThan(60);
    });

  it("end as slower ones where a column tells yes and no apart in those drawn", () => {
    // One row says no where the first column is high: the resamples without it are separated.
    const equation = modelOf("logistic", 3, false);
    for (let i = 0; i < N; i++) equation.y[i] = Number(equation.design[4 * i + 1]! > 0);
    const high = Array.from({ length: N }, (_, i) => i).filter((i) => equation.y[i] === 1);
    equation.y[high[0]!] = 0;
    const quick = new GeneralisedFit(equation);
    quick.startFrom(new Float64Array(N).fill(1));
    const careful = new GeneralisedFit(equation);
    const endings = Array.from({ length: 20 }, (_, replicate) => {
      const weights = drawn(9, replicate);
      const ending = careful.fit(weights);
      expect(quick.fit(weights) === "converged").toBe(ending === "converged");
      return ending;
    });
    expect(new Set(endings).size).toBeGreaterThan(1);
  });
});
