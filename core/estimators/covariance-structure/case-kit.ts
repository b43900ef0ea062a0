import type { Arrow } from "./arrows";
import { residualMatrices } from "./fit-measures";
import { fitModel, type FittedModel } from "./fit-model";
import { improperSolutions } from "./improper";
import { momentsCompared } from "./model-fit";
import { parameterTable } from "./parameter-table";
import { scoreTests } from "./score-tests";
import type { Estimator, Specification } from "./specification";

// What tests of this folder share: models as expected files state them, and everything such a file
// lists beside what was found.

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are read as they stand in the files */

/** Collects what differs. */
interface DifferenceList {
  list: string[];
  same(what: string, found: number | null | undefined, wanted: number | null): void;
}

/** “a -> b”, “a <-> b”, “1 -> b” of the expected files as an arrow. */
export function arrowOf(text: string, label: string | null, value = 0): Arrow {
  const both = text.includes("<->");
  const [from, to] = text.split(both ? " <-> " : " -> ") as [string, string];
  const kind = both ? "covariance" : from === "1" ? "intercept" : "path";
  return { kind, from: kind === "intercept" ? "" : from, to, label, value };
}

/** An arrow of a small model; fixed ones are held at one. */
export const arrow = (
  kind: Arrow["kind"],
  from: string,
  to: string,
  label: string | null,
): Arrow => ({ kind, from, to, label, value: 1 });

/** The model of a case as it is stated there. */
export function specOf(model: any, estimator: Estimator = "ml"): Specification {
  const names: string[] = model.groups ?? ["all"];
  return {
    observed: model.observed,
    latent: model.latent,
    groups: names.map((name) => ({
      name,
      arrows: model.arrows
        .filter((a: any) => !a.group || a.group === name)
        .map((a: any) => arrowOf(a.arrow, a.free ? a.parameter : null, a.value ?? 0)),
    })),
    means: model.mean_structure,
    estimator,
    convention: "normal",
  };
}

/** A model of one group, fitted to the columns of a file. */
export const fitTo = (
  spec: Specification,
  data: Map<string, Float64Array>,
  momentsOnly = false,
): FittedModel =>
  fitModel(spec, { groups: [spec.observed.map((name) => data.get(name)!)], momentsOnly });

export function checkFit(out: DifferenceList, { fit }: FittedModel, wanted: any): void {
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

export function checkEstimates(
  out: DifferenceList,
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

export function checkScores(out: DifferenceList, model: FittedModel, wanted: any[]): void {
  const found = scoreTests(model);
  for (const test of wanted) {
    const mirror = test.arrow.split(" <-> ").reverse().join(" <-> ");
    const own = found.find((f) => f.arrow === test.arrow || f.arrow === mirror);
    out.same(`${test.arrow} mi`, own?.mi, test.mi);
    out.same(`${test.arrow} epc`, own?.epc, test.epc);
    out.same(`${test.arrow} sepc`, own?.sepc, test.sepc);
  }
}

export function checkResiduals(out: DifferenceList, model: FittedModel, wanted: any): void {
  const { correlation, normalised } = residualMatrices(momentsCompared(model)[0]!);
  wanted.correlation_residuals.forEach((row: number[], i: number) =>
    row.forEach((r, j) => {
      out.same(`r ${i} ${j}`, correlation[i]![j], r);
      out.same(`normalised ${i} ${j}`, normalised[i]![j], wanted.normalised_residuals[i][j]);
    }),
  );
}

/** Everything that a result of a case lists, of one group. */
export function differences(
  out: DifferenceList,
  model: FittedModel,
  wanted: any,
  errors: "expected" | "observed" | "robust" = "expected",
): string[] {
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
    const listed = wanted.warnings.map((w: any) => w.code as string);
    if (codes.sort().join() !== listed.sort().join()) out.list.push(`warnings: ${codes.join()}`);
  }
  return out.list;
}
