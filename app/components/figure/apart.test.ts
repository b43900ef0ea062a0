import { expect, it } from "vitest";
import { apart } from "./apart";

it("names at the end of curves stand apart, in the order of the curves", () => {
  expect(apart([0.2, 0.9], 0.065)).toEqual([0.2, 0.9]);
  const moved = apart([0.99, 1, 0.5, 0.51], 0.065);
  expect(moved[1]).toBe(1);
  const sorted = [...moved].sort((a, b) => b - a);
  for (let i = 1; i < sorted.length; i++)
    expect(sorted[i - 1]! - sorted[i]!).toBeGreaterThanOrEqual(0.065 - 1e-12);
});
