import { expect, it } from "vitest";
import { planned, tryCrossings } from "./crossings";

it("ways of measuring, shapes of theories and settings of every engine, crossed, are estimated and reported or refused in words", () => {
  const { counts, faults } = tryCrossings(100, 20261126);
  expect(faults).toEqual([]);
  expect(counts.get("estimated")).toBeGreaterThan(30);
  expect(counts.get("refused")).toBeGreaterThan(20);
}, 120_000);

it("what these data say can be expected, and simulated, or is refused in words", () => {
  const { counts, faults } = tryCrossings(60, 8, planned);
  expect(faults).toEqual([]);
  expect(counts.get("estimated")).toBeGreaterThan(15);
}, 120_000);
