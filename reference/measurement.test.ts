import { describe, expect, it } from "vitest";
import { dataEvidence, type DataEvidence, type Reliability } from "../core";
import { averageVarianceExtracted, compositeReliability } from "../core/measures";
import { feldt } from "../core/measures/reliability";
import { readStudy } from "../formats";
import { agrees, expectedOf, readCase } from "./load";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */
function screened(name: string): DataEvidence {
  const { definition, table } = readStudy(readCase(name, "study.hebel.json"), (path) =>
    readCase(name, path),
  );
  return dataEvidence(definition, table);
}

function expectAll(
  pairs: [string, number | null | undefined, number | null][],
  relative = 1e-6,
): void {
  const wrong = pairs.filter(([, found, expected]) => !agrees(found, expected, relative, 1e-8));
  expect(wrong).toEqual([]);
}

function expectReliability(found: Reliability, expected: any): void {
  expect([found.n, found.k]).toEqual([expected.n, expected.k]);
  expectAll([
    ["alpha", found.alpha, expected.alpha],
    ["lower", found.alphaCi![0], expected.alpha_ci_feldt[0]],
    ["upper", found.alphaCi![1], expected.alpha_ci_feldt[1]],
    ["standardised", found.alphaStandardised, expected.alpha_standardised],
    ["mean r", found.meanInterItemCorrelation, expected.mean_inter_item_correlation],
    ...found.itemStatistics.flatMap((s): [string, number | null, number | null][] => {
      const e = expected.items[s.item];
      return [
        [`${s.item} mean`, s.mean, e.mean],
        [`${s.item} sd`, s.sd, e.sd],
        [`${s.item} item-total`, s.correctedItemTotal, e.corrected_item_total],
        [`${s.item} smc`, s.squaredMultipleCorrelation, e.squared_multiple_correlation],
        [`${s.item} dropped`, s.alphaIfDropped, e.alpha_if_deleted],
      ];
    }),
  ]);
  const { omega } = found;
  if (expected.omega === null) expect(omega).toBeNull();
  else {
    expectAll(
      [
        ["omega", omega!.total, expected.omega.omega_total],
        ["omega standardised", omega!.totalStandardised, expected.omega.omega_total_standardised],
        ...omega!.loadings.map((l, i): [string, number, number] => [
          `loading ${i}`,
          l,
          expected.omega.loadings_standardised[i],
        ]),
        ...omega!.loadingsRaw.map((l, i): [string, number, number] => [
          `raw loading ${i}`,
          l,
          expected.omega.loadings_raw[i],
        ]),
        ...omega!.uniquenessesRaw.map((u, i): [string, number, number] => [
          `uniqueness ${i}`,
          u,
          expected.omega.uniquenesses_raw[i],
        ]),
        ["F", omega!.discrepancy, expected.omega.discrepancy],
        ["chi-squared", omega!.test?.chiSquare, expected.omega.chi_square_bartlett ?? null],
        ["df", omega!.test?.df, expected.omega.df ?? null],
        ["p", omega!.test?.p, expected.omega.p ?? null],
        ["CR", omega!.compositeReliability, expected.composite_reliability_from_ml_loadings],
        ["AVE", omega!.ave, expected.ave_from_ml_loadings],
      ],
      1e-5,
    );
    expect(omega!.heywood).toBe(expected.omega.heywood);
  }
  if ("spearman_brown" in expected)
    expectAll([["Spearman-Brown", found.spearmanBrown, expected.spearman_brown]]);
  // Loadings of both signs are reported as well, which the expected list leaves out.
  const codes = found.warnings.filter((w) => w.code !== "mixed_sign_loadings");
  expect(codes.map((w) => ({ code: w.code.toUpperCase(), names: w.about }))).toEqual(
    expected.warnings,
  );
}

describe("reliability of batteries", () => {
  const expected = expectedOf("reliability-batteries");
  const { measures } = screened("reliability-batteries");

  it.each([
    ["wellbeing", "wellbeing_five_items"],
    ["joy", "joy_two_items"],
    ["calm", "calm_three_items_of_different_scale"],
  ])("%s", (name, key) => {
    expectReliability(measures.find((m) => m.name === name)!.reliability.value!, expected[key]);
  });

  it("other levels of the interval, and given loadings", () => {
    const { alpha, n, k } = measures[0]!.reliability.value!;
    const [lower, upper] = feldt(alpha!, n, k, 0.9);
    const given = expected.from_given_loadings;
    expectAll([
      ["lower", lower, expected.wellbeing_feldt_90_percent[0]],
      ["upper", upper, expected.wellbeing_feldt_90_percent[1]],
      ["CR", compositeReliability(given.loadings), given.composite_reliability],
      ["AVE", averageVarianceExtracted(given.loadings), given.ave],
    ]);
  });
});

describe("a Likert battery", () => {
  const expected = expectedOf("likert-battery");
  const data = screened("likert-battery");
  const measure = (name: string) => data.measures.find((m) => m.name === name)!;

  it("before and after reversing", () => {
    expectReliability(measure("raw").reliability.value!, expected.reliability_before_reversing);
    expectReliability(measure("mean80").reliability.value!, expected.reliability_after_reversing);
  });

  it("straight answers, raw and in order", () => {
    const { longestRun, withinPersonSd, flaggedRows } = measure("mean80").straightLining.value!;
    expect(longestRun).toEqual(expected.straightlining_raw.longest_run);
    expect(flaggedRows).toEqual(expected.straightlining_raw.flagged_rows.map((r: number) => r + 1));
    expectAll(
      withinPersonSd.map((sd, i) => [
        `sd ${i}`,
        sd,
        expected.straightlining_raw.within_person_sd[i],
      ]),
    );
  });

  it.each([
    ["mean80", "score_mean_80_percent"],
    ["sum80", "score_sum_80_percent"],
    ["mean60", "score_mean_60_percent"],
    ["complete", "score_mean_complete_only"],
  ])("scores %s", (name, key) => {
    expectAll(measure(name).scores.value!.map((score, i) => [`row ${i}`, score, expected[key][i]]));
  });

  it("joint normality of the reversed items", () => {
    const found = data.sets[0]!.mardia.value!;
    const e = expected.mardia;
    expectAll([
      ["n", found.n, e.n],
      ["b1", found.skewness, e.skewness],
      ["chi", found.skewnessChiSquare, e.skewness_chi_square],
      ["df", found.skewnessDf, e.skewness_df],
      ["p", found.skewnessP, e.skewness_p],
      ["chi small", found.skewnessChiSquareSmallSample, e.skewness_chi_square_small_sample],
      ["p small", found.skewnessPSmallSample, e.skewness_p_small_sample],
      ["b2", found.kurtosis, e.kurtosis],
      ["z", found.kurtosisZ, e.kurtosis_z],
      ["p kurtosis", found.kurtosisP, e.kurtosis_p],
    ]);
  });
});

describe("missing values", () => {
  const expected = expectedOf("missing-mcar");
  const [set, complete] = screened("missing-mcar").sets;

  it("patterns", () => {
    expect(Object.fromEntries(set!.patterns.patterns.map((p) => [p.key, p.count]))).toEqual(
      expected.patterns,
    );
    expect(set!.patterns.completeRows).toBe(expected.complete_rows);
  });

  it("Little's test", () => {
    const found = set!.little.value!;
    const e = expected.little;
    expect([found.n, found.rowsAllMissing, found.patterns, found.df]).toEqual([
      e.n,
      e.rows_all_missing,
      e.patterns,
      e.df,
    ]);
    expectAll(
      [
        ["d2", found.d2, e.d2],
        ["p", found.p, e.p],
        ["d2 ML", found.d2MlCovariance, e.d2_ml_covariance],
        ["p ML", found.pMlCovariance, e.p_ml_covariance],
        ["log-likelihood", found.observedLogLikelihood, e.observed_loglik],
        ...found.emMean.map((m, i): [string, number, number] => [`mean ${i}`, m, e.em_mean[i]]),
        ...found.emCovariance.flatMap((row, i) =>
          row.map((c, j): [string, number, number] => [`cov ${i} ${j}`, c, e.em_covariance[i][j]]),
        ),
      ],
      1e-5,
    );
  });

  it("nothing missing", () => {
    const found = complete!.little.value!;
    expect([found.d2, found.df, found.p]).toEqual([0, 0, null]);
    expect(found.warnings.map((w) => w.code)).toEqual(["no_missing"]);
  });
});

describe("screening of mixed variables", () => {
  const expected = expectedOf("screening-mixed-variables");
  const data = screened("screening-mixed-variables");

  it("descriptives", () => {
    const keys: [string, string][] = [
      ["rows", "rows"],
      ["n", "n"],
      ["missing", "missing"],
      ["missingShare", "missing_share"],
      ["mean", "mean"],
      ["sd", "sd"],
      ["min", "min"],
      ["max", "max"],
      ["median", "median"],
      ["distinct", "distinct"],
      ["skewness", "skewness"],
      ["skewnessSe", "skewness_se"],
      ["excessKurtosis", "excess_kurtosis"],
      ["excessKurtosisSe", "excess_kurtosis_se"],
    ];
    for (const [name, e] of Object.entries<any>(expected.variables)) {
      const found = data.descriptives[name]! as any;
      expectAll(keys.map(([own, theirs]) => [`${name} ${own}`, found[own], e[theirs]]));
      expect(found.zeroVariance).toBe(e.zero_variance);
    }
  });

  it("robust outliers", () => {
    for (const [name, e] of Object.entries<any>(expected.robust_outliers)) {
      const { outliers } = data.descriptives[name]!;
      expect([outliers.rule, outliers.rows]).toEqual([e.rule, e.rows.map((r: number) => r + 1)]);
      expectAll([
        ["median", outliers.median, e.median],
        ["mad", outliers.mad, e.mad],
        ["scale", outliers.scale, e.scale],
        ...outliers.z.map((z, i): [string, number, number] => [`${name} z ${i}`, z, e.z[i]]),
      ]);
    }
  });

  it.each(["pairwise", "listwise"] as const)("%s correlations", (deletion) => {
    const table = data.sets[0]!.correlations[deletion];
    for (const [pair, e] of Object.entries<any>(expected[`correlations_${deletion}`])) {
      if (!pair.includes(",")) continue;
      const names = pair.split(",");
      const cell = table.cells.find((c) => names.includes(c.x) && names.includes(c.y))!;
      for (const kind of ["pearson", "spearman"] as const) {
        const found = cell[kind]!;
        expectAll([
          [`${pair} r`, found.r, e[kind].r],
          [`${pair} n`, found.n, e[kind].n],
          [`${pair} t`, found.t, e[kind].t],
          [`${pair} lower`, found.ci![0], e[kind].ci[0]],
          [`${pair} upper`, found.ci![1], e[kind].ci[1]],
        ]);
        // A p below 1e-12 only has to agree to four digits.
        expect(agrees(found.p, e[kind].p, e[kind].p < 1e-12 ? 1e-4 : 1e-6, 0)).toBe(true);
      }
    }
  });

  it("distances", () => {
    const found = data.sets[1]!.mahalanobis.value!;
    const e = expected.mahalanobis;
    expect([found.n, found.df]).toEqual([e.n, e.df]);
    expect(found.top.map((r) => r.row)).toEqual(e.top5.map((r: any) => r.row + 1));
    expectAll(found.top.map((r, i) => [`d2 ${i}`, r.d2, e.top5[i].d2]));
    expect(
      found.top.every((r, i) => agrees(r.p, e.top5[i].p, e.top5[i].p < 1e-12 ? 1e-4 : 1e-6, 0)),
    ).toBe(true);
    expect(found.flagged.map((r) => r.row)).toEqual(e.flagged_rows.map((r: number) => r + 1));
    expectAll([["sum", found.sum, e.sum_d2]]);
  });

  it("names the variable that never varies", () => {
    const set = data.sets[2]!;
    expect(set.correlations.pairwise.cells[0]!.lacking!.constant).toEqual(["site_code"]);
    expect(set.mahalanobis.problem).toMatchObject({
      code: "constant_variable",
      variables: ["site_code"],
    });
  });
});

describe("discriminant validity", () => {
  it("HTMT and HTMT2", () => {
    const expected = expectedOf("discriminant-validity");
    const { ratios, n } = screened("discriminant-validity").validity!.value!;
    expect(n).toBe(expected.n);
    expect(ratios).toHaveLength(Object.keys(expected.htmt).length);
    expectAll(
      ratios.flatMap((r): [string, number | null, number][] => [
        [`${r.first},${r.second}`, r.htmt, expected.htmt[`${r.first},${r.second}`]],
        [`${r.first},${r.second} 2`, r.htmt2, expected.htmt2[`${r.first},${r.second}`]],
      ]),
    );
  });
});
/* eslint-enable @typescript-eslint/no-explicit-any */
