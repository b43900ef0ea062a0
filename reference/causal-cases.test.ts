import { describe, expect, it } from "vitest";
import { StudyProblem, type ResponseModelEvidence } from "../core";
import { causalTheory, expectedCausal, off, responsesOf, runCausal } from "./causal-kit";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

function modelFaults({ coefficients, fit, residualVariance }: ResponseModelEvidence, wanted: any) {
  return [
    ...coefficients.flatMap(({ term, estimate, se }) => {
      const own = Object.keys(wanted.coefficients).find((key) => sameTerm(key, term));
      if (own === undefined) return [`${term} is not in the file`];
      return [
        ...off(estimate, wanted.coefficients[own], term),
        ...off(se.classical, wanted.se_classical[own], `${term} classical`),
        ...off(se.hc0, wanted.se_hc0[own], `${term} HC0`),
        ...off(se.hc1, wanted.se_hc1[own], `${term} HC1`),
      ];
    }),
    ...off(fit.logLikelihood, wanted.log_likelihood, "log-likelihood"),
    ...(wanted.deviance === undefined ? [] : off(fit.deviance, wanted.deviance, "deviance")),
    ...(wanted.aic === undefined ? [] : off(fit.aic, wanted.aic, "AIC")),
    ...(wanted.residual_variance === undefined
      ? []
      : off(residualVariance, wanted.residual_variance, "residual variance")),
  ];
}

/** Products are unordered; `group.1` is the first indicator, which the file calls `group2`. */
const sameTerm = (a: string, b: string): boolean => {
  const parts = (t: string): string =>
    t
      .replace(/\.(\d+)/g, (_, k) => String(Number(k) + 1))
      .split(":")
      .sort()
      .join(":");
  return parts(a) === parts(b);
};

const CASES = [
  "linear-binary-x",
  "linear-binary-mediator",
  "linear-continuous-x",
  "linear-interaction-four-way",
  "logistic-binary-mediator",
  "logistic-count-mediator",
  "logistic-normal-common",
  "logistic-normal-rare",
  "poisson-normal",
  "probit-normal",
  "three-group-x",
];

describe("effects of treatments, stated in words", () => {
  it.each(CASES)("%s", (name) => {
    const e = expectedCausal(name);
    const s = e.settings;
    const product = s.outcome_terms.some((t: string) => t.includes(":"));
    const several = Object.values<any>(s.event_levels).some((v) => typeof v === "object");
    const levels = several
      ? { [Object.values<any>(s.event_levels)[0].from]: { level: "categorical" } }
      : {};
    const contrasts = several ? [s.contrasts] : s.contrasts.map((c: any) => [c]);
    for (const compared of contrasts) {
      const evidence = runCausal(
        name,
        causalTheory({ ...s, contrasts: compared }),
        { options: { treatment_product: product ? "in" : "out" } },
        levels,
      );
      const { models, natural } = responsesOf(evidence);
      const model = (outcome: string) => models.find((m) => m.outcome === outcome)!;
      const faults = [
        ...modelFaults(model(s.outcome), e.outcome_model),
        ...modelFaults(model(s.mediator), e.mediator_model),
      ];
      expect(natural).toHaveLength(compared.length);
      compared.forEach(({ label }: any, i: number) => {
        const found = natural[i]!;
        const means = e.potential_outcome_means[label];
        for (const { name: mean, estimate, model: own, robust } of found.means)
          faults.push(
            ...off(estimate, means.estimate[mean], mean),
            ...off(own.se, means.se_model[mean], `${mean} se`, 1e-5),
            ...off(robust.se, means.se_robust[mean], `${mean} robust`, 1e-5),
          );
        for (const { at, x1, x0 } of found.controlled)
          faults.push(
            ...off(x1, means.controlled[`m=${at}`].x1, `controlled ${at}`),
            ...off(x0, means.controlled[`m=${at}`].x0, `controlled ${at}`),
          );
        for (const { effect, ratio, eValue, eValueOfLimit } of found.unmeasured) {
          const own = e.e_values?.[effect];
          if (own)
            faults.push(
              ...off(ratio, own.ratio_used, `${effect} ratio`),
              ...off(eValue, own.e_value, `${effect} E-value`),
              ...off(eValueOfLimit, own.e_value_limit, `${effect} E-value of the limit`, 1e-5),
            );
        }
        for (const [scale, list] of Object.entries<any>(e.effects[label]))
          for (const [effect, wanted] of Object.entries<any>(list)) {
            const own = found.effects[scale as "difference"]?.find((f) => f.name === effect);
            const where = `${scale} ${effect}`;
            if (!own) {
              faults.push(`${where} is not there`);
              continue;
            }
            const ratio = wanted.se_log_model !== undefined;
            faults.push(
              ...off(own.estimate, wanted.estimate, where),
              ...off(
                own.model!.se,
                ratio ? wanted.se_log_model : wanted.se_model,
                `${where} se`,
                1e-5,
              ),
              ...off(
                own.robust!.se,
                ratio ? wanted.se_log_robust : wanted.se_robust,
                `${where} robust`,
                1e-5,
              ),
              ...off(own.model!.lower, wanted.ci_model[0], `${where} lower`, 1e-5),
              ...off(own.robust!.upper, wanted.ci_robust[1], `${where} upper`, 1e-5),
              ...(wanted.p_model === null || wanted.p_model === undefined
                ? []
                : off(own.model!.p, wanted.p_model, `${where} p`, 1e-4)),
            );
          }
      });
      expect(faults).toEqual([]);
    }
  });

  it("resampled: limits within what chance allows", () => {
    const name = "logistic-normal-common";
    const e = expectedCausal(name);
    const evidence = runCausal(name, causalTheory(e.settings), {
      replications: 3000,
      interval: "bca",
    });
    const { effects } = responsesOf(evidence).natural[0]!;
    let checked = 0;
    for (const [scale, list] of Object.entries<any>(e.effects["1 vs 0"]))
      for (const [effect, { bootstrap }] of Object.entries<any>(list)) {
        if (!bootstrap?.percentile) continue;
        const own = effects[scale as "difference"]!.find((f) => f.name === effect)!.bootstrap!;
        for (const kind of ["percentile", "bc", "bca"] as const) {
          const limits = bootstrap[kind];
          const tolerance = bootstrap[`${kind}_tolerance`];
          if (!limits || !tolerance) continue;
          checked += 1;
          expect(Math.abs(own[kind]!.lower - limits[0]), `${scale} ${effect} ${kind}`).toBeLessThan(
            tolerance[0],
          );
          expect(Math.abs(own[kind]!.upper - limits[1]), `${scale} ${effect} ${kind}`).toBeLessThan(
            tolerance[1],
          );
        }
      }
    expect(checked).toBeGreaterThan(50);
  }, 240_000);

  it.each(["logistic-normal-common", "linear-binary-x"])(
    "quasi-Bayesian limits within what chance allows: %s",
    (name) => {
      const e = expectedCausal(name);
      const evidence = runCausal(name, causalTheory(e.settings), {
        interval: "monte_carlo",
        monteCarloDraws: 2000,
        ...(e.settings.outcome_terms.some((t: string) => t.includes(":"))
          ? {}
          : { options: { treatment_product: "out" } }),
      });
      const { effects } = responsesOf(evidence).natural[0]!;
      const faults: string[] = [];
      let checked = 0;
      for (const [scale, list] of Object.entries<any>(Object.values<any>(e.effects)[0]))
        for (const [effect, { quasi_bayes: wanted }] of Object.entries<any>(list)) {
          if (!wanted) continue;
          const own = effects[scale as "difference"]!.find((f) => f.name === effect)!;
          checked += 1;
          const far = [own.drawn!.lower, own.drawn!.upper].some(
            (limit, k) => Math.abs(limit - wanted.interval[k]) > wanted.tolerance[k],
          );
          if (far) faults.push(`${scale} ${effect} ${own.drawn!.lower} ${own.drawn!.upper}`);
        }
      expect(faults).toEqual([]);
      expect(checked).toBeGreaterThan(5);
    },
    120_000,
  );
});

describe("effects of treatments at values of a moderator", () => {
  it.each<[string, string, string[], Record<string, number[]>, string]>([
    [
      "moderated-linear",
      "urban",
      [
        "H1: course raises wellbeing through skill",
        "M1: urban alters course to skill",
        "M2: urban alters course to wellbeing",
        "M3: urban alters skill to wellbeing",
        "adjust skill, wellbeing for age",
        "control skill at 40",
        "model wellbeing as linear",
      ],
      { urban: [0, 1] },
      "out",
    ],
    [
      "moderated-logistic",
      "years_member",
      [
        "H1: mentor raises stays through advice",
        "M1: years_member alters mentor to advice",
        "M2: years_member alters mentor to stays",
        "M3: years_member alters advice to stays",
        "control advice at 4",
        "model stays as logistic",
      ],
      { years_member: [2, 8, 16] },
      "out",
    ],
  ])("%s", (name, moderator, theory, probes, product) => {
    const e = expectedCausal(name);
    const evidence = runCausal(name, theory, {
      probes,
      options: { treatment_product: product },
    });
    const { natural, changes } = responsesOf(evidence);
    const faults: string[] = [];
    const compareAll = (list: any, wanted: any, where: string): void => {
      for (const [effect, own] of Object.entries<any>(wanted)) {
        const found = list.find((f: any) => f.name === effect);
        if (!found) {
          faults.push(`${where} ${effect} is not there`);
          continue;
        }
        faults.push(...off(found.estimate, own.estimate, `${where} ${effect}`));
        if (own.se_model !== undefined)
          faults.push(
            ...off(found.model.se, own.se_model, `${where} ${effect} se`, 1e-5),
            ...off(found.robust.se, own.se_robust, `${where} ${effect} robust`, 1e-5),
          );
      }
    };
    for (const value of probes[moderator]!) {
      const found = natural.find((n) => n.at?.value === value)!;
      for (const [scale, list] of Object.entries<any>(e.effects[`${moderator}=${value}`]))
        compareAll(found.effects[scale as "difference"], list, `${moderator}=${value} ${scale}`);
    }
    for (const [upper, lower] of e.settings.differences_between) {
      const change = changes.find(
        (c) => `${moderator}=${c.upper}` === upper && `${moderator}=${c.lower}` === lower,
      )!;
      compareAll(change.effects, e.effects[`${upper} minus ${lower}`].difference, "difference");
    }
    expect(faults).toEqual([]);
  });
});

it.each(["logistic-normal-rare", "logistic-normal-common"])(
  "rare outcomes in closed form: %s",
  (name) => {
    const e = expectedCausal(name);
    const product = e.settings.outcome_terms.some((t: string) => t.includes(":"));
    const evidence = runCausal(name, causalTheory(e.settings), {
      options: { treatment_product: product ? "in" : "out" },
    });
    const own = responsesOf(evidence).natural[0]!.rareOutcome!;
    const wanted = e.rare_outcome_approximation;
    expect([
      ...off(own.pureDirect, wanted.odds_ratio_pure_natural_direct, "direct"),
      ...off(own.totalIndirect, wanted.odds_ratio_total_natural_indirect, "indirect"),
      ...off(own.share, wanted.outcome_prevalence, "share"),
    ]).toEqual([]);
    expect(own.rare).toBe(wanted.warnings.length === 0);
  },
);

describe("generalised linear models", () => {
  const e = expectedCausal("glm-fits");
  it.each(Object.entries<any>(e.models).filter(([, m]) => m.family !== "negbin"))("%s", (_, m) => {
    const main = m.terms.filter((t: string) => !t.includes(":"));
    const crossed = m.terms.filter((t: string) => t.includes(":"));
    const [first, ...rest] = main;
    const theory = [
      `H1: ${first} affects ${m.outcome}`,
      ...(rest.length > 0 ? [`adjust ${m.outcome} for ${rest.join(", ")}`] : []),
      ...crossed.map((t: string, i: number) => {
        const [x, w] = t.split(":");
        return `M${i + 1}: ${w} alters ${x} to ${m.outcome}`;
      }),
      `model ${m.outcome} as ${m.family}${m.exposure ? ` with exposure ${m.exposure}` : ""}`,
    ];
    const [model] = responsesOf(runCausal("glm-fits", theory)).models;
    expect(modelFaults(model!, m)).toEqual([]);
    const { fit } = model!;
    expect([
      ...off(fit.bic, m.bic, "BIC"),
      ...off(fit.mcFadden, m.mcfadden ?? fit.mcFadden, "McFadden"),
      ...off(fit.nagelkerke, m.nagelkerke ?? fit.nagelkerke, "Nagelkerke"),
      ...off(fit.tjur, m.tjur ?? fit.tjur, "Tjur"),
    ]).toEqual([]);
    expect(model!.n).toBe(m.n);
  });
});

it("negative binomial: coefficients, errors and size together", () => {
  const { negbin, poisson_offset: plain } = expectedCausal("glm-fits").models;
  const [first, ...rest] = plain.terms.filter((t: string) => t in negbin.coefficients);
  const [model] = responsesOf(
    runCausal("glm-fits", [
      `H1: ${first} affects ${plain.outcome}`,
      `adjust ${plain.outcome} for ${rest.join(", ")}`,
      `model ${plain.outcome} as negative binomial with exposure ${plain.exposure}`,
    ]),
  ).models;
  expect([
    ...off(model!.size, negbin.theta, "size"),
    ...model!.coefficients.flatMap((c) => [
      ...off(c.estimate, negbin.coefficients[c.term], c.term),
      ...off(c.se.classical, negbin.se_classical[c.term], `${c.term} se`, 1e-5),
    ]),
    ...off(model!.fit.logLikelihood, negbin.log_likelihood, "log-likelihood"),
    ...off(model!.fit.aic, negbin.aic, "AIC"),
  ]).toEqual([]);
});

describe("requests that must stop", () => {
  const { requests } = expectedCausal("edge-errors");
  /** What is said of columns before any model is thought of has its own code. */
  const CODES: Record<string, string> = {
    treatment_constant: "constant_variable",
    response_constant: "constant_variable",
    treatment_not_binary: "wrong_level",
  };
  const LEVELS: Record<string, string> = {
    absent: "categorical",
    "three-valued-treatment": "binary",
  };
  const wanted: [string, any][] = requests.map((r: any) => [r.request.id, r]);
  it.each(wanted)("%s", (_, { request: r, status, code, variable, coefficients }) => {
    const others = r.outcome_terms.filter(
      (t: string) => ![r.treatment, r.mediator].includes(t.split("=")[0]!),
    );
    const theory = [
      `H1: ${r.treatment} raises ${r.outcome} through ${r.mediator}`,
      ...(others.length > 0 ? [`adjust ${r.outcome} for ${others.join(", ")}`] : []),
      `model ${r.outcome} as ${r.outcome_family}${r.exposure ? ` with exposure ${r.exposure}` : ""}`,
      `model ${r.mediator} as ${r.mediator_family}`,
      ...(["equal", "absent"].includes(r.id)
        ? [`compare ${r.treatment} at ${r.x1} with ${r.x0}`]
        : []),
    ];
    const run = () =>
      runCausal(
        "edge-errors",
        theory,
        { options: { treatment_product: "out" } },
        {
          ...(r.id === "coded-1-2" ? { [r.outcome]: { level: "binary" } } : {}),
          ...(r.id in LEVELS ? { [r.treatment]: { level: LEVELS[r.id] } } : {}),
        },
      );
    if (status === "ok") {
      for (const model of responsesOf(run()).models)
        for (const { term, estimate } of model.coefficients)
          expect(off(estimate, coefficients[model.outcome][term], term)).toEqual([]);
      return;
    }
    let problem: StudyProblem | null = null;
    try {
      run();
    } catch (error) {
      if (!(error instanceof StudyProblem)) throw error;
      problem = error;
    }
    expect(problem?.code).toBe(CODES[code] ?? code);
    for (const name of variable.split(",")) expect(problem!.message).toContain(name);
  });
});
