import { describe, expect, it } from "vitest";
import { parseTheory } from ".";

const complaintOf = (formula: string) => {
  const { complaints, statements } = parseTheory(`define q as ${formula}`, ["a", "b"]);
  return { complaint: complaints[0], read: statements.length };
};

describe("a quantity beyond all measure", () => {
  it.each([
    ["signs", `${"-".repeat(20_000)}1`],
    ["brackets", `${"(".repeat(20_000)}1`],
    ["functions", `${"abs(".repeat(20_000)}1`],
    ["terms", Array(10_000).fill("1").join("+")],
    ["factors", Array(10_000).fill("1").join("*")],
  ])("is refused with what to do: %s", (_, formula) => {
    const { complaint, read } = complaintOf(formula);
    expect(complaint?.message).toMatch(/at most 500 parts .* Define some of them/);
    expect(read).toBe(0);
  });

  it("begins beyond 500 parts", () => {
    expect(complaintOf(Array(500).fill("direct a to b").join(" + "))).toEqual({ read: 1 });
    expect(complaintOf(Array(501).fill("direct a to b").join(" + ")).read).toBe(0);
  });
});
