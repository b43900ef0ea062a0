import { describe, expect, it } from "vitest";
import { equationsOf } from "../../evidence";
import { analyseMade, normals } from "../../test-kit";

const N = 120;
const [a, b, c] = [41, 42, 43].map((seed) => normals(N, seed)) as [number[], number[], number[]];
const rowsOf = (columns: Record<string, number[]>, theory: string) =>
  equationsOf(analyseMade({ columns, theory }))[0]!.suppression;

describe("what a strange coefficient is called", () => {
  it("suppression, when its interval lies beyond the correlation away from zero, upwards and downwards alike", () => {
    const noisy = a.map((v, i) => v + b[i]!);
    for (const sign of [1, -1]) {
      const y = a.map((v, i) => sign * v + 0.3 * c[i]!);
      const [x, irrelevant] = rowsOf({ x: noisy, s: b, y }, "H1: x affects y\nH2: s affects y");
      expect(x!.kind).toBe("suppression");
      expect(x!.flags).toContain("enhanced");
      expect(Math.sign(x!.beta)).toBe(sign);
      // The suppressor itself hardly correlates with the outcome and turns against it.
      expect(irrelevant!.kind).toBe("suppression");
      expect(Math.abs(irrelevant!.beta)).toBeGreaterThan(Math.abs(irrelevant!.correlation) + 0.3);
    }
  });

  it("nothing, when the predictors are unrelated or the coefficient may be zero", () => {
    const y = a.map((v, i) => 0.5 * v + c[i]!);
    for (const row of rowsOf({ x: a, s: b, y }, "H1: x affects y\nH2: s affects y"))
      expect(row.kind).toBeNull();
    const alone = rowsOf({ x: a, y }, "H1: x affects y");
    expect(alone).toHaveLength(1);
    expect(alone[0]).toMatchObject({ kind: null, flags: [] });
    expect(alone[0]!.beta).toBeCloseTo(alone[0]!.correlation, 10);
  });

  it("collinearity, when near twins leave a reversed or huge coefficient without a clear sign", () => {
    const twin = a.map((v, i) => v + 0.05 * b[i]!);
    const y = a.map((v, i) => v + twin[i]! + 4 * c[i]!);
    const rows = rowsOf({ x: a, twin, y }, "H1: x affects y\nH2: twin affects y");
    for (const row of rows) expect(row.vif).toBeGreaterThan(10);
    const strange = rows.filter(
      (r) => r.flags.includes("sign_reversed") || r.flags.includes("beta_above_one"),
    );
    expect(strange.length).toBeGreaterThan(0);
    for (const row of strange) expect(row.kind).toBe("collinearity");
  });
});
