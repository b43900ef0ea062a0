import { expect, it } from "vitest";
import { tryCrossings } from "./crossings";

it("ways of measuring, shapes of theories and settings of every engine, crossed, are estimated and reported or refused in words", () => {
  const { counts, faults } = tryCrossings(100, 20261126);
  expect(faults).toEqual([]);
  expect(counts.get("estimated")).toBeGreaterThan(30);
  expect(counts.get("refused")).toBeGreaterThan(20);
}, 120_000);
