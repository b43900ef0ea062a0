import { equationsOf } from "../core";
import { describe, expect, it } from "vitest";
import {
  analyse,
  completeChoices,
  composeReport,
  dataEvidence,
  isFromMoments,
  isNeverResampled,
  robustness,
  StudyProblem,
  TableBuilder,
} from "../core";
import { readStudy, tableOfMoments, writeStudy } from ".";
import { readMatrix } from "./matrix-table";

/**
 * Studies that know a matrix instead of people: what follows from it is exact, and nothing else is
 * told.
 */
const moments = {
  names: ["x", "w", "m", "y"],
  n: 120,
  correlation: [[1], [0.2, 1], [0.5, 0.1, 1], [0.3, 0.2, 0.6, 1]],
};
const study = (theory: string[], more: object = {}) =>
  readStudy(
    JSON.stringify({ format: "hebel-study", version: 1, data: { moments }, theory, ...more }),
  );

const codeOf = (theory: string[], more: object = {}): string | null => {
  const { definition, table } = study(theory, more);
  try {
    analyse(definition, table);
    return null;
  } catch (error) {
    return error instanceof StudyProblem ? error.code : String(error);
  }
};

describe("a study of correlations alone", () => {
  const theory = ["H1: x raises y through m"];
  const { definition, table } = study(theory);
  const evidence = analyse(definition, table);

  it("has the coefficients and the t tests that follow from the correlations", () => {
    const y = equationsOf(evidence).find((e) => e.outcome === "y")!;
    const b = (0.6 - 0.5 * 0.3) / (1 - 0.25);
    expect(y.coefficients.find((c) => c.term === "m")!.b).toBeCloseTo(b, 10);
    const r2 = (0.3 ** 2 + 0.6 ** 2 - 2 * 0.3 * 0.6 * 0.5) / 0.75;
    const se = Math.sqrt((1 - r2) / (0.75 * (120 - 3)));
    expect(y.coefficients.find((c) => c.term === "m")!.errors.classical!.se).toBeCloseTo(se, 10);
    expect(evidence.effects.find((e) => e.id === "direct m > y")!.shown).toMatchObject({
      reference: "t",
      df: 117,
      se: expect.closeTo(se, 10),
    });
    for (const kind of ["HC0", "HC3", "CR2"] as const)
      expect(y.coefficients[1]!.errors[kind]).toBeNull();
  });

  it("tells nothing of rows: no residual checks, no extremes, no influence", () => {
    for (const equation of equationsOf(evidence)) expect(equation.checks).toBeNull();
    for (const d of Object.values(evidence.descriptives))
      expect([d.min, d.max]).toEqual([null, null]);
    const data = dataEvidence(definition, table);
    expect(data.findings).toEqual([]);
    for (const v of Object.values(data.descriptives)) {
      expect([v.min, v.max, v.median, v.percentiles, v.skewness, v.excessKurtosis]).toEqual([
        null,
        null,
        null,
        null,
        null,
        null,
      ]);
      expect(v.outliers.rows).toEqual([]);
      expect(v.sd).toBeCloseTo(1, 10);
    }
    const [set] = data.sets;
    expect([
      set!.mahalanobis.problem?.code,
      set!.mardia.problem?.code,
      set!.little.problem?.code,
    ]).toEqual(["needs_rows", "needs_rows", "needs_rows"]);
    for (const cell of set!.correlations.pairwise.cells) expect(cell.spearman).toBeNull();
    const found = set!.correlations.pairwise.cells.find((c) => c.x === "m" && c.y === "y")!;
    expect(found.pearson!.r).toBeCloseTo(0.6, 10);
    const groups = new Set(robustness(definition, table).map((s) => s.group));
    expect([groups.has("cases"), groups.has("intervals")]).toEqual([false, false]);
  });

  it("is reported as what it is, and never said to be waiting for resamples", () => {
    expect([isFromMoments(evidence), isNeverResampled(evidence)]).toEqual([true, true]);
    const { blocks } = composeReport({ evidence, definition, data: null }, completeChoices({}));
    const prose = JSON.stringify(blocks);
    expect(prose).toContain("rests on the means and covariances of 120");
    expect(prose).not.toContain("The data hold");
    const settings = { ...evidence.settings, replications: 100 };
    expect(isNeverResampled({ settings, warnings: evidence.warnings })).toBe(true);
    expect(isNeverResampled({ settings, warnings: [] })).toBe(false);
    expect(isNeverResampled({ settings: { ...settings, replications: 0 }, warnings: [] })).toBe(
      true,
    );
  });

  it("refuses what needs third moments or single rows, and says what", () => {
    expect(codeOf(["H1: w strengthens x to y"])).toBe("needs_rows");
    expect(codeOf(["H1: x strengthens x to y"])).toBe("needs_rows");
    expect(codeOf(["H1: w alters x to y through m on x to m"])).toBe("needs_rows");
    expect(
      codeOf(theory, {
        filters: [{ name: "slips", active: true, rule: { kind: "condition", formula: "x > 3" } }],
      }),
    ).toBe("needs_rows");
    expect(
      codeOf(theory, {
        filters: [{ name: "slips", active: false, rule: { kind: "rows", rows: [3] } }],
      }),
    ).toBeNull();
    expect(codeOf(theory, { corrections: [{ column: "x", row: 1, from: "1", to: "2" }] })).toBe(
      "needs_rows",
    );
    expect(codeOf(theory, { derived: [{ name: "lx", recipe: { kind: "rank", of: "x" } }] })).toBe(
      "needs_rows",
    );
    expect(
      codeOf(["H1: x2 raises y"], {
        derived: [{ name: "x2", recipe: { kind: "rescale", of: "x", per: 10 } }],
      }),
    ).toBeNull();
    try {
      const { definition: d, table: t } = study(["H1: w strengthens x to y"]);
      analyse(d, t);
      expect.unreachable();
    } catch (error) {
      expect((error as StudyProblem).message).toMatch(/product of “x” and “w”.*rows.*H1/);
    }
  });

  it("keeps that correlations came without SDs through the file and back", () => {
    expect(table.moments!.standardised).toBe(true);
    const back = readStudy(writeStudy({ definition, table }));
    expect(back.table.moments).toEqual(table.moments);
    expect(evidence.warnings.find((w) => w.code === "moments_only")!.message).toContain(
      "standard deviations",
    );
    const sds = readStudy(
      JSON.stringify({
        format: "hebel-study",
        version: 1,
        data: { moments: { ...moments, sds: [1, 2, 3, 4] } },
        theory,
      }),
    );
    expect(sds.table.moments!.standardised).toBe(false);
    expect(readStudy(writeStudy(sds)).table.moments).toEqual(sds.table.moments);
  });

  it("draws Monte Carlo intervals of products, and ignores resampling settings", () => {
    const drawn = study(theory, {
      settings: { interval: "monte_carlo", replications: 5000, errors: "HC3" },
    });
    const found = analyse(drawn.definition, drawn.table);
    expect(found.bootstrap).toBeNull();
    expect(found.errors).toBe("classical");
    expect(found.hypotheses[0]!.claim).toMatchObject({ reference: "monte_carlo" });
  });
});

describe("a matrix that is none", () => {
  const said = (matrix: object): string => {
    const data = { moments: { names: ["x", "y"], n: 50, ...matrix } };
    try {
      readStudy(
        JSON.stringify({ format: "hebel-study", version: 1, data, theory: ["H1: x raises y"] }),
      );
      return "";
    } catch (error) {
      return String(error);
    }
  };
  it("is refused by name: a variance that is not above zero, rows that are no square", () => {
    expect(said({ covariance: [[1], [0.5, -2]] })).toContain("The variance of “y” is -2");
    expect(said({ covariance: [[0], [0, 1]] })).toContain("The variance of “x” is 0");
    expect(
      said({
        covariance: [
          [1, 0.5, 0.1],
          [0.5, 1, 0.2],
        ],
      }),
    ).toContain("Row 1 of the matrix (“x”) has 3 entries");
    expect(said({ covariance: [[1, 0.5], [0.5]] })).toContain("Row 1 of the matrix");
    expect(
      said({
        covariance: [
          [1, 0.5],
          [0.5, 1],
        ],
      }),
    ).toBe("");
    expect(said({ covariance: [[1], [0.5, 1]] })).toBe("");
  });

  it("of a sheet too: a row without its column, halves that differ", () => {
    const read =
      (...rows: string[]) =>
      () => {
        const table = new TableBuilder(["", "x", "y"]);
        for (const row of [...rows, "n,50,50"]) table.add(row.split(","));
        return readMatrix(table.build());
      };
    expect(read("x,1,0.5", "y,0.5,1", "z,0.1,0.2")).toThrow("a row “z” but no column");
    expect(read("x,1,0.4", "y,0.5,1")().correlation).toEqual([
      [1, 0.4],
      [0.5, 1],
    ]);
    expect(() => tableOfMoments(read("x,1,0.4", "y,0.5,1")())).toThrow("Which is right?");
    expect(read("x,1,", "y,0.5,1")().correlation).toEqual([[1], [0.5, 1]]);
  });

  it("what needs single people is refused or said to be replaced, never passed over", () => {
    const latent = ["measure F reflects x, w, m", "H1: F raises y"];
    expect(codeOf(latent, { settings: { options: { bollen_stine: 200 } } })).toBe("needs_raw_data");
    const { definition, table } = study(["H1: x raises y through m"], {
      settings: { interval: "bca", replications: 2000 },
    });
    const [h] = analyse(definition, table).hypotheses;
    expect(h!.cautions.map((c) => c.message).join()).toContain("nothing can be resampled");
  });
});
