import { describe, expect, it } from "vitest";
import type { Evidence } from "../core";
import { checkArrows, checkFit, expectedOf, Ledger, run } from "./latent-kit";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const WELLBEING = "measure wellbeing reflects wel1, wel2, wel3";

describe("latent interactions", () => {
  const theory = [
    "measure advice reflects adv1, adv2, adv3",
    "measure noise reflects noi1, noi2, noi3",
    WELLBEING,
    "H1: advice raises wellbeing",
    "H2: noise alters advice to wellbeing",
  ];
  const rename = (arrow: string): string =>
    arrow.replace(/advice_x_noise/g, "advice:noise").replace(/(adv\d)_(noi\d)/g, "$1:$2");

  it.each([
    ["matched_double_centred", "matched_double"],
    ["all_pairs_double_centred", "all_double"],
    ["matched_residual_centred", "matched_residual"],
  ])("%s", (key, interactions) => {
    const wanted = expectedOf("interaction-product-indicators")[key];
    const ledger = new Ledger();
    for (const errors of ["expected", "robust"] as const) {
      const { evidence, section } = run("interaction-product-indicators", theory, {
        errors,
        options: { interactions },
      });
      checkArrows(ledger, section, strippedOfErrors(wanted.estimates, errors), undefined, rename);
      checkFit(ledger, section, wanted.fit);
      const probing = wanted[`probing_${errors}`];
      checkProbing(ledger, evidence, probing, "advice", "wellbeing", errors);
      const [own] = section.interactions;
      ledger.same("standardised", own?.standardised.estimate, wanted.standardised_interaction.est);
      ledger.same(
        "standardised se",
        own?.standardised.se[errors],
        wanted.standardised_interaction.se[errors],
      );
    }
    expect(ledger.off).toEqual([]);
  });

  it("by full information", () => {
    const wanted = expectedOf("interaction-full-information").result;
    const { evidence, section } = run("interaction-full-information", theory, {
      options: { interactions: "full_information" },
    });
    const ledger = new Ledger();
    checkArrows(ledger, section, wanted.estimates, undefined, (arrow) =>
      arrow.replace("b3", "advice * noise -> wellbeing"),
    );
    ledger.same("logL", section.information?.logLikelihood, wanted.loglik);
    ledger.same("aic", section.information?.aic, wanted.aic);
    ledger.same("LR", section.likelihoodRatio?.chi2, wanted.likelihood_ratio_no_interaction.chi2);
    for (const [arrow, { est, se }] of Object.entries<any>(wanted.standardised_latent_paths)) {
      const found = section.arrows.find((a) => a.arrow === arrow);
      ledger.same(`${arrow} standardised`, found?.full.estimate, est);
      ledger.same(`${arrow} standardised se`, found?.full.se, se);
    }
    ledger.same(
      "r2",
      section.r2.find((r) => r.variable === "wellbeing")?.value,
      wanted.r2.wellbeing,
    );
    checkProbing(ledger, evidence, wanted.probing, "advice", "wellbeing", "observed");
    expect(ledger.off).toEqual([]);
  }, 30_000);

  it.each([
    ["matched", "matched_double"],
    ["all_pairs", "all_double"],
  ])("first stage of a moderated mediation, %s", (key, interactions) => {
    const wanted = expectedOf("first-stage-moderated-mediation-products")[key];
    const ledger = new Ledger();
    for (const errors of ["expected", "robust"] as const) {
      const { evidence, section } = run(
        "first-stage-moderated-mediation-products",
        [
          "measure advice reflects adv1, adv2, adv3",
          "measure noise reflects noi1, noi2, noi3",
          "measure skill reflects skl1, skl2, skl3",
          WELLBEING,
          "H1: advice raises wellbeing through skill",
          "H2: noise alters advice to wellbeing through skill on advice to skill",
        ],
        { errors, options: { interactions } },
      );
      checkFit(ledger, section, wanted.fit);
      checkArrows(ledger, section, strippedOfErrors(wanted.estimates, errors), undefined, rename);
      const index = evidence.effects.find((e) => e.kind === "index");
      const listed = wanted[`moderated_mediation_${errors}`];
      ledger.same("index", index?.estimate, listed.index.est);
      ledger.same("index se", index?.delta.joint[errors]?.se, listed.index.se);
      for (const [at, probe] of [
        ["w=-1 sd", "mean-sd"],
        ["w=0", "mean"],
        ["w=+1 sd", "mean+sd"],
      ] as const) {
        const found = evidence.effects.find(
          (e) => e.kind === "conditional_indirect" && e.at?.noise === probe,
        );
        const value = listed[`conditional indirect at ${at}`];
        ledger.same(at, found?.estimate, value.est);
        ledger.same(`${at} se`, found?.delta.joint[errors]?.se, value.se);
      }
    }
    expect(ledger.off).toEqual([]);
  });
});

/** Standardised errors of the cases rest on the expected information, whatever errors are chosen. */
const strippedOfErrors = (estimates: any, errors: string): any =>
  Object.fromEntries(
    Object.entries<any>(estimates).map(([arrow, numbers]) => [
      arrow,
      errors === "expected"
        ? numbers
        : { ...numbers, std_full_se: undefined, std_latent_se: undefined },
    ]),
  );

function checkProbing(
  ledger: Ledger,
  evidence: Evidence,
  wanted: any,
  from: string,
  to: string,
  errors: "expected" | "robust" | "observed",
): void {
  const moderation = evidence.moderations.find((m) => m.focal === from && m.outcome === to)!;
  for (const [at, probe] of [
    ["w=-1 sd", "noise mean-sd"],
    ["w=0", "noise mean"],
    ["w=+1 sd", "noise mean+sd"],
  ] as const) {
    const slope = moderation.slopes.find((s) => s.words === probe);
    ledger.same(`slope ${at}`, slope?.estimate, wanted.simple_slopes[at].slope);
    ledger.same(`slope ${at} se`, slope?.errors[errors]?.se, wanted.simple_slopes[at].se);
    ledger.same(`slope ${at} p`, slope?.errors[errors]?.p, wanted.simple_slopes[at].p);
  }
  const jn = moderation.johnsonNeyman[0]!.tests[errors]!.pointwise;
  wanted.johnson_neyman.roots.forEach((root: number, i: number) =>
    ledger.same(`root ${i}`, jn.rootsAll[i], root),
  );
}
