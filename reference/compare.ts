import { ERRORS, type EffectEvidence, type EquationEvidence } from "../core";
import { agrees } from "./load";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

/** Collects disagreements, so that one failure names every number that is off. */
export class Ledger {
  readonly off: string[] = [];
  checked = 0;
  same(
    what: string,
    found: number | null | undefined,
    expected: number | null,
    relative = 1e-6,
  ): void {
    this.checked += 1;
    if (!agrees(found, expected, relative))
      this.off.push(`${what}: ${found} instead of ${expected}`);
  }
  within(
    what: string,
    found: number | null | undefined,
    expected: number,
    tolerance: number,
  ): void {
    this.checked += 1;
    if (found === null || found === undefined || !(Math.abs(found - expected) <= tolerance)) {
      this.off.push(`${what}: ${found} not within ${tolerance} of ${expected}`);
    }
  }
}

export function checkTest(ledger: Ledger, what: string, found: any, expected: any): void {
  if (!found) return void ledger.off.push(`${what}: missing`);
  for (const key of ["se", "t", "z", "p"])
    if (key in expected) ledger.same(`${what} ${key}`, found[key], expected[key]);
  if (expected.ci) {
    ledger.same(`${what} lower`, found.lower, expected.ci[0]);
    ledger.same(`${what} upper`, found.upper, expected.ci[1]);
  }
}

export function checkEquation(ledger: Ledger, found: EquationEvidence, expected: any): void {
  const at = expected.outcome;
  ledger.same(`${at} n`, found.n, expected.n);
  ledger.same(`${at} df`, found.dfResidual, expected.df_residual);
  for (const [mine, theirs] of [
    ["r2", "r2"],
    ["adjustedR2", "adj_r2"],
    ["residualVariance", "residual_variance"],
    ["residualSd", "residual_sd"],
    ["rss", "rss"],
  ] as const) {
    ledger.same(`${at} ${theirs}`, found[mine], expected[theirs]);
  }
  for (const [term, e] of Object.entries<any>(expected.coefficients)) {
    const c = found.coefficients.find((x) => x.term === term)!;
    ledger.same(`${at} ${term} b`, c.b, e.b);
    for (const kind of ERRORS) checkTest(ledger, `${at} ${term} ${kind}`, c.errors[kind], e[kind]);
    for (const key of ["beta", "vif", "tolerance", "semipartial"] as const)
      if (key in e) ledger.same(`${at} ${term} ${key}`, c[key], e[key]);
  }
  for (const kind of ERRORS) {
    ledger.same(`${at} F ${kind}`, found.modelF[kind]?.F, expected.model_F[kind].F);
    ledger.same(`${at} F p ${kind}`, found.modelF[kind]?.p, expected.model_F[kind].p);
  }
  if (expected.condition_number) {
    ledger.same(`${at} condition`, found.conditionNumber.scaled, expected.condition_number.scaled);
    ledger.same(
      `${at} condition centred`,
      found.conditionNumber.centred,
      expected.condition_number.centred,
    );
  }
  checkResiduals(ledger, found, expected.checks);
}

function checkResiduals(ledger: Ledger, found: EquationEvidence, e: any): void {
  const c = found.checks!;
  ledger.same("skewness", c.skewness, e.skewness_g1);
  ledger.same("kurtosis", c.excessKurtosis, e.excess_kurtosis_g2);
  ledger.same("G1", c.adjustedSkewness, e.skewness_G1);
  ledger.same("G2", c.adjustedExcessKurtosis, e.excess_kurtosis_G2);
  ledger.same("Shapiro-Wilk W", c.shapiroWilk?.W ?? null, e.shapiro_wilk.W);
  ledger.same("Shapiro-Wilk p", c.shapiroWilk?.p ?? null, e.shapiro_wilk.p, 1e-3);
  ledger.same("Breusch-Pagan", c.breuschPagan.statistic, e.breusch_pagan.LM);
  ledger.same("Breusch-Pagan p", c.breuschPagan.p, e.breusch_pagan.p);
  ledger.same("Koenker p", c.koenker.p, e.koenker.p);
  ledger.same("RESET", c.reset?.F, e.reset.F);
  ledger.same("high leverage", c.highLeverage, e.n_leverage_above_2p_over_n);
  ledger.same("high Cook", c.highCook, e.n_cook_above_4_over_n);
  ledger.same("outlier critical", c.outlierCritical, e.outlier_t_critical);
  ledger.same("outliers", c.outliers, e.n_outliers);
  e.top_cook.forEach((row: any, i: number) => {
    ledger.same(`Cook ${i} row`, c.topCook[i]!.row, row.row);
    ledger.same(`Cook ${i}`, c.topCook[i]!.cook, row.cook);
    ledger.same(`Cook ${i} t`, c.topCook[i]!.studentisedExternal, row.studentised_external);
  });
}

/** @param strata the other implementation centres leave-one-out values over all strata together, so its acceleration is another number */
export function checkBootstrapOf(
  ledger: Ledger,
  name: string,
  effect: EffectEvidence | undefined,
  e: any,
  strata = false,
): void {
  const found = effect?.bootstrap;
  if (e.se_tol !== null && e.se !== null) ledger.within(`${name} SE`, found?.se, e.se, e.se_tol);
  if (e.acceleration !== null && !strata)
    ledger.same(`${name} acceleration`, found?.acceleration, e.acceleration);
  for (const method of ["percentile", "bc", "bca"] as const) {
    if (!e[method]) continue;
    ledger.within(
      `${name} ${method} lower`,
      found?.[method]?.lower,
      e[method].low,
      e[method].tol_low,
    );
    ledger.within(
      `${name} ${method} upper`,
      found?.[method]?.upper,
      e[method].high,
      e[method].tol_high,
    );
  }
}

/** Delta-method tests of a function of coefficients. */
export function checkDelta(
  ledger: Ledger,
  name: string,
  found: EffectEvidence | undefined,
  e: any,
): void {
  ledger.same(name, found?.estimate, e.estimate);
  for (const kind of ["classical", "HC3"] as const) {
    for (const cross of ["joint", "zero"] as const) {
      const delta = e[`delta_${kind}_${cross}`];
      if (delta) checkTest(ledger, `${name} ${kind} ${cross}`, found?.delta[cross][kind], delta);
    }
  }
}
/* eslint-enable @typescript-eslint/no-explicit-any */
