import { expect } from "vitest";
import type { Estimation } from "./estimation";

/** The parameters of a plan on the sample; tests only. */
export function estimatedOn(estimation: Estimation, n: number): Float64Array {
  const theta = new Float64Array(estimation.size);
  expect(estimation.estimate(new Float64Array(n).fill(1), n, theta, 0)).toBeNull();
  return theta;
}

/** The gradient of the first mean in what is estimated, from central differences; tests only. */
export function gradientByDifferences(estimation: Estimation, theta: Float64Array): Float64Array {
  const { estimated } = estimation;
  return Float64Array.from({ length: estimated }, (_, k) => {
    const step = 1e-5 * Math.max(1, Math.abs(theta[k]!));
    const value = (sign: number): number => {
      const moved = theta.slice();
      moved[k] = moved[k]! + sign * step;
      estimation.follow(moved);
      return moved[estimated]!;
    };
    return (value(1) - value(-1)) / (2 * step);
  });
}
