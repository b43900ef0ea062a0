import { equationsOf } from "../../../core";
import { describe, expect, it } from "vitest";
import type { Settings } from "../../../core";
import { analyseMade, normals } from "../../../core/test-kit";
import { checkSentences, type CheckSentence } from "./check-sentences";

const N = 160;
const [x, e, v] = [11, 17, 13].map((seed) => normals(N, seed)) as [number[], number[], number[]];

function sentences(
  columns: Record<string, number[]>,
  theory = "H1: x raises y",
  settings: Partial<Settings> = {},
): Record<string, CheckSentence> {
  const [equation] = equationsOf(analyseMade({ columns, theory, settings }));
  return Object.fromEntries(
    checkSentences(equation!, settings.errors !== undefined).map((s) => [s.title, s]),
  );
}

describe("what checks say", () => {
  it("is calm about a straight relation with even spread", () => {
    const found = sentences({ x, y: x.map((a, i) => a + e[i]!) });
    expect(Object.values(found).filter((s) => s.look)).toEqual([]);
    expect(found["normality of residuals"]!.text).toMatch(/Shapiro-Wilk W = 0\.9\d+, p = /);
  });

  it("asks for robust errors where the spread grows, and is content when they are in use", () => {
    const y = x.map((a, i) => a + e[i]! * Math.exp(a));
    expect(sentences({ x, y })["homoscedasticity"]).toMatchObject({
      look: true,
      text: expect.stringContaining("choose HC3 or HC4"),
    });
    expect(sentences({ x, y }, undefined, { errors: "HC3" })["homoscedasticity"]).toMatchObject({
      look: false,
      text: expect.stringContaining("allow for that"),
    });
  });

  it("sees a curve, and a single row far off", () => {
    const bent = sentences({ x, y: x.map((a, i) => a * a + 0.3 * e[i]!) });
    expect(bent["linearity"]).toMatchObject({
      look: true,
      text: expect.stringContaining("curved"),
    });
    const lone = sentences({ x, y: x.map((a, i) => a + e[i]! + (i === 7 ? 12 : 0)) });
    expect(lone["influential cases"]).toMatchObject({
      look: true,
      text: expect.stringMatching(/^One residual beyond/),
    });
  });

  it("names predictors that cannot be told apart, but not parts of a product", () => {
    const twin = x.map((a, i) => a + 0.05 * v[i]!);
    const found = sentences(
      { x, twin, y: x.map((a, i) => a + e[i]!) },
      "H1: x raises y\nH2: twin raises y",
    );
    expect(found["collinearity"]).toMatchObject({
      look: true,
      text: expect.stringContaining("twin (VIF"),
    });
    const far = x.map((a) => a + 60);
    const product = sentences(
      { far, w: v.map((a) => a + 40), y: x.map((a, i) => a * v[i]! + e[i]!) },
      "H1: w strengthens far to y",
    );
    expect(product["collinearity"]).toMatchObject({
      look: false,
      text: expect.stringContaining("come from their scale"),
    });
  });

  it("calls a strange coefficient collinearity where its interval is too wide to say more", () => {
    const twin = x.map((a, i) => a + 0.02 * v[i]!);
    const theory = "H1: x raises y\nalso twin to y";
    const analysed = (y: number[]) =>
      equationsOf(analyseMade({ columns: { x, twin, y }, theory }))[0];
    const first = x.map((a, i) => a + e[i]!);
    const before = analysed(first)!.coefficients.find((c) => c.term === "twin")!;
    // Adding k (twin - x) moves the coefficient of twin by k: here to half a standard error below
    // zero.
    const k = -0.5 * before.errors.classical!.se - before.b;
    const y = first.map((a, i) => a + k * (twin[i]! - x[i]!));
    const found = sentences({ x, twin, y }, theory);
    const equation = analysed(y);
    const odd = equation!.suppression.filter((s) => s.flags.includes("sign_reversed"));
    for (const s of odd) expect(s.kind).not.toBe("suppression");
    expect(found.suppression).toBeUndefined();
    expect(odd).not.toEqual([]);
    expect(found["unstable coefficient"]!.text).toContain("too wide to call that suppression");
  });

  it("judges the codes of one factor together, never one by one", () => {
    const g = x.map((_, i) => (i % 40 === 0 ? "rare" : i % 2 ? "b" : "a"));
    const [equation] = equationsOf(
      analyseMade({
        columns: { g, x, y: x.map((a, i) => a + e[i]!) },
        theory: "H1: g affects y\nalso x to y",
        variables: { g: { level: "categorical", reference: "rare" } },
      }),
    );
    const own = equation!.coefficients.filter((c) => c.term.startsWith("g.")).map((c) => c.vif!);
    expect(Math.min(...own)).toBeGreaterThan(5);
    expect(equation!.omnibus[0]!.gvifPerDimension).toBeLessThan(1.1);
    const found = Object.fromEntries(checkSentences(equation!, false).map((s) => [s.title, s]));
    expect(found["collinearity"]!.look).toBe(false);
  });

  it("explains a coefficient whose sign opposes its correlation as suppression", () => {
    const shared = x.map((a, i) => a + 0.4 * v[i]!);
    const found = sentences(
      { x, shared, y: x.map((a, i) => a - 0.8 * shared[i]! + a * 0.4 + 0.2 * e[i]!) },
      "H1: x raises y\nH2: shared lowers y",
    );
    expect(found.suppression).toMatchObject({
      look: true,
      text: expect.stringContaining("That is suppression, not an error"),
    });
  });
});
