import { expect, it } from "vitest";
import { amount } from "../../core/test-kit";
import { tryTheories } from "./theories";

const MANY = amount(500, 10_000);

it("theories, whole and damaged, are estimated or refused in words, never anything else", () => {
  const { counts, faults } = tryTheories(MANY, 20261125);
  expect(faults).toEqual([]);
  expect(counts.get("estimated")).toBeGreaterThan(0.12 * MANY);
  expect(counts.get("refused")).toBeGreaterThan(0.12 * MANY);
});
