import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { analyse, type Evidence, type StructureSection } from "../core";
import { readStudy } from "../formats";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const read = (name: string, file: string): string =>
  readFileSync(join(import.meta.dirname, "latent", name, file), "utf8");
const expectedOf = (name: string): any => JSON.parse(read(name, "expected.json"));

/** A theory on the data of a case, through the reader and entry of app and command line. */
function run(
  name: string,
  theory: string[],
  settings: object = {},
  more: object = {},
): { evidence: Evidence; section: StructureSection } {
  const study = {
    format: "hebel-study",
    version: 1,
    title: name,
    data: { csv: "data.csv" },
    theory,
    settings: { replications: 0, interval: "delta", ...settings },
    ...more,
  };
  const { definition, table } = readStudy(JSON.stringify(study), (path) => read(name, path));
  const evidence = analyse(definition, table);
  return { evidence, section: evidence.sections.find((s) => s.kind === "structure")! };
}

class Ledger {
  readonly off: string[] = [];
  checked = 0;
  same(what: string, found: number | null | undefined, wanted: number | null | undefined): void {
    if (wanted === undefined) return;
    this.checked += 1;
    if (wanted === null ? found === null || found === undefined : near(found, wanted)) return;
    this.off.push(`${what}: ${String(found)} instead of ${String(wanted)}`);
  }
}

const near = (found: number | null | undefined, wanted: number): boolean =>
  found !== null &&
  found !== undefined &&
  Math.abs(found - wanted) <= 1e-5 * Math.max(0.1, Math.abs(wanted));

const SE = ["expected", "observed", "robust", "robust_expected", "naive", "normal_theory"];
const mirrored = (arrow: string): string => arrow.split(" <-> ").reverse().join(" <-> ");

/** Arrows of the cases, under the names that products have here. */
function checkArrows(
  ledger: Ledger,
  section: StructureSection,
  wanted: any,
  group = section.groups[0]!,
  rename: (arrow: string) => string = (arrow) => arrow,
): void {
  for (const [stated, numbers] of Object.entries<any>(wanted)) {
    const arrow = rename(stated);
    const found = section.arrows.find(
      (a) => a.group === group && (a.arrow === arrow || a.arrow === mirrored(arrow)),
    );
    ledger.same(arrow, found?.estimate, numbers.est);
    for (const kind of SE) ledger.same(`${arrow} ${kind}`, found?.se[kind], numbers[`se_${kind}`]);
    ledger.same(`${arrow} full`, found?.full.estimate, numbers.std_full);
    ledger.same(`${arrow} full se`, found?.full.se, numbers.std_full_se);
    ledger.same(`${arrow} latent`, found?.latent.estimate, numbers.std_latent);
    ledger.same(`${arrow} latent se`, found?.latent.se, numbers.std_latent_se);
  }
}

function checkFit(ledger: Ledger, { fit, information }: StructureSection, wanted: any): void {
  const plain = fit!.plain;
  for (const [key, found] of [
    ["chi2", plain.chi2],
    ["df", plain.df],
    ["p", plain.p],
    ["cfi", plain.cfi],
    ["tli", plain.tli],
    ["rmsea", plain.rmsea],
    ["close_fit_p", plain.closeFit],
    ["srmr", fit!.srmr],
    ["srmr_covariances_only", fit!.srmrCovariances],
    ["loglik", information?.logLikelihood],
    ["aic", information?.aic],
    ["bic", information?.bic],
    ["sabic", information?.sabic],
  ] as const)
    ledger.same(key, found, wanted[key]);
  for (const [key, found] of [
    ["satorra_bentler", fit!.satorraBentler],
    ["yuan_bentler", fit!.yuanBentler],
  ] as const) {
    ledger.same(`${key} c`, found?.scaling, wanted.scaled?.[key]?.scaling);
    ledger.same(`${key} p`, found?.p, wanted.scaled?.[key]?.p);
    ledger.same(`${key} cfi`, found?.robust.cfi, wanted.scaled?.[key]?.robust.cfi);
    ledger.same(`${key} rmsea`, found?.robust.rmsea, wanted.scaled?.[key]?.robust.rmsea);
  }
}

function checkChanges(ledger: Ledger, section: StructureSection, wanted: any[] = []): void {
  for (const test of wanted) {
    const found = section.changes.find(
      (c) => c.arrow === test.arrow || c.arrow === mirrored(test.arrow as string),
    );
    ledger.same(`${test.arrow} mi`, found?.mi, test.mi);
    ledger.same(`${test.arrow} epc`, found?.epc, test.epc);
    ledger.same(`${test.arrow} sepc`, found?.sepc, test.sepc);
  }
}

/** Effects of one pair, both ways of measuring, with the errors in use. */
function checkEffects(ledger: Ledger, { effects, errors }: Evidence, wanted: any = {}): void {
  for (const [pair, { unstandardised, standardised }] of Object.entries<any>(wanted)) {
    const [from, to] = pair.split(" => ") as [string, string];
    for (const [prefix, set] of [
      ["", unstandardised],
      ["completely standardised ", standardised],
    ] as const) {
      const named: [string, any][] = [
        [`direct ${from} > ${to}`, set.direct],
        [`total ${from} > ${to}`, set.direct && set.total],
        ...Object.entries<any>(set.specific_indirect ?? {}).map(([path, value]): [string, any] => [
          `indirect ${path.split(" -> ").join(" > ")}`,
          value,
        ]),
      ];
      for (const [id, value] of named) {
        const found = effects.find((e) => e.id === `${prefix}${id}`);
        if (!value || !found) continue;
        ledger.same(`${prefix}${id}`, found.estimate, value.est);
        ledger.same(`${prefix}${id} se`, found.delta.joint[errors]?.se, value.se);
      }
    }
  }
}

const ADVICE = "measure advice reflects adv1, adv2, adv3, adv4";
const SKILL = "measure skill reflects skl1, skl2, skl3, skl4";
const WELLBEING = "measure wellbeing reflects wel1, wel2, wel3";
const THREE = [
  "measure advice reflects adv1, adv2, adv3",
  "measure skill reflects skl1, skl2, skl3",
  WELLBEING,
];

describe("latent cases stated in words, through the entry of app and command line", () => {
  it.each<[string, string, string[], object, (e: any) => any]>([
    [
      "latent-simple-mediation",
      "whole",
      [ADVICE, SKILL, WELLBEING, "H1: advice raises wellbeing through skill"],
      {},
      (e) => e.result,
    ],
    [
      "latent-simple-mediation",
      "without the direct path",
      [ADVICE, SKILL, WELLBEING, "H1: advice raises wellbeing only through skill"],
      {},
      (e) => e.without_direct_path,
    ],
    [
      "latent-parallel-mediation",
      "mediators covary",
      [
        "measure advice reflects adv1, adv2, adv3",
        "measure skill reflects skl1, skl2, skl3",
        "measure strain reflects str1, str2, str3, str4",
        WELLBEING,
        "H1: advice raises wellbeing through skill",
        "H2: advice raises wellbeing through strain",
        "adjust skill, strain, wellbeing for age",
        "covary skill with strain",
      ],
      {},
      (e) => e.result,
    ],
    [
      "fiml-15-percent",
      "keep everybody",
      [ADVICE, SKILL, WELLBEING, "H1: advice raises wellbeing through skill"],
      { options: { missing: "everybody" } },
      (e) => e.result,
    ],
    [
      "robust-skewed-items",
      "robust errors",
      [
        "measure advice reflects adv1, adv2, adv3",
        SKILL,
        WELLBEING,
        "H1: advice raises wellbeing through skill",
      ],
      { errors: "robust" },
      (e) => e.result,
    ],
    [
      "one-factor-wellbeing",
      "measurement alone",
      ["measure wellbeing reflects wel1, wel2, wel3, wel4, wel5"],
      {},
      (e) => e.marker,
    ],
    [
      "one-factor-wellbeing",
      "unit variance",
      ["measure wellbeing reflects wel1, wel2, wel3, wel4, wel5 with variance 1"],
      {},
      (e) => e.unit_variance,
    ],
    [
      "one-factor-wellbeing",
      "loadings held equal",
      [
        "measure wellbeing reflects wel1, wel2, wel3, wel4, wel5",
        "hold wellbeing to wel2, wellbeing to wel3, wellbeing to wel4, wellbeing to wel5 at 1",
      ],
      {},
      (e) => e.equal_loadings,
    ],
    [
      "three-factor-measurement",
      "misfit and its tests",
      [
        "measure skill reflects skl1, skl2, skl3, skl4",
        "measure advice reflects adv1, adv2, adv3, adv4",
        "measure wellbeing reflects wel1, wel2, wel3, wel4",
      ],
      { options: { scaling: "variance" } },
      (e) => e.step1,
    ],
    [
      "three-factor-measurement",
      "a residual covariance and a cross-loading",
      [
        "measure skill reflects skl1, skl2, skl3, skl4",
        "measure advice reflects adv1, adv2, adv3, adv4",
        "measure wellbeing reflects wel1, wel2, wel3, wel4, skl4",
        "covary adv1 with adv2",
      ],
      { options: { scaling: "variance" } },
      (e) => e.step3_with_cross_loading,
    ],
    [
      "single-indicator-reliability",
      "reliability given",
      [
        "measure Advice reflects advice with reliability 0.8",
        "measure Noise reflects noise_db with reliability 0.75",
        "measure Skill reflects skl1, skl2, skl3",
        "measure Wellbeing reflects wel1, wel2, wel3",
        "H1: Advice raises Wellbeing through Skill",
        "H2: Noise affects Wellbeing through Skill",
      ],
      {},
      (e) => e.reliability_given,
    ],
    [
      "single-indicator-reliability",
      "reliability of one",
      [
        "measure Advice reflects advice",
        "measure Noise reflects noise_db with reliability 1",
        "measure Skill reflects skl1, skl2, skl3",
        "measure Wellbeing reflects wel1, wel2, wel3",
        "H1: Advice raises Wellbeing through Skill",
        "H2: Noise affects Wellbeing through Skill",
      ],
      {},
      (e) => e.reliability_one,
    ],
    [
      "observed-saturated-path",
      "observed variables",
      ["H1: plot_hours raises wellbeing through skill", "adjust skill, wellbeing for age"],
      { engine: "covariance_structure" },
      (e) => e.result,
    ],
    [
      "observed-path-modification",
      "first step",
      [
        "H1: plot_hours raises wellbeing only through skill then harvest",
        "adjust skill for years_member, age",
      ],
      { engine: "covariance_structure" },
      (e) => e.step1,
    ],
    [
      "observed-path-modification",
      "third step",
      [
        "H1: plot_hours raises wellbeing only through skill then harvest",
        "adjust skill for years_member, age",
        "also plot_hours to harvest, skill to wellbeing",
      ],
      { engine: "covariance_structure" },
      (e) => e.step3,
    ],
    [
      "heywood-case",
      "one factor",
      ["measure wellbeing reflects wel1, wel2, wel3, wel4"],
      {},
      (e) => e.model_one.result,
    ],
    [
      "heywood-case",
      "two factors",
      [
        "measure wellbeing reflects wel1, wel2, wel3, wel4",
        "measure skill reflects skl1, skl2, skl3",
      ],
      {},
      (e) => e.model_two.result,
    ],
    [
      "standardised-path-beyond-one",
      "legitimate",
      [...THREE, "H1: advice raises wellbeing", "H2: skill affects wellbeing"],
      {},
      (e) => e.result,
    ],
  ])("%s: %s", (name, _, theory, settings, pick) => {
    const wanted = pick(expectedOf(name));
    const { evidence, section } = run(name, theory, settings);
    const ledger = new Ledger();
    checkFit(ledger, section, wanted.fit);
    checkArrows(ledger, section, wanted.estimates);
    checkChanges(ledger, section, wanted.modification_indices);
    checkEffects(ledger, evidence, wanted.effects);
    for (const [variable, value] of Object.entries<any>(wanted.r2 ?? {}))
      ledger.same(`r2 ${variable}`, section.r2.find((r) => r.variable === variable)?.value, value);
    if (wanted.warnings)
      expect(section.improper.map((w) => w.code).sort()).toEqual(
        wanted.warnings.map((w: any) => w.code).sort(),
      );
    if (wanted.counts) expect(section.counts.parameters).toBe(wanted.counts.free_parameters);
    expect(ledger.off).toEqual([]);
    expect(ledger.checked).toBeGreaterThan(30);
  });
});

describe("weighted moments", () => {
  it.each([
    ["GLS", "gls", "with_means", "yes"],
    ["ULS", "uls", "with_means", "yes"],
    ["WLS", "adf", "with_means", "yes"],
    ["DWLS", "dwls", "with_means", "yes"],
    ["GLS", "gls", "covariances_only", "no"],
    ["WLS", "adf", "covariances_only", "no"],
  ])("%s %s %s", (key, estimator, part, means) => {
    const wanted = expectedOf("estimators-gls-uls-adf-dwls")[part][key];
    const { section } = run(
      "estimators-gls-uls-adf-dwls",
      [
        "measure skill reflects skl1, skl2, skl3",
        "measure wellbeing reflects wel1, wel2, wel3, wel4",
        "H1: skill raises wellbeing",
      ],
      { options: { estimator, means } },
    );
    const ledger = new Ledger();
    checkArrows(ledger, section, wanted.estimates);
    ledger.same("T", section.fit?.plain.chi2, wanted.fit.T);
    ledger.same("scaled", section.fit?.scaled?.chi2, wanted.fit.scaled.chi2);
    ledger.same("scaled p", section.fit?.scaled?.p, wanted.fit.scaled.p);
    expect(section.fit?.chiSquared).toBe(wanted.fit.p !== undefined);
    expect(ledger.off).toEqual([]);
  });
});

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

describe("two groups", () => {
  const expected = expectedOf("two-group-invariance");
  const paths = [...THREE, "H1: advice raises wellbeing through skill"];
  const more = {
    variables: { site: { level: "categorical", labels: { "1": "town", "2": "village" } } },
  };
  it.each([
    ["configural", "groups by site", ""],
    ["metric", "groups by site with loadings equal", ""],
    ["scalar", "groups by site with loadings and intercepts equal", ""],
    [
      "partial_scalar",
      "groups by site with loadings and intercepts equal but intercept of skl2 free",
      "",
    ],
  ])("%s", (step, line) => {
    const { section } = run("two-group-invariance", [...paths, line], {}, more);
    const ledger = new Ledger();
    checkFit(ledger, section, expected[step].fit);
    for (const group of ["town", "village"])
      checkArrows(ledger, section, expected[step].estimates[group], group);
    expect(ledger.off).toEqual([]);
    expect(ledger.checked).toBeGreaterThan(300);
  });

  it("differ in a path or not, as a difference of fits and by a Wald test; the steps of invariance stand beside", () => {
    const { section, evidence } = run(
      "two-group-invariance",
      [...paths, "H2: site alters skill to wellbeing", "groups by site with loadings equal"],
      {},
      more,
    );
    const ledger = new Ledger();
    const own = section.differences.find((d) => d.hypothesis === "H2");
    const wanted = expected.differences.equal_b_against_metric;
    ledger.same("chi2", own?.chi2, wanted.chi2);
    ledger.same("scaled", own?.scaled?.chi2, wanted.scaled.chi2);
    ledger.same("wald", own?.wald?.wald, expected.wald_equal_b.expected.wald);
    const [, metric, scalar] = section.invariance;
    ledger.same(
      "metric",
      metric?.difference?.chi2,
      expected.differences.metric_against_configural.chi2,
    );
    ledger.same(
      "scalar",
      scalar?.difference?.chi2,
      expected.differences.scalar_against_metric.chi2,
    );
    const indirect = (level: string) =>
      evidence.effects.find((e) => e.kind === "conditional_indirect" && e.at?.site === level);
    const { defined } = expected.metric;
    ledger.same("town", indirect("1")?.estimate, defined.indirect_town.est);
    ledger.same("town se", indirect("1")?.delta.joint.expected?.se, defined.indirect_town.se);
    ledger.same("village", indirect("2")?.estimate, defined.indirect_village.est);
    const contrast = evidence.effects.find(
      (e) => e.kind === "conditional_contrast" && e.via.includes("skill"),
    );
    ledger.same("difference", contrast?.estimate, defined.difference_of_indirect.est);
    ledger.same(
      "difference se",
      contrast?.delta.joint.expected?.se,
      defined.difference_of_indirect.se,
    );
    expect(ledger.off).toEqual([]);
  });
});
