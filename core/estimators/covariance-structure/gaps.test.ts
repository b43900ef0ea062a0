import { describe, expect, it } from "vitest";
import type { Evidence } from "../../evidence";
import { analyse } from "../../analysis";
import { compareRuns, keptRun } from "../../evidence/runs";
import { sampleWords } from "../../evidence/wording";
import { analyseMade, madeStudy, normals, problemOf } from "../../test-kit";

/** Items of two factors, of which each half of the people answered one of a1 and a2. */
const n = 160;
const factor = normals(n, 1);
const other = normals(n, 2).map((e, i) => 0.5 * factor[i]! + e);
const item = (of: number[], seed: number) => normals(n, seed).map((e, i) => of[i]! + 0.8 * e);
const whole = {
  a1: item(factor, 3),
  a2: item(factor, 4),
  a3: item(factor, 5),
  b1: item(other, 6),
  b2: item(other, 7),
  b3: item(other, 8),
};
const half = (values: number[], of: number) => values.map((v, i) => (i % 2 === of ? v : null));
const columns: Record<string, (number | string | null)[]> = {
  ...whole,
  a1: half(whole.a1, 0),
  a2: half(whole.a2, 1),
};
const MEASURES = "measure A reflects a1, a2, a3\nmeasure B reflects b1, b2, b3";
const settings = {
  engine: "covariance_structure",
  replications: 0,
  errors: "robust" as const,
  options: { missing: "everybody" },
};
const fitOf = ({ sections }: Evidence) => {
  const [found] = sections.flatMap((s) => (s.kind === "structure" ? [s] : []));
  return found!.fit!;
};

describe("two items that nobody answered both of", () => {
  const evidence = analyseMade({ columns, theory: `${MEASURES}\nH1: A raises B`, settings });
  const fit = fitOf(evidence);

  it("are named, and touch the claims about their factor", () => {
    const said = evidence.warnings.find((w) => w.code === "never_together")!;
    expect(said.message).toContain("No case has an answer to both “a1” and “a2”");
    expect(evidence.hypotheses[0]!.cautions.map((c) => c.code)).toContain("never_together");
  });

  it("are no moment: df are one fewer, of the model without correlations too", () => {
    // 27 moments of six items, 19 parameters; one of the moments is none.
    expect(fit.plain.df).toBe(27 - 1 - 19);
    expect(fit.plain.baseline.df).toBe(15 - 1);
    const all = analyseMade({ columns: whole, theory: `${MEASURES}\nH1: A raises B`, settings });
    expect(fitOf(all).plain.df).toBe(27 - 19);
  });

  it("leave the scaled test, and a fit that does not depend on how the covariance begins", () => {
    expect(fit.yuanBentler!.scaling).toBeGreaterThan(0.3);
    expect(fit.yuanBentler!.scaling).toBeLessThan(3);
    const swapped = analyseMade({
      columns: { ...columns, a1: columns.a2!, a2: columns.a1! },
      theory: `${MEASURES}\nH1: A raises B`,
      settings,
    });
    expect(fitOf(swapped).plain.chi2).toBeCloseTo(fit.plain.chi2, 6);
    expect(fitOf(swapped).yuanBentler!.scaling).toBeCloseTo(fit.yuanBentler!.scaling, 6);
  });
});

describe("an item that cannot be analysed", () => {
  const g = factor.map((_, i) => (i % 2 ? "evening" : "morning"));
  const latent = `${MEASURES}\nH1: A raises B`;
  it("is named alone, and with the group where that is where it fails", () => {
    const empty = { ...whole, a1: whole.a1.map(() => null) };
    expect(problemOf({ columns: empty, theory: latent, settings }).message).toContain(
      "“a1” has no values at all in this sample",
    );
    const constant = { ...whole, g, a1: whole.a1.map((v, i) => (i % 2 ? 3 : v)) };
    expect(
      problemOf({ columns: constant, theory: `${latent}\ngroups by g`, settings }).message,
    ).toContain("“a1” never varies in the group “evening”");
    const gone = { ...whole, g, a1: half(whole.a1, 0) };
    expect(
      problemOf({ columns: gone, theory: `${latent}\ngroups by g`, settings }).message,
    ).toContain("“a1” has no values at all in the group “evening”");
  });

  it("among composites too", () => {
    const theory = latent.replaceAll("reflects", "combines");
    const of = (options: Record<string, string>) => ({
      engine: "composites",
      replications: 20,
      options,
    });
    const empty = { ...whole, a1: whole.a1.map(() => null) };
    expect(
      problemOf({ columns: empty, theory, settings: of({ missing: "means" }) }).message,
    ).toContain("“a1” has no values at all in this sample");
    const constant = { ...whole, g, a1: whole.a1.map((v, i) => (i % 2 ? 3 : v)) };
    expect(
      problemOf({ columns: constant, theory: `${theory}\ngroups by g`, settings: of({}) }).message,
    ).toContain("“a1” never varies among the rows of the group “evening”");
  });
});

describe("rows and columns with gaps, where everybody is kept", () => {
  const z = normals(n, 9);
  const gaps: Record<string, (number | null)[]> = {
    ...whole,
    a1: whole.a1.map((v, i) => (i % 7 === 3 ? null : v)),
    z: z.map((v, i) => (i % 5 === 2 ? null : v)),
  };
  for (const name of Object.keys(gaps)) gaps[name] = gaps[name]!.map((v, i) => (i < 2 ? null : v));
  const theory = `${MEASURES}\nH1: A raises B\nadjust B for z`;
  const evidence = analyseMade({ columns: gaps, theory, settings });

  it("what has no answer at all is called that, and nothing else is left out", () => {
    expect(evidence.warnings.map((w) => w.code)).toContain("rows_empty");
    expect(evidence.warnings.map((w) => w.code)).not.toContain("rows_dropped");
    expect(evidence.sample).toMatchObject({ n: n - 2, dropped: [1, 2], keepsIncomplete: true });
    expect(sampleWords(evidence)).toContain("2 left out without any answer");
  });

  it("a covariate with gaps has the mean of its answers, and nothing is called no number", () => {
    const known = gaps.z!.filter((v): v is number => v !== null);
    const mean = known.reduce((a, b) => a + b, 0) / known.length;
    expect(evidence.descriptives.z!.mean).toBeCloseTo(mean, 10);
    expect(evidence.warnings.map((w) => w.code)).not.toContain("not_finite");
  });

  it("groups and kept runs are compared by scaled differences, and Wald tests rest on the chosen errors", () => {
    const g = factor.map((_, i) => (i % 2 ? "evening" : "morning"));
    const of = (errors: "robust" | "expected") => {
      const found = analyseMade({
        columns: { ...gaps, g },
        theory: `${MEASURES}\nH1: A raises B\nH2: g alters A to B`,
        settings: { ...settings, errors },
      });
      return found.sections.flatMap((s) => (s.kind === "structure" ? [s] : []))[0]!;
    };
    const [robust, expected] = [of("robust"), of("expected")];
    expect(robust.differences[0]!.scaled!.chi2).toBeGreaterThan(0);
    expect(robust.invariance[1]!.difference!.scaled!.chi2).toBeGreaterThan(0);
    // By its own errors: the square of the difference over the sum of the two variances.
    for (const found of [robust, expected]) {
      const arrows = found.arrows.filter(
        (a) => a.kind === "path" && a.to === "B" && a.from === "A",
      );
      const [one, two] = arrows.map((a) => ({ b: a.estimate, v: (a.estimate / a.z!) ** 2 }));
      const { wald } = found.differences[0]!.wald!;
      // Estimates of the two groups go together through equal loadings, so nearly.
      expect(wald / ((one!.b - two!.b) ** 2 / (one!.v + two!.v))).toBeCloseTo(1, 0);
    }
    expect(robust.differences[0]!.wald!.wald).not.toBeCloseTo(
      expected.differences[0]!.wald!.wald,
      3,
    );
    const run = (theory: string) => {
      const { definition, table } = madeStudy({ columns: gaps, theory, settings });
      return keptRun(analyse(definition, table), definition);
    };
    const compared = compareRuns(run(`${theory}\nhold A to B at 0.4`), run(theory));
    expect(compared.fit!.difference!.scaled!.chi2).toBeGreaterThan(0);
  });
});
