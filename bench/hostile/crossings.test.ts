import { expect, it } from "vitest";
import { amount } from "../../core/test-kit";
import { planned, tryCrossings } from "./crossings";

const MANY = amount(45, 3000);
const FEW = amount(30, 1000);

it("ways of measuring, shapes of theories and settings of every engine, crossed, are estimated and reported or refused in words", () => {
  const { counts, faults } = tryCrossings(MANY, 20261126);
  expect(faults).toEqual([]);
  expect(counts.get("estimated")).toBeGreaterThan(0.3 * MANY);
  expect(counts.get("refused")).toBeGreaterThan(0.2 * MANY);
});

it("what these data say can be expected, and simulated, or is refused in words", () => {
  const { counts, faults } = tryCrossings(FEW, 8, planned);
  expect(faults).toEqual([]);
  expect(counts.get("estimated")).toBeGreaterThan(0.25 * FEW);
});
