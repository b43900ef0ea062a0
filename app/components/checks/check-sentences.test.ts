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
  const [equation] = analyseMade({ columns, theory, settings }).equations;
  return Object.fromEntries(checkSentences(equation!, settings.errors !== undefined).map((s) => [s.title, s]));
}

describe("what checks say", () => {
  it("is calm about a straight relation with even spread", () => {
    const found = sentences({ x, y: x.map((a, i) => a + e[i]!) });
    expect(Object.values(found).filter((s) => s.look)).toEqual([]);
    expect(found["normal residuals"]!.text).toMatch(/Shapiro-Wilk W = 0\.9\d+, p = /);
  });

  it("asks for robust errors where the spread grows, and is content when they are in use", () => {
    const y = x.map((a, i) => a + e[i]! * Math.exp(a));
    expect(sentences({ x, y })["even spread"]).toMatchObject({ look: true, text: expect.stringContaining("choose HC3 or HC4") });
    expect(sentences({ x, y }, undefined, { errors: "HC3" })["even spread"]).toMatchObject({
      look: false,
      text: expect.stringContaining("allow for that"),
    });
  });

  it("sees a curve, and a single row far off", () => {
    const bent = sentences({ x, y: x.map((a, i) => a * a + 0.3 * e[i]!) });
    expect(bent["straight lines"]).toMatchObject({ look: true, text: expect.stringContaining("curved") });
    const lone = sentences({ x, y: x.map((a, i) => a + e[i]! + (i === 7 ? 12 : 0)) });
    expect(lone["single rows"]).toMatchObject({ look: true, text: expect.stringMatching(/^One residual beyond/) });
  });

  it("names predictors that cannot be told apart, but not parts of a product", () => {
    const twin = x.map((a, i) => a + 0.05 * v[i]!);
    const found = sentences({ x, twin, y: x.map((a, i) => a + e[i]!) }, "H1: x raises y\nH2: twin raises y");
    expect(found["separate predictors"]).toMatchObject({ look: true, text: expect.stringContaining("twin (VIF") });
    const far = x.map((a) => a + 60);
    const product = sentences({ far, w: v.map((a) => a + 40), y: x.map((a, i) => a * v[i]! + e[i]!) }, "H1: w strengthens far to y");
    expect(product["separate predictors"]).toMatchObject({ look: false, text: expect.stringContaining("come from their scale") });
  });

  it("explains a coefficient whose sign opposes its correlation as suppression", () => {
    const shared = x.map((a, i) => a + 0.4 * v[i]!);
    const found = sentences(
      { x, shared, y: x.map((a, i) => a - 0.8 * shared[i]! + a * 0.4 + 0.2 * e[i]!) },
      "H1: x raises y\nH2: shared lowers y",
    );
    expect(found.suppression).toMatchObject({ look: true, text: expect.stringContaining("That is suppression, not an error") });
  });
});
