import { describe, expect, it } from "vitest";
import { analyseMade, normals, problemOf } from "../../test-kit";
import type { Evidence } from "../../evidence";

/** The same three items twice, half a point higher the second time. */
const n = 220;
const first = normals(n, 1);
const second = normals(n, 2).map((e, i) => 0.6 * first[i]! + 0.8 * e + 0.5);
const item = (of: number[], seed: number, up: number) =>
  normals(n, seed).map((e, i) => up + of[i]! + 0.7 * e);
const columns = {
  a1: item(first, 3, 1),
  a2: item(first, 4, 2),
  a3: item(first, 5, 3),
  b1: item(second, 6, 1),
  b2: item(second, 7, 2),
  b3: item(second, 8, 3),
};
const MODEL = "measure A reflects a1, a2, a3\nmeasure B reflects b1, b2, b3\nH1: A raises B";
const EQUAL = [1, 2, 3].map((k) => `hold intercept of a${k} equal to intercept of b${k}`);
const LOADINGS = [2, 3].map((k) => `hold A to a${k} equal to B to b${k}`);
const settings = { engine: "covariance_structure", replications: 0 };
const run = (...lines: string[]): Evidence =>
  analyseMade({ columns, theory: [MODEL, ...lines].join("\n"), settings });
const section = ({ sections }: Evidence) =>
  sections.flatMap((s) => (s.kind === "structure" ? [s] : []))[0]!;

describe("an intercept of a latent variable", () => {
  it("is freed, so that means of repeated measures are compared", () => {
    const found = section(run(...EQUAL, ...LOADINGS, "free intercept of B"));
    const mean = found.arrows.find((a) => a.arrow === "1 -> B")!;
    expect(mean.free).toBe(true);
    expect(mean.estimate).toBeGreaterThan(0.3);
    expect(mean.estimate).toBeLessThan(0.7);
    // Freeing one parameter costs one df.
    const held = section(run(...EQUAL, ...LOADINGS));
    expect(held.fit!.plain.df - found.fit!.plain.df).toBe(1);
    expect(held.fit!.plain.chi2).toBeGreaterThan(found.fit!.plain.chi2 + 10);
  });

  it("is not told apart from those of its items unless something holds them", () =>
    expect(problemOf({ columns, theory: `${MODEL}\nfree intercept of B`, settings }).code).toBe(
      "under_identified",
    ));

  it("is not freed and held at once: both lines are named", () => {
    const theory = [MODEL, ...EQUAL, "free intercept of B", "hold intercept of B at 0.2"].join(
      "\n",
    );
    expect(problemOf({ columns, theory, settings }).message).toBe(
      "Line 7 frees “1 -> B”, and line 8 holds it at a value. Leave one of the two out.",
    );
  });
});

describe("a line that holds arrows", () => {
  const line = "hold A to B at 0.3";
  it("is tested against the theory without it, and the others are kept", () => {
    const [tight, loose] = [section(run(line, ...LOADINGS)), section(run(...LOADINGS))];
    const test = tight.constraints.find((d) => d.what === line)!;
    expect(tight.constraints).toHaveLength(3);
    expect(test.df).toBe(1);
    expect(test.chi2).toBeCloseTo(tight.fit!.plain.chi2 - loose.fit!.plain.chi2, 8);
    expect(test.scaled!.chi2).toBeGreaterThan(0);
    expect(section(run()).constraints).toEqual([]);
  });

  it("is never passed over: whoever cannot follow it leaves it to one who can, or says so", () => {
    const x = normals(80, 11);
    const after = (seed: number) => x.map((v, i) => v + normals(80, seed)[i]!);
    const made = (more: string) => ({
      columns: { x, y: after(12), z: after(13), g: x.map((_, i) => `g${i % 2}`) },
      theory: `H1: x raises y\nH2: x raises z\n${more}`,
      settings: { engine: "least_squares", replications: 0 },
    });
    const lines = ["hold x to y at 0.5", "free intercept of y", "covary y with z", "groups by g"];
    for (const more of lines)
      expect(analyseMade(made(more)).estimator.id, more).toBe("covariance_structure");
    const held = analyseMade(made("hold x to y at 0.5"));
    expect(held.effects.find((e) => e.id === "direct x > y")!.estimate).toBeCloseTo(0.5, 12);
    const logistic = made("model y as logistic\nhold x to y at 0.5");
    const yes = {
      ...logistic,
      columns: { ...logistic.columns, y: x.map((v, i) => (v + (i % 3) > 1 ? 1 : 0)) },
    };
    expect(problemOf(yes).code).toBe("not_available");
  });
});

describe("a claim about a path that is held", () => {
  const x = normals(90, 21);
  const m = x.map((v, i) => 0.5 * v + normals(90, 22)[i]!);
  const y = m.map((v, i) => 0.6 * v + normals(90, 23)[i]!);
  const claims = (lines: string, replications: number) =>
    analyseMade({
      columns: { x, m, y },
      theory: `H1: x raises m\nH2: x raises y through m\nH3: x raises y\n${lines}`,
      settings: { engine: "covariance_structure", replications, interval: "percentile" },
    });
  it.each([0, 400])(
    "is neither supported nor pending: it is held (%d resamples)",
    (replications) => {
      const { hypotheses, effects } = claims("hold x to m at 0.5\nhold x to y at 0", replications);
      const [one, two, three] = hypotheses;
      expect([one!.verdict, two!.verdict, three!.verdict]).toEqual([
        "not_testable",
        "supported",
        "not_testable",
      ]);
      expect(one!.reason).toContain("The path x → m is held at 0.5");
      expect(three!.reason).toContain("x → y is held at 0");
      // A direct effect that is held says nothing of the kind of mediation.
      expect(two!.pattern).toBeNull();
      const row = effects.find((e) => e.id === "direct x > m")!;
      expect([row.estimate, row.shown, row.withheld]).toEqual([
        expect.closeTo(0.5, 10),
        null,
        expect.stringContaining("held at 0.5"),
      ]);
    },
  );

  it("is found through others that are held equal to it, and through steps at zero", () => {
    const { hypotheses } = claims("hold x to m equal to m to y\nhold m to y at -0.4", 0);
    expect(hypotheses[0]!.reason).toContain("x → m is held at −0.4");
    expect(hypotheses[1]!.reason).toContain("x → m is held at −0.4, m → y is held at −0.4");
    expect(hypotheses[2]!.verdict).not.toBe("not_testable");
    const zero = claims("hold m to y at 0", 0).hypotheses[1]!;
    expect(zero.reason).toContain("m → y is held at 0, so the effect of x on y through m is 0");
  });
});
