import { equationsOf, unitWords } from "../evidence";
import { describe, expect, it } from "vitest";
import { StudyProblem } from "./problems";
import { warningsIn } from "../wording";
import { analyseMade, normals, problemOf, type MadeStudy } from "../test-kit";

const N = 40;
const [a, b, c] = [normals(N, 1), normals(N, 2), normals(N, 3)];
const x = a!;
const m = x.map((v, i) => 0.5 * v + b![i]!);
const y = m.map((v, i) => 0.4 * v + c![i]!);
const theory = "H1: x raises y through m";
const columns = { x, m, y };

const stops: [string, MadeStudy, string, string[]][] = [
  [
    "no row is complete",
    {
      columns: {
        x: x.map((v, i) => (i % 2 ? v : null)),
        m: m.map((v, i) => (i % 2 ? null : v)),
        y,
      },
      theory,
    },
    "no_complete_cases",
    ["3 variables", "20 of 40"],
  ],
  [
    "an unknown name",
    { columns, theory: "H1: x raises y through mm" },
    "unknown_variable",
    ["mm", "Did you mean"],
  ],
  [
    "a constant predictor",
    {
      columns: { ...columns, x: x.map(() => 4) },
      theory,
      variables: { x: { level: "continuous" } },
    },
    "constant_variable",
    ["x", "4", "m"],
  ],
  [
    "a constant outcome",
    {
      columns: { ...columns, y: y.map(() => 2) },
      theory,
      variables: { y: { level: "continuous" } },
    },
    "constant_variable",
    ["y", "2"],
  ],
  [
    "constant only among the rows that are used",
    {
      columns: { x: x.map((_, i) => (i < 20 ? 1 : 2)), m, y: y.map((v, i) => (i < 20 ? v : null)) },
      theory,
      variables: { x: { level: "continuous" } },
    },
    "constant_variable",
    ["x", "every row used"],
  ],
  [
    "a sum among its parts",
    {
      columns: { ...columns, whole: x.map((v, i) => v + m[i]!) },
      theory: "H1: x raises y\nalso m to y, whole to y",
    },
    "collinear",
    ["whole", "x", "m", "y"],
  ],
  [
    "fewer rows than coefficients",
    { columns: { x: x.slice(0, 3), m: m.slice(0, 3), y: y.slice(0, 3) }, theory },
    "too_few_cases",
    ["3 coefficients", "3 complete rows"],
  ],
  [
    "a confidence level of 1",
    { columns, theory, settings: { level: 1 } },
    "invalid_setting",
    ["confidence level", "1"],
  ],
  [
    "a level of 0",
    { columns, theory, settings: { level: 0 } },
    "invalid_setting",
    ["confidence level"],
  ],
  [
    "half a resample",
    { columns, theory, settings: { replications: 0.5 } },
    "invalid_setting",
    ["bootstrap samples", "0.5"],
  ],
  [
    "negative resamples",
    { columns, theory, settings: { replications: -1 } },
    "invalid_setting",
    ["bootstrap samples", "-1"],
  ],
  [
    "too many resamples",
    { columns, theory, settings: { replications: 1e6 } },
    "invalid_setting",
    ["100000"],
  ],
  [
    "a negative seed",
    { columns, theory, settings: { seed: -3 } },
    "invalid_setting",
    ["seed", "-3"],
  ],
  [
    "strata and clusters at once",
    {
      columns: { ...columns, g: x.map((_, i) => i % 4) },
      theory,
      settings: { strata: "g", cluster: "g" },
    },
    "invalid_setting",
    ["strata", "cluster"],
  ],
  [
    "a word among numbers",
    {
      columns: { ...columns, m: m.map((v, i) => (i === 6 ? "seven" : v)) },
      theory,
      variables: { m: { level: "continuous" } },
    },
    "not_numeric",
    ["m", "seven", "7"],
  ],
  [
    "a circle",
    { columns, theory: "also x to m, m to y, y to x" },
    "cyclic_model",
    ["x", "m", "y", "→"],
  ],
  [
    "a circle through a covariate",
    { columns, theory: "also x to m\nadjust x for m" },
    "notation",
    ["x"],
  ],
  [
    "a circle through a moderator",
    { columns: { ...columns, w: c! }, theory: "H1: w strengthens x to m\nalso m to w" },
    "cyclic_model",
    ["w", "m"],
  ],
  [
    "a category with one level left",
    {
      columns: {
        g: x.map((_, i) => (i < 20 ? "in" : "out")),
        y: y.map((v, i) => (i < 20 ? v : null)),
      },
      theory: "g affects y",
      variables: { g: { level: "categorical" } },
    },
    "one_level",
    ["g", "in"],
  ],
  [
    "a category as an outcome",
    { columns: { x, g: x.map((_, i) => "abc"[i % 3]!) }, theory: "x affects g" },
    "wrong_level",
    ["g", "categorical"],
  ],
  ["no sentence", { columns, theory: "# nothing yet" }, "nothing_to_estimate", ["sentence"]],
  [
    "composites that no sentence connects",
    { columns, theory: "measure both combines x, y" },
    "nothing_to_estimate",
    ["sentence"],
  ],
];

describe("what stops an analysis", () => {
  it.each(stops)("%s", (_, made, code, words) => {
    const problem = problemOf(made);
    expect([problem.code, problem.message]).toEqual([code, expect.any(String)]);
    for (const word of words) expect(problem.message).toContain(word);
    // The condition and its data are enough to say it again, wherever they have been sent.
    const { condition, data } = structuredClone({ ...problem });
    expect(new StudyProblem(condition, data).message).toBe(problem.message);
  });

  it("names the equation and the variables for whoever leads the reader there", () => {
    const found = problemOf({
      columns: { ...columns, double: x.map((v) => 2 * v) },
      theory: "H1: x raises y\nalso double to y",
    });
    expect(found.place).toMatchObject({
      equation: "y",
      variables: expect.arrayContaining(["double", "x"]),
    });
    expect(
      problemOf({
        columns: { ...columns, m: m.map((v, i) => (i === 6 ? "seven" : v)) },
        theory,
        variables: { m: { level: "continuous" } },
      }).place,
    ).toMatchObject({ row: 7, variables: ["m"] });
  });

  it("lets a product that is constant be a matter of collinearity, not of a constant", () => {
    // w differs from its mean only where x is at its own, so the product never varies about it.
    const xs = x.map((_, i) => [0, 0, 1, -1][i % 4]!);
    const ws = x.map((_, i) => [1, -1, 0, 0][i % 4]!);
    const found = problemOf({
      columns: { x: xs, w: ws, y },
      theory: "w alters x to y",
      variables: { x: { level: "continuous" }, w: { level: "continuous" } },
    });
    expect(found.code).toBe("collinear");
    expect(found.message).toContain("x");
    expect(found.message).toContain("w");
  });
});

const codes = (made: MadeStudy): string[] => analyseMade(made).warnings.map((w) => w.code);

describe("what deserves a look", () => {
  it("rows left out, with the reasons counted", () => {
    const evidence = analyseMade({
      columns: {
        x: x.map((v, i) => (i < 3 ? null : v)),
        m,
        y: y.map((v, i) => (i === 5 ? null : v)),
      },
      theory,
    });
    const [dropped] = evidence.warnings.filter((w) => w.code === "rows_dropped");
    expect(dropped!.message).toContain("4 of 40");
    expect(dropped!.message).toContain("x 3, y 1");
    expect(evidence.sample.dropped).toEqual([1, 2, 3, 6]);
    expect(codes({ columns, theory })).not.toContain("rows_dropped");
  });

  it("predictors that nearly determine each other, but not products and their parts", () => {
    const near = x.map((v, i) => v + 0.05 * c![i]!);
    expect(codes({ columns: { ...columns, near }, theory: "also x to y, near to y" })).toContain(
      "near_collinear",
    );
    const far = x.map((v) => v + 50);
    const w = c!.map((v) => v + 50);
    const evidence = analyseMade({ columns: { x: far, w, y }, theory: "w alters x to y" });
    expect(
      equationsOf(evidence)[0]!.coefficients.find((k) => k.term === "x:w")!.vif,
    ).toBeGreaterThan(10);
    expect(evidence.warnings.map((k) => k.code)).not.toContain("near_collinear");
  });

  it("an indirect effect against the direct one", () => {
    const steep = x.map((v, i) => v + b![i]!);
    const against = steep.map((v, i) => 2 * v - 3 * x[i]! + 0.1 * c![i]!);
    expect(codes({ columns: { x, m: steep, y: against }, theory })).toContain(
      "inconsistent_mediation",
    );
    // Opposite signs of estimates alone are chance: here the direct effect's interval contains
    // zero.
    const slightly = steep.map((v, i) => 2 * v - 0.3 * x[i]! + c![i]!);
    const found = analyseMade({ columns: { x, m: steep, y: slightly }, theory }).effects;
    const [direct, indirect] = ["direct x > y", "indirect x > m > y"].map((id) =>
      found.find((e) => e.id === id)!,
    );
    expect(direct!.estimate! * indirect!.estimate!).toBeLessThan(0);
    expect(codes({ columns: { x, m: steep, y: slightly }, theory })).not.toContain(
      "inconsistent_mediation",
    );
    const along = m.map((v, i) => 0.9 * v + 0.8 * x[i]! + 0.1 * c![i]!);
    const calm = codes({ columns: { x, m, y: along }, theory });
    expect(calm).not.toContain("inconsistent_mediation");
    expect(calm).not.toContain("proportion_unstable");
  });

  it("Goodman's error where both paths are too uncertain", () => {
    const noise = normals(N, 24);
    const flat = { x, m: noise, y: normals(N, 124) };
    const [sobel] = analyseMade({ columns: flat, theory }).effects.filter((e) => e.twoPath);
    const { a: pa, seA, b: pb, seB } = sobel!.twoPath!;
    const radicand = pa ** 2 * seB ** 2 + pb ** 2 * seA ** 2 - seA ** 2 * seB ** 2;
    expect(codes({ columns: flat, theory }).includes("goodman_undefined")).toBe(radicand < 0);
    expect(radicand).toBeLessThan(0);
    expect(sobel!.twoPath!.goodman).toBeNull();
  });

  it("probes beyond what was observed", () => {
    const found = analyseMade({
      columns: { x, w: c!, y },
      theory: "w alters x to y",
      settings: { probes: { w: [0, 9] } },
    });
    const [outside] = found.warnings.filter((k) => k.code === "probe_outside_range");
    expect(outside!.message).toContain("w");
    expect(outside!.message).toContain("9");
    expect(codes({ columns: { x, w: c!, y }, theory: "w alters x to y" })).not.toContain(
      "probe_outside_range",
    );
  });

  it("too few resamples for the level", () => {
    expect(codes({ columns, theory, settings: { replications: 20, level: 0.99 } })).toContain(
      "b_too_small",
    );
    expect(
      codes({ columns, theory, settings: { replications: 2000, interval: "percentile" } }),
    ).not.toContain("b_too_small");
  });

  it("resamples that fail, the more strongly the more there are", () => {
    // One person alone has the second level of a group; every resample without that person fails.
    const rare = x.map((_, i) => (i === 0 ? 1 : 0));
    const evidence = analyseMade({
      columns: { rare, y },
      theory: "rare affects y",
      variables: { rare: { level: "continuous" } },
      settings: { replications: 600 },
    });
    const [failed] = evidence.warnings.filter((k) => k.code === "replicates_failed");
    expect(failed!.message).toContain("too many");
    expect(evidence.bootstrap!.failed / 600).toBeGreaterThan(0.3);
    expect(evidence.bootstrap!.failed / 600).toBeLessThan(0.44);
  });

  it("a yes/no outcome under least squares", () => {
    const yes = y.map((v) => (v > 0 ? "yes" : "no"));
    const theory = "x raises yes\nmodel yes as linear";
    const straight = analyseMade({ columns: { x, yes }, theory });
    expect(straight.estimator.id).toBe("least_squares");
    const [found] = straight.warnings.filter((k) => k.code === "binary_outcome");
    expect(found!.about).toEqual(["yes"]);
    // Without a word it gets a model of its own.
    const own = analyseMade({ columns: { x, yes }, theory: "x raises yes" });
    expect(own.estimator.id).toBe("generalised");
    expect(own.warnings.some((k) => k.code === "binary_outcome")).toBe(false);
  });
});

describe("a yes/no outcome among measures", () => {
  const yes = y.map((v) => (v > 0 ? "yes" : "no"));
  const items = {
    i1: x,
    i2: x.map((v, i) => v + y[i]!),
    i3: x.map((v, i) => v - y[(i + 7) % y.length]!),
  };
  it.each(["reflects", "combines"])("that %s items is said to be a straight line", (form) => {
    const theory = `measure f ${form} i1, i2, i3\nf raises yes`;
    const evidence = analyseMade({ columns: { ...items, yes }, theory });
    const [found] = evidence.warnings.filter((k) => k.code === "binary_outcome");
    expect(found!.about).toEqual(["yes"]);
    expect(found!.message).toContain("averages or sums");
    expect(unitWords(evidence)).toBe(form === "combines" ? "SDs of scores or steps" : "raw units");
  });
});

describe("a warning", () => {
  it("carries what its sentence is made of", () => {
    const gap = x.map((v, i) => (i < 3 ? null : v));
    const [dropped] = analyseMade({ columns: { x: gap, y }, theory: "x raises y" }).warnings;
    expect(dropped).toMatchObject({
      code: "rows_dropped",
      data: { dropped: 3, read: N, missing: [{ name: "x", count: 3 }] },
      about: ["x"],
    });
  });

  it("of an engine is worded by the engine", () => {
    const warning = warningsIn({ odd: ({ n }: { n: number }) => `${n} odd rows.` });
    expect(warning("odd", { n: 3 }, ["x"])).toEqual({
      code: "odd",
      data: { n: 3 },
      message: "3 odd rows.",
      about: ["x"],
    });
  });
});
