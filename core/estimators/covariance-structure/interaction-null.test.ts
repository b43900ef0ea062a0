import { expect, it } from "vitest";
import { amount, analyseMade, normals } from "../../test-kit";

/** Two factors that both matter, and nothing that changes the effect of one by the other. */
function sample(seed: number): Record<string, number[]> {
  const n = 250;
  const e = Array.from({ length: 13 }, (_, k) => normals(n, 100 * seed + k));
  const x = e[0]!;
  const w = e[1]!.map((v, i) => 0.3 * x[i]! + v);
  const m = e[2]!.map((v, i) => 0.4 * x[i]! + 0.2 * w[i]! + 0.8 * v);
  const items = (of: number[], name: string, first: number, loadings: number[]) =>
    loadings.map((l, j) => [`${name}${j + 1}`, of.map((v, i) => l * v + 0.6 * e[first + j]![i]!)]);
  return Object.fromEntries([
    ...items(x, "x", 3, [1, 0.7, 1.4]),
    ...items(w, "w", 6, [0.8, 1.3, 1]),
    ...items(m, "m", 9, [1, 0.8, 1.2]),
  ]) as Record<string, number[]>;
}

const SCALINGS = [
  ["", ""],
  ["scaled by x3", "scaled by w2"],
  ["with variance 1", "with variance 1"],
] as const;

it("an interaction that is none is found no more often than the level says, however scaled", () => {
  const samples = amount(12, 300);
  const found = SCALINGS.map(() => 0);
  for (let s = 1; s <= samples; s++) {
    const columns = sample(s);
    SCALINGS.forEach(([ofX, ofW], k) => {
      const theory = [
        `measure fx reflects x1, x2, x3 ${ofX}`,
        `measure fw reflects w1, w2, w3 ${ofW}`,
        "measure fm reflects m1, m2, m3",
        "H1: fx raises fm",
        "H2: fw strengthens fx to fm",
      ].join("\n");
      const { hypotheses } = analyseMade({ columns, theory, settings: { interval: "delta" } });
      expect(hypotheses[0]!.verdict).toBe("supported");
      if (["supported", "opposite"].includes(hypotheses[1]!.verdict)) found[k]! += 1;
    });
  }
  const error = Math.sqrt((0.05 * 0.95) / samples);
  for (const count of found) expect(count / samples).toBeLessThanOrEqual(0.05 + 3 * error);
  expect(new Set(found).size).toBe(1);
});
