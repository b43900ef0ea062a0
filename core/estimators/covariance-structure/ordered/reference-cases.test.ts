import { describe, expect, it } from "vitest";
import { Differences } from "../../../../reference/latent-load";
import { orderedColumnOf, orderedExpected } from "../../../../reference/ordered-load";
import type { OrderedColumn } from "../../../ordered";
import { arrowOf, checkScores } from "../case-kit";
import { fitModel, type FittedModel } from "../fit-model";
import { parameterTable } from "../parameter-table";
import type { Estimator, Specification } from "../specification";
import { omegaOfAnswers } from "./answers";
import { orderedDifference } from "./difference";
import { predictedShares } from "./predicted";
import { thresholdsOf } from "./thresholds";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are read as they stand in the files */

const ESTIMATORS: Record<string, Estimator> = { DWLS: "dwls", ULS: "uls", WLS: "adf" };

/** The model of a case; dependent variances are arrows of their own. */
const specOf = (model: any, estimator: Estimator): Specification => ({
  observed: model.observed,
  ordered: model.ordered,
  latent: model.latent,
  groups: [
    {
      name: "all",
      arrows: model.arrows.map((a: any) =>
        arrowOf(a.arrow, a.free || a.dependent ? (a.parameter ?? a.arrow) : null, a.value ?? 0),
      ),
    },
  ],
  means: true,
  estimator,
  convention: "normal",
});

const fitted = (name: string, model: any, estimator: Estimator = "dwls"): FittedModel =>
  fitModel(specOf(model, estimator), {
    groups: [model.observed.map((column: string) => orderedColumnOf(name, column))],
    momentsOnly: false,
  });

const mirrored = (arrow: string): string => arrow.split(" <-> ").reverse().join(" <-> ");

function checkArrows(out: Differences, model: FittedModel, wanted: any): void {
  const rows = parameterTable(model, "robust");
  for (const [arrow, numbers] of Object.entries<any>(wanted.estimates)) {
    const row = rows.find((r) => r.arrow === arrow || r.arrow === mirrored(arrow));
    out.same(arrow, row?.estimate, numbers.est);
    if (numbers.se !== undefined) out.same(`${arrow} se`, row?.se.robust, numbers.se);
    out.same(`${arrow} standardised`, row?.full.estimate, numbers.std_full);
    if (numbers.std_full_se > 1e-9) out.same(`${arrow} its se`, row?.full.se, numbers.std_full_se);
  }
  const { observed } = model.spec;
  const found = thresholdsOf(model.ordered!, model.spec.estimator === "adf");
  for (const [name, list] of Object.entries<any>(wanted.thresholds ?? {}))
    list.forEach((wantedOne: any, at: number) => {
      if (wantedOne.est === undefined) return;
      const own = found.find((t) => t.at === at && observed[t.variable] === name);
      out.same(`${name} threshold ${at}`, own?.estimate, wantedOne.est);
      out.same(`${name} threshold ${at} se`, own?.se, wantedOne.se);
    });
}

function checkShifted(out: Differences, { fit }: FittedModel, wanted: any): void {
  out.same("T", fit.plain.chi2, wanted.T);
  out.same("df", fit.plain.df, wanted.df);
  out.same("srmr", fit.srmr, wanted.srmr);
  const { scaled_shifted: shifted, mean_adjusted: adjusted, baseline } = wanted;
  if (!shifted) return;
  const own = fit.shifted!;
  out.same("trace 1", own.traces.first, wanted.trace_1);
  out.same("trace 2", own.traces.second, wanted.trace_2);
  out.same("scale", own.scale, shifted.scale);
  out.same("shift", own.shift, shifted.shift);
  out.same("chi2", own.chi2, shifted.chi2);
  out.same("p", own.p, shifted.p);
  out.same("cfi", own.cfi, shifted.cfi);
  out.same("tli", own.tli, shifted.tli);
  out.same("rmsea", own.rmsea, shifted.rmsea);
  out.same("rmsea low", own.rmseaLimits[0], shifted.rmsea_ci90[0]);
  out.same("rmsea high", own.rmseaLimits[1], shifted.rmsea_ci90[1]);
  out.same("close", own.closeFit, shifted.close_fit_p);
  out.same("mean adjusted", own.meanAdjusted.chi2, adjusted.chi2);
  out.same("its p", own.meanAdjusted.p, adjusted.p);
  out.same("baseline", own.baseline.chi2, baseline.scaled_shifted.chi2);
}

function omegaOf({ implied, ordered, spec }: FittedModel, items: string[], loadings: number[]) {
  const { Sigma, p } = implied[0]!;
  const at = items.map((item) => spec.observed.indexOf(item));
  return omegaOfAnswers(
    at.map((i) => (ordered!.staged.columns[i] as OrderedColumn).thresholds),
    loadings,
    at.map((i) => at.map((j) => Sigma[i * p + j]!)),
  );
}

function differencesOf(model: FittedModel, wanted: any): string[] {
  const out = new Differences();
  checkArrows(out, model, wanted);
  checkShifted(out, model, wanted.fit);
  if (wanted.modification_indices) checkScores(out, model, wanted.modification_indices);
  for (const own of Object.values<any>(wanted.reliability ?? {}))
    if (own.items) out.same("omega", omegaOf(model, own.items, own.loadings), own.omega_answers);
  return out.list;
}

describe("models with ordered answers", () => {
  it.each([
    ["three-factor-mediation-likert", (e: any) => [[e.model, "DWLS", e.result]]],
    [
      "mixed-numeric-and-ordered",
      (e: any) => [
        ...Object.keys(ESTIMATORS).map((k) => [e.model, k, e[k]]),
        [e.ordered_outcome.model, "DWLS", e.ordered_outcome.result],
      ],
    ],
    [
      "binary-items-two-factors",
      (e: any) => [
        [e.model, "DWLS", e.DWLS],
        [e.model, "ULS", e.ULS],
        [e.path_model.model, "DWLS", e.path_model.result],
      ],
    ],
    ["one-factor-five-levels", (e: any) => Object.keys(ESTIMATORS).map((k) => [e.model, k, e[k]])],
  ] as [string, (e: any) => [any, string, any][]][])(
    "%s is what another implementation finds",
    (name, pick) => {
      for (const [model, estimator, wanted] of pick(orderedExpected(name)))
        expect(differencesOf(fitted(name, model, ESTIMATORS[estimator]), wanted)).toEqual([]);
    },
  );

  it.each(["four_levels", "four_levels_with_residual_covariance", "two_levels", "five_skewed"])(
    "reliability of the answers, %s",
    (which) => {
      const wanted = orderedExpected("omega-of-answers")[which];
      const items: string[] = wanted.items ?? wanted.reliability.items;
      const arrows = wanted.arrows.map((text: string) => {
        const [arrow, value] = text.split(" = ");
        return value === undefined ? { arrow, free: true } : { arrow, free: false, value: 1 };
      });
      const own = items.map((item) => ({ arrow: `${item} <-> ${item}`, dependent: true }));
      const model = { observed: items, ordered: items, latent: ["f"], arrows: [...arrows, ...own] };
      const found = fitted("omega-of-answers", model);
      expect(differencesOf(found, { ...wanted, reliability: {}, thresholds: undefined })).toEqual(
        [],
      );
      const { loadings, omega_answers } = wanted.reliability;
      expect(omegaOf(found, items, loadings)).toBeCloseTo(omega_answers, 7);
    },
  );

  it("differences of nested models are scaled and shifted at the larger one", () => {
    const name = "three-factor-mediation-likert";
    const e = orderedExpected(name);
    const larger = fitted(name, e.model);
    const without = (...gone: string[]): FittedModel =>
      fitted(name, {
        ...e.model,
        arrows: e.model.arrows.filter((a: any) => !gone.includes(a.arrow)),
      });
    const { difference: one } = e.without_direct_path;
    const found = orderedDifference(without("skill -> wellbeing"), larger)!;
    expect(found.df).toBe(1);
    expect(found.chi2 / one.T_difference).toBeCloseTo(1, 6);
    expect(found.scaled!.chi2 / one.chi2).toBeCloseTo(1, 6);
    expect(found.p).toBeCloseTo(one.p, 6);
    // The other file states the traces of two restrictions beside the statistic of one of them:
    // each is checked against the model that it belongs to.
    const { difference: two, fit } = e.without_b_and_direct_path;
    const b = without("belonging -> wellbeing");
    expect(b.fit.plain.chi2 / fit.T).toBeCloseTo(1, 6);
    expect(orderedDifference(b, larger)!.chi2 / two.T_difference).toBeCloseTo(1, 6);
    const both = orderedDifference(
      without("skill -> wellbeing", "belonging -> wellbeing"),
      larger,
    )!;
    expect(both.df).toBe(2);
    expect((2 * both.scaled!.scaling) / two.trace_1).toBeCloseTo(1, 6);
    expect(both.scaled!.chi2).toBeCloseTo(two.scale * both.chi2 + two.shift, 3);
  });

  it("shares of the highest level by the total effect, with limits", () => {
    const name = "mixed-numeric-and-ordered";
    const { model, result } = orderedExpected(name).ordered_outcome;
    const found = fitted(name, model);
    const [only] = predictedShares(
      found,
      found.ordered!,
      thresholdsOf(found.ordered!, false),
      0.95,
    );
    expect(only).toMatchObject({ outcome: "renew", predictor: "years" });
    result.top_level_probability_total_effect.forEach((wanted: any, k: number) => {
      const { shares, topLower, topUpper } = only!.at[k]!;
      expect(shares.at(-1)).toBeCloseTo(wanted.probability, 8);
      expect(topLower).toBeCloseTo(wanted.ci95[0], 7);
      expect(topUpper).toBeCloseTo(wanted.ci95[1], 7);
      expect(shares.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 12);
    });
  });
});
