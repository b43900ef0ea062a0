import { describe, expect, it } from "vitest";
import { dataEvidence } from "../evidence";
import { madeStudy, normals } from "../test-kit";
import { descriptionWorking } from "./description";
import { eValueWorking } from "./e-value";
import { workedOut } from "../test-kit/workings";

const x = normals(81, 5).map((v) => Math.round(100 * (3 + v)) / 100);
const y = [...normals(80, 6).map((v) => Math.exp(v)), 60];
const { definition, table } = madeStudy({
  columns: { x, y, half: x.map((v) => (v > 3 ? 1 : 0)) },
  theory: "H1: x raises y",
});
const { descriptives } = dataEvidence(definition, table);

describe("the working of a description", () => {
  it.each(["x", "y"])("works out to the numbers of the table: %s", (name) => {
    const described = descriptives[name]!;
    const { steps, rows } = descriptionWorking(described);
    const numbersOf = (what: string): string => steps.find((s) => s.what === what)!.numbers;
    for (const [what, value] of [
      ["Mean", described.mean],
      ["SD", described.sd],
      ["Skewness", described.skewness],
      ["Excess kurtosis", described.excessKurtosis],
    ] as const) {
      const [left, right] = numbersOf(what).split(";")[0]!.split(" = ") as [string, string];
      expect(workedOut(right)).toBeCloseTo(value!, 1);
      expect(Math.abs(workedOut(left) - value!)).toBeLessThan(0.01 + 0.01 * Math.abs(value!));
    }
    expect(rows).toBe("81 values.");
    expect(numbersOf("Median")).toContain("Value 41 of 81");
  });

  it("says how far the furthest value lies, and leaves two values alone", () => {
    const far = descriptionWorking(descriptives.y!).steps.at(-1)!;
    expect(far.what).toBe("Outliers");
    expect(far.numbers).toMatch(/beyond 3\.5, the furthest at z = \d+/);
    expect(descriptionWorking(descriptives.half!).steps.map((s) => s.what)).not.toContain(
      "Outliers",
    );
  });
});

describe("the working of E-values", () => {
  it("works out, of ratios below one by their reciprocals", () => {
    const parts = (ratio: number, lower: number, upper: number) => {
      const of = (r: number): number => {
        const up = r >= 1 ? r : 1 / r;
        return up + Math.sqrt(up * (up - 1));
      };
      const limit = ratio >= 1 ? lower : upper;
      const inside = lower <= 1 && upper >= 1;
      return {
        effect: `ratio ${ratio}`,
        ratio,
        lower,
        upper,
        eValue: of(ratio),
        eValueOfLimit: inside ? 1 : of(limit),
      };
    };
    const { steps } = eValueWorking(
      [parts(1.8, 1.2, 2.7), parts(0.5, 0.3, 0.8), parts(1.1, 0.9, 1.4)],
      "E-values",
    );
    expect(steps).toHaveLength(6);
    for (const [i, step] of steps.slice(0, 4).entries()) {
      const [left, right] = step.numbers.split(": ").at(-1)!.split(" = ") as [string, string];
      expect(Math.abs(workedOut(left) - workedOut(right)), String(i)).toBeLessThan(0.01);
    }
    expect(steps[2]!.numbers).toContain("R = 1 / 0.500");
    expect(steps[5]!.numbers).toContain("contains 1");
  });
});
