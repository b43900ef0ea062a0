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

describe("what is said of responses that cannot be told, or need not", () => {
  const [x, z] = [normals(90, 11), normals(90, 12)];
  const settings = { engine: "generalised", interval: "delta" as const };

  it("separation names the predictors that it needs, and no others", () => {
    const theory = "model y as logistic\nH1: x raises y\nH2: z raises y";
    const y = x.map((v) => (v > 0 ? 1 : 0));
    const alone = problemOf({ columns: { x, z, y }, theory, settings });
    expect(alone.code).toBe("separation_complete");
    expect(alone.message).toContain("“x” tells every “y” apart");
    expect(alone.message).not.toContain("“z”");
    const both = x.map((v, i) => (v + z[i]! > 0 ? 1 : 0));
    const together = problemOf({ columns: { x, z, y: both }, theory, settings });
    expect(together.message).toMatch(/“x”.*“z” tell every “y” apart/);
  });

  it("a negative binomial without more scatter than Poisson is that Poisson model, and says so", () => {
    const y = x.map((v, i) => Math.max(0, Math.round(3 + v + 0.2 * z[i]!)));
    const run = (family: string) =>
      analyseMade({
        columns: { x, y },
        theory: `model y as ${family}\nH1: x raises y`,
        settings,
      });
    const [counted, plain] = [run("negative binomial"), run("poisson")];
    expect(counted.warnings.map((w) => w.code)).toEqual(["no_overdispersion"]);
    expect(counted.hypotheses[0]!.claim!.estimate).toBeCloseTo(
      plain.hypotheses[0]!.claim!.estimate!,
      6,
    );
    const fit = counted.sections.flatMap((s) => (s.kind === "responses" ? s.models : []))[0]!.fit;
    const own = plain.sections.flatMap((s) => (s.kind === "responses" ? s.models : []))[0]!.fit;
    expect(fit.devianceR2).toBeCloseTo(own.devianceR2!, 5);
  });
});
