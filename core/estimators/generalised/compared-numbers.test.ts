import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../../test-kit";

const n = 260;
const [a, b, c] = [31, 32, 33].map((seed) => normals(n, seed)) as [number[], number[], number[]];
const x = a.map((v) => Math.round(10 * (5 + v)) / 10);
const half = a.map((v) => (v > 0 ? 1 : 0));
const club = half.map((v) => (v === 1 ? "with" : "without"));
const m = x.map((v, i) => 0.6 * v + b[i]!);
const yes = m.map((v, i) => (v - 3 + 0.3 * x[i]! - 1.5 + 1.4 * c[i]! > 0 ? 1 : 0));

const verdictOf = (from: string, compare: string) => {
  const { hypotheses } = analyseMade({
    columns: { x, half, club, m, yes },
    theory: `H1: ${from} raises yes through m\n${compare}`,
    settings: { engine: "generalised", interval: "delta" },
  });
  return hypotheses[0]!;
};

describe("values that are compared", () => {
  it("are compared from the lower to the higher, whichever number was typed first", () => {
    const [up, down] = ["compare x at 6 with 4", "compare x at 4 with 6"].map((line) =>
      verdictOf("x", line),
    );
    expect(up!.verdict).toBe("supported");
    expect(down!.verdict).toBe("supported");
    expect(down!.claim!.estimate).toBe(up!.claim!.estimate);
    expect(down!.claim!.p).toBe(up!.claim!.p);
    const [one, other] = ["compare half at 1 with 0", "compare half at 0 with 1"].map((line) =>
      verdictOf("half", line),
    );
    expect(one!.verdict).toBe("supported");
    expect(other!.verdict).toBe(one!.verdict);
    expect(other!.claim!.estimate).toBe(one!.claim!.estimate);
  });
});
