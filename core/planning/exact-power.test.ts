import { describe, expect, it } from "vitest";
import { gaussLegendre } from "../numerics/gauss-legendre";
import { jointPower, pathPower } from "./exact-power";

describe("exact power", () => {
  const first = { size: 0.3, predictorSd: 1, residualSd: Math.sqrt(0.91), predictors: 1 };
  const second = {
    size: 0.35,
    predictorSd: Math.sqrt(0.91),
    residualSd: Math.sqrt(0.8465),
    predictors: 2,
  };

  // Adaptive quadrature over noncentral t and chi-squared distributions of another library.
  it.each([
    [10, 0.014875769314987505],
    [40, 0.2679356082687273],
    [90, 0.7532558059894063],
  ])("of joint significance with %i people", (people, expected) => {
    expect(jointPower(first, second, people, 0.05)).toBeCloseTo(expected, 11);
  });

  it.each([
    [10, 0.14498337509821413],
    [40, 0.5785589576211285],
  ])("of one path with %i people", (people, expected) => {
    expect(pathPower(second, people, 0.05)).toBeCloseTo(expected, 11);
  });

  it("is the level without an effect, grows with people, and does not exist without degrees of freedom", () => {
    expect(pathPower({ ...second, size: 0 }, 50, 0.05)).toBeCloseTo(0.05, 10);
    expect(jointPower(first, second, 200, 0.05)!).toBeGreaterThan(
      jointPower(first, second, 100, 0.05)!,
    );
    expect(pathPower(second, 3, 0.05)).toBeNull();
    expect(jointPower(first, second, 3, 0.05)).toBeNull();
  });

  it("integrates polynomials exactly", () => {
    const { nodes, weights } = gaussLegendre(31);
    for (const degree of [0, 2, 10, 60]) {
      const sum = nodes.reduce((s, x, i) => s + weights[i]! * x ** degree, 0);
      expect(sum).toBeCloseTo(2 / (degree + 1), 13);
    }
  });
});
