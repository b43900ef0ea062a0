import { expect, it } from "vitest";
import { tryTheories } from "./theories";

it("500 theories, whole and damaged, are estimated or refused in words, never anything else", () => {
  const { counts, faults } = tryTheories(500, 20261125);
  expect(faults).toEqual([]);
  expect(counts.get("estimated")).toBeGreaterThan(60);
  expect(counts.get("refused")).toBeGreaterThan(60);
});
