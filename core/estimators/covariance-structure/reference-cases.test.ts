import { describe, expect, it } from "vitest";
import { tableOfMoments } from "../../data";
import type { Moments } from "../../data/table";
import type { Arrow, ModelFault } from "./arrows";
import { arrowOf, columnsOf, Differences, expectedOf, fitTo, specOf } from "./case-kit";
import type { Specification } from "./specification";
import { fitModel, type FittedModel } from "./fit-model";
import { parameterTable } from "./parameter-table";
import { scoreTests } from "./score-tests";
import { residualMatrices } from "./fit-measures";
import { momentsCompared } from "./model-fit";
import { improperSolutions } from "./improper";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are read as they stand in the files */

function checkFit(out: Differences, { fit }: FittedModel, wanted: any): void {
  const { plain, criteria } = fit;
  out.same("chi2", plain.chi2, wanted.chi2);
  out.same("df", plain.df, wanted.df);
  out.same("p", plain.p, wanted.p);
  out.same("F", fit.discrepancy, wanted.f_min);
  out.same("baseline", plain.baseline.chi2, wanted.baseline.chi2);
  out.same("cfi", plain.cfi, wanted.cfi);
  out.same("tli", plain.tli, wanted.tli);
  out.same("rmsea", plain.rmsea, wanted.rmsea);
  out.same("rmsea low", plain.rmseaLimits[0], wanted.rmsea_ci90[0]);
  out.same("rmsea high", plain.rmseaLimits[1], wanted.rmsea_ci90[1]);
  out.same("close", plain.closeFit, wanted.close_fit_p);
  out.same("srmr", fit.srmr, wanted.srmr);
  out.same("srmr cov", fit.srmrCovariances, wanted.srmr_covariances_only);
  if (wanted.loglik !== undefined) {
    out.same("logL", criteria!.logLikelihood, wanted.loglik);
    out.same("saturated", criteria!.saturated, wanted.loglik_saturated);
    out.same("baseline logL", criteria!.baseline, wanted.loglik_baseline);
    out.same("aic", criteria!.aic, wanted.aic);
    out.same("bic", criteria!.bic, wanted.bic);
    out.same("sabic", criteria!.sabic, wanted.sabic);
  }
  for (const [name, found] of [
    ["satorra_bentler", fit.satorraBentler],
    ["yuan_bentler", fit.yuanBentler],
  ] as const) {
    const scaled = wanted.scaled?.[name];
    if (!scaled) continue;
    out.same(`${name} scaling`, found?.scaling, scaled.scaling);
    out.same(`${name} chi2`, found?.chi2, scaled.chi2);
    out.same(`${name} p`, found?.p, scaled.p);
    out.same(`${name} baseline`, found?.baseline.chi2, scaled.baseline.chi2);
    out.same(`${name} cfi`, found?.cfi, scaled.cfi);
    out.same(`${name} tli`, found?.tli, scaled.tli);
    out.same(`${name} rmsea`, found?.rmsea, scaled.rmsea);
    out.same(`${name} high`, found?.rmseaLimits[1], scaled.rmsea_ci90[1]);
    out.same(`${name} robust cfi`, found?.robust.cfi, scaled.robust.cfi);
    out.same(`${name} robust tli`, found?.robust.tli, scaled.robust.tli);
    out.same(`${name} robust rmsea`, found?.robust.rmsea, scaled.robust.rmsea);
    out.same(`${name} robust high`, found?.robust.rmseaLimits[1], scaled.robust.rmsea_ci90[1]);
  }
}

function checkEstimates(
  out: Differences,
  model: FittedModel,
  group: number,
  wanted: any,
  errors: "expected" | "observed" | "robust",
): void {
  const rows = parameterTable(model, errors).filter(
    (r) => r.group === model.spec.groups[group]!.name,
  );
  for (const [arrow, numbers] of Object.entries<any>(wanted)) {
    const found = rows.find(
      (r) => r.arrow === arrow || r.arrow === arrow.split(" <-> ").reverse().join(" <-> "),
    );
    if (!found) {
      out.list.push(`${arrow} is missing`);
      continue;
    }
    out.same(arrow, found.estimate, numbers.est);
    for (const kind of [
      "expected",
      "observed",
      "robust",
      "robust_expected",
      "naive",
      "normal_theory",
    ] as const)
      if (numbers[`se_${kind}`] !== undefined)
        out.same(`${arrow} se ${kind}`, found.se[kind], numbers[`se_${kind}`]);
    out.same(`${arrow} full`, found.full.estimate, numbers.std_full);
    out.same(`${arrow} latent`, found.latent.estimate, numbers.std_latent);
    if (numbers.std_full_se !== undefined)
      out.same(`${arrow} full se`, found.full.se, numbers.std_full_se);
    if (numbers.std_latent_se !== undefined)
      out.same(`${arrow} latent se`, found.latent.se, numbers.std_latent_se);
  }
}

function checkScores(out: Differences, model: FittedModel, wanted: any[]): void {
  const found = scoreTests(model);
  for (const test of wanted) {
    const mirror = test.arrow.split(" <-> ").reverse().join(" <-> ");
    const own = found.find((f) => f.arrow === test.arrow || f.arrow === mirror);
    out.same(`${test.arrow} mi`, own?.mi, test.mi);
    out.same(`${test.arrow} epc`, own?.epc, test.epc);
    out.same(`${test.arrow} sepc`, own?.sepc, test.sepc);
  }
}

function checkResiduals(out: Differences, model: FittedModel, wanted: any): void {
  const { correlation, normalised } = residualMatrices(momentsCompared(model)[0]!);
  wanted.correlation_residuals.forEach((row: number[], i: number) =>
    row.forEach((r, j) => {
      out.same(`r ${i} ${j}`, correlation[i]![j], r);
      out.same(`normalised ${i} ${j}`, normalised[i]![j], wanted.normalised_residuals[i][j]);
    }),
  );
}

/** Everything that a result of a case lists, of one group. */
function differences(
  model: FittedModel,
  wanted: any,
  errors: "expected" | "observed" | "robust" = "expected",
): string[] {
  const out = new Differences();
  if (wanted.counts) {
    out.same("n", model.n, wanted.counts.n);
    out.same("moments", model.moments, wanted.counts.moments);
    out.same("q", model.parameters, wanted.counts.free_parameters);
  }
  checkFit(out, model, wanted.fit);
  if (wanted.estimates) checkEstimates(out, model, 0, wanted.estimates, errors);
  if (wanted.modification_indices) checkScores(out, model, wanted.modification_indices);
  if (wanted.residuals) checkResiduals(out, model, wanted.residuals);
  if (wanted.warnings) {
    const codes = improperSolutions(model).map((w) => w.code);
    expect(codes.sort()).toEqual(wanted.warnings.map((w: any) => w.code).sort());
  }
  return out.list;
}

describe("models of one group, complete data", () => {
  it.each([
    ["latent-simple-mediation", (e: any) => [[e.model, e.result]], "expected"],
    ["latent-parallel-mediation", (e: any) => [[e.model, e.result]], "expected"],
    ["fiml-15-percent", (e: any) => [[e.model, e.result]], "observed"],
    ["robust-skewed-items", (e: any) => [[e.model, e.result ?? e.full]], "robust"],
    ["observed-saturated-path", (e: any) => [[e.model, e.result]], "expected"],
    ["standardised-path-beyond-one", (e: any) => [[e.model, e.result]], "expected"],
    [
      "one-factor-wellbeing",
      (e: any) => [
        [e.model, e.marker],
        [e.unit_variance.model, e.unit_variance],
        [e.equal_loadings.model, e.equal_loadings],
      ],
      "expected",
    ],
    [
      "observed-path-modification",
      (e: any) => ["step1", "step2", "step3"].map((s) => [e[s].model, e[s]]),
      "expected",
    ],
    ["three-factor-measurement", (e: any) => [[e.model, e.step1]], "expected"],
    [
      "single-indicator-reliability",
      (e: any) => [e.reliability_given, e.reliability_one].map((s) => [s.model, s]),
      "expected",
    ],
    [
      "heywood-case",
      (e: any) => [e.model_one, e.model_two].map((s) => [s.model, s.result ?? s]),
      "expected",
    ],
  ] as [string, (e: any) => [any, any][], "expected" | "observed" | "robust"][])(
    "%s",
    (name, pick, errors) => {
      const data = columnsOf(name);
      const models = pick(expectedOf(name));
      expect(models.length).toBeGreaterThan(0);
      for (const [model, wanted] of models)
        expect(differences(fitTo(specOf(model), data), wanted, errors)).toEqual([]);
    },
  );
});

describe("weighted moments", () => {
  it.each([
    ["with_means", true],
    ["covariances_only", false],
  ])("%s", (part, means) => {
    const expected = expectedOf("estimators-gls-uls-adf-dwls");
    const data = columnsOf("estimators-gls-uls-adf-dwls");
    const out = new Differences();
    for (const [key, estimator] of [
      ["GLS", "gls"],
      ["ULS", "uls"],
      ["WLS", "adf"],
      ["DWLS", "dwls"],
    ] as const) {
      const wanted = expected[part][key];
      const model = fitTo({ ...specOf(expected.model, estimator), means }, data);
      out.same(`${key} F`, model.fit.discrepancy, wanted.fit.F);
      out.same(`${key} T`, model.fit.plain.chi2, wanted.fit.T);
      out.same(`${key} baseline`, model.fit.plain.baseline.chi2, wanted.fit.baseline.T);
      if (wanted.fit.cfi) out.same(`${key} tli`, model.fit.plain.tli, wanted.fit.tli);
      out.same(`${key} c`, model.fit.scaled?.scaling, wanted.fit.scaled.scaling);
      out.same(`${key} c_b`, model.fit.scaled?.baseline.chi2, wanted.fit.scaled.baseline.chi2);
      out.same(`${key} p`, model.fit.scaled?.p, wanted.fit.scaled.p);
      out.same(`${key} srmr`, model.fit.srmr, wanted.fit.srmr);
      checkEstimates(out, model, 0, wanted.estimates, "robust");
    }
    expect(out.list).toEqual([]);
  });
});

describe("two groups", () => {
  const expected = expectedOf("two-group-invariance");
  const data = columnsOf("two-group-invariance");
  const site = data.get("site")!;
  const of = (code: number, name: string): Float64Array =>
    data.get(name)!.filter((_, i) => site[i] === code);
  const fit = (part: any): FittedModel => {
    const spec = specOf(part.model);
    const groups = [1, 2].map((code) => spec.observed.map((name) => of(code, name)));
    return fitModel(spec, { groups, momentsOnly: false });
  };
  it.each(["configural", "metric", "scalar", "partial_scalar"])("%s", (step) => {
    const out = new Differences();
    const model = fit(expected[step]);
    checkFit(out, model, expected[step].fit);
    ["town", "village"].forEach((name, g) =>
      checkEstimates(out, model, g, expected[step].estimates[name], "expected"),
    );
    expect(out.list).toEqual([]);
  });
  it("releases intercepts one by one", () => {
    const tests = scoreTests(fit(expected.scalar)).filter((t) => t.kind === "release");
    const out = new Differences();
    for (const wanted of expected.release_of_intercepts_in_scalar_model) {
      const found = tests.find((t) => t.arrow === wanted.arrow);
      out.same(`${wanted.arrow} mi`, found?.mi, wanted.mi);
      out.same(`${wanted.arrow} epc`, found?.epc, wanted.epc_difference_from_common);
    }
    expect(out.list).toEqual([]);
  });
});

describe("matrices and models that must be refused", () => {
  const ability = (name: string): number[][] =>
    [...columnsOf("ability-tests-from-matrices", `${name}.csv`).values()].map((c) => [...c]);
  const names = (name: string): string[] => [
    ...columnsOf("ability-tests-from-matrices", `${name}.csv`).keys(),
  ];

  it.each([
    ["ability", 112],
    ["harman", 145],
  ])("one factor of %s from its matrix", (name, n) => {
    const wanted = expectedOf("ability-tests-from-matrices")[name].factors_1;
    const observed = names(name);
    const table = tableOfMoments({
      names: observed,
      n,
      means: observed.map(() => 0),
      covariance: ability(name),
    } as Moments);
    const data = new Map(
      table.columns.map((c) => [
        c.name,
        Float64Array.from(c.codes, (code) => Number(c.dictionary[code])),
      ]),
    );
    const spec = { ...specOf(wanted.model), observed };
    const model = fitTo(spec, data, true);
    // The sign of a factor is arbitrary.
    const out = new Differences();
    checkFit(out, model, wanted.fit);
    for (const row of parameterTable(model, "expected")) {
      const numbers = wanted.estimates[row.arrow];
      out.same(row.arrow, Math.abs(row.estimate), Math.abs(numbers.est));
      if (row.free) out.same(`${row.arrow} se`, row.se.expected, numbers.se_expected);
      if (row.free) out.same(`${row.arrow} observed`, row.se.observed, numbers.se_observed);
    }
    expect(out.list).toEqual([]);
  });

  const alienation = expectedOf("alienation-summary-statistics");
  it.each([
    ["without_correlated_errors", "wishart"],
    ["without_correlated_errors", "normal"],
    ["with_correlated_errors", "wishart"],
    ["with_correlated_errors", "normal"],
  ] as const)("alienation %s, %s", (part, convention) => {
    const { model, [convention]: wanted } = alienation[part];
    const covariance = [...columnsOf("alienation-summary-statistics", "covariance.csv").values()];
    const table = tableOfMoments({
      names: model.observed,
      n: 932,
      means: model.observed.map(() => 0),
      covariance: covariance.map((c) => [...c]),
    } as Moments);
    const data = new Map(
      table.columns.map((c) => [
        c.name,
        Float64Array.from(c.codes, (code) => Number(c.dictionary[code])),
      ]),
    );
    expect(differences(fitTo({ ...specOf(model), convention }, data, true), wanted)).toEqual([]);
  });

  it("a minimum that does not exist is no result", () => {
    const covariance = columnsOf("no-minimum-not-converged", "covariance.csv");
    const observed = [...covariance.keys()];
    const table = tableOfMoments({
      names: observed,
      n: 100,
      means: observed.map(() => 0),
      covariance: [...covariance.values()].map((c) => [...c]),
    } as Moments);
    const data = new Map(
      table.columns.map((c) => [
        c.name,
        Float64Array.from(c.codes, (code) => Number(c.dictionary[code])),
      ]),
    );
    for (const marker of [true, false]) {
      const arrows = [
        ...observed.map((name, i) =>
          arrowOf(`f -> ${name}`, marker && i === 0 ? null : `f -> ${name}`, 1),
        ),
        ...observed.map((name) => arrowOf(`${name} <-> ${name}`, `${name} v`)),
        arrowOf("f <-> f", marker ? "f v" : null, 1),
      ];
      const spec = {
        observed,
        latent: ["f"],
        groups: [{ name: "all", arrows }],
        means: false,
        estimator: "ml",
        convention: "normal",
      } as const;
      expect(() => fitTo({ ...spec, observed: [...observed] } as never, data, true)).toThrow(
        expect.objectContaining({ code: "not-converged" }),
      );
    }
  });

  const errors = expectedOf("under-identified-and-other-errors");
  it.each<[string, any]>(errors.models.slice(0, 8).map((m: any) => [m.title, m]))("%s", (_, stated) => {
    const data = columnsOf("under-identified-and-other-errors");
    const spec = withDefaults(stated);
    if (stated.error === null) {
      const model = fitTo(spec, data);
      expect(model.fit.plain.chi2).toBeCloseTo(stated.chi2, 5);
      expect(model.parameters).toBe(stated.free_parameters);
      return;
    }
    let fault: ModelFault | null = null;
    try {
      fitTo(spec, data);
    } catch (error) {
      fault = error as ModelFault;
    }
    expect(fault?.code).toBe(stated.error);
    for (const name of stated.message_must_name ?? []) expect(fault!.message).toContain(name);
    if (stated.rank !== undefined && stated.error === "under-identified") {
      expect(fault!.counts.rank).toBe(stated.rank);
      expect(stated.parameters_involved).toEqual(expect.arrayContaining([fault!.variables[0]]));
    }
  });

  it("full weights of too few cases", () => {
    const all = columnsOf("under-identified-and-other-errors");
    const observed = ["adv1", "adv2", "adv3", "adv4", "skl1", "skl2"];
    const data = new Map([...all].map(([name, column]) => [name, column.slice(0, 20)]));
    const stated = {
      observed,
      latent: ["f"],
      arrows: observed.map((name, i) => `f -> ${name}${i === 0 ? " = 1" : ""}`),
    };
    expect(() => fitTo({ ...withDefaults(stated), estimator: "adf" }, data)).toThrow(
      expect.objectContaining({ code: "adf-sample-too-small" }),
    );
  });
});

/** Arrows beyond the defaults of the specification: variances, exogenous covariances and intercepts are automatic. */
function withDefaults({ observed, latent, arrows }: any): Specification {
  const stated = arrows.map((text: string) => {
    const [arrow, value] = text.split(" = ") as [string, string | undefined];
    return arrowOf(arrow, value === undefined ? arrow : null, Number(value ?? 0));
  }) as Arrow[];
  const all: string[] = [...observed, ...latent];
  const explained = new Set(stated.filter((a) => a.kind === "path").map((a) => a.to));
  const exogenous = all.filter((name) => !explained.has(name));
  const has = (a: string, b: string): boolean =>
    stated.some(
      (s) =>
        s.kind === "covariance" && ((s.from === a && s.to === b) || (s.from === b && s.to === a)),
    );
  return {
    observed,
    latent,
    groups: [
      {
        name: "all",
        arrows: [
          ...stated,
          ...all.map((name) => arrowOf(`${name} <-> ${name}`, `${name} <-> ${name}`)),
          ...exogenous.flatMap((a, i) =>
            exogenous
              .slice(0, i)
              .filter((b) => !has(a, b))
              .map((b) => arrowOf(`${a} <-> ${b}`, `${a} <-> ${b}`)),
          ),
          ...observed.map((name: string) => arrowOf(`1 -> ${name}`, `1 -> ${name}`)),
        ],
      },
    ],
    means: true,
    estimator: "ml",
    convention: "normal",
  };
}
