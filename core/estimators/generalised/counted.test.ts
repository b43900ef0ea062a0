import { describe, expect, it } from "vitest";
import { analyseMade, normals, problemOf } from "../../test-kit";

/** A response that is declared as a count, of which only two values occur. */
describe("a count with two values", () => {
  const x = normals(80, 3);
  const study = (zero: number, one: number) => ({
    columns: { x, y: x.map((v, i) => (v + (i % 5) / 3 > 0.9 ? one : zero)) },
    theory: "model y as poisson\nH1: x raises y",
    settings: { engine: "generalised", interval: "delta" as const },
  });
  const intercept = (made: ReturnType<typeof study>): number => {
    const models = analyseMade(made).sections.flatMap((s) =>
      s.kind === "responses" ? s.models : [],
    );
    return models[0]!.coefficients.find((c) => c.term !== "x")!.estimate;
  };

  it("is counted as it is, not as no and yes", () => {
    // Of 0 and 3 every mean is three times that of 0 and 1: the intercept moves by log 3.
    expect(intercept(study(0, 3)) - intercept(study(0, 1))).toBeCloseTo(Math.log(3), 8);
    expect(intercept(study(2, 3))).not.toBeCloseTo(intercept(study(0, 1)), 2);
  });

  it("is refused below zero, by name and value", () =>
    expect(problemOf(study(-1, 2))).toMatchObject({
      message: expect.stringContaining("“y” is -1 in a row, and a count cannot be below zero"),
    }));
});
