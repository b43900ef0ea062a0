import { heldWords } from "../../wording/condition";
import { deltaTest, type BootstrapSummary } from "../../inference";
import {
  compileExpression,
  gradient,
  parameter,
  subtract,
  type Covariance,
  type Expression,
} from "../../model";
import { normalP, zQuantile } from "../../numerics/distributions";
import { exp, ln } from "../../numerics/elementary";
import { standardDeviation } from "../../numerics/moments";
import type { SectionContext } from "../engine";
import type {
  AverageMarginalEffect,
  ChangedEffects,
  EffectScale,
  LinkProduct,
  NaturalEffect,
  NaturalEffectsEvidence,
  PotentialMean,
  ResponseInteraction,
  ResponseModelEvidence,
  ResponseSection,
  TestedNumber,
} from "./types";
import { changeLabel, changesOf, type Change } from "./changes";
import type { TriadMeans } from "./effect-plan";
import { sandwich } from "./generalised-fit";
import { responseInteractions } from "./interaction";
import { linkLabel, linkProduct, linkTriads } from "./link-products";
import { modelEvidence } from "./model-evidence";
import type { EffectFormula } from "./natural-effects";
import type { FittedResponses } from "./fitted-responses";
import { formulaLabel } from "./natural-effects";
import { reportedCoefficient, reportingMap } from "./reported";
import { rareOutcome } from "./rare-outcome";
import { isShare, withheldAmong } from "./withheld-shares";
import { unmeasuredCauses } from "./unmeasured";
import { ASSUMPTIONS, effectWords, meanWords, summaryWords, unmeasuredWords } from "./words";

/**
 * A total effect of fewer errors than these leaves shares of it without simulated limits: they jump
 * between large values.
 */
const STEADY = 4.5;

/** Everything that is said of responses and of treatments. */
export function responseSection(fit: FittedResponses, context: SectionContext): ResponseSection {
  const theta = fit.vector();
  const teller = new Teller(fit, theta, context);
  const settled = settledOf(fit, context.level);
  return {
    kind: "responses",
    models: fit.model.responses.map((_, e) => modelOf(fit, teller, context, e)),
    natural: fit.plan.triads.map((means, t) => naturalOf(fit, teller, context, means, t)),
    changes: changesOf(fit).map((change) => changeOf(teller, change)),
    interactions: settled.interactions,
    products: settled.products.map(({ label, product }) => ({
      ...product,
      bootstrap: teller.resampled(label),
    })),
    assumptions: fit.plan.triads.length > 0 ? ASSUMPTIONS : [],
  };
}

interface Settled {
  level: number;
  interactions: ResponseInteraction[];
  products: { label: string; product: Omit<LinkProduct, "bootstrap"> }[];
}

/**
 * Evidence is put together after every batch of replicates; what does not change with them is found
 * once a fit.
 */
const settledBefore = new WeakMap<FittedResponses, Settled>();

function settledOf(fit: FittedResponses, level: number): Settled {
  const known = settledBefore.get(fit);
  if (known?.level === level) return known;
  const settled = {
    level,
    interactions: responseInteractions(fit, level),
    products: linkTriads(fit).flatMap((triad, t) => {
      const product = linkProduct(fit, triad, level);
      return product ? [{ label: linkLabel(t), product }] : [];
    }),
  };
  settledBefore.set(fit, settled);
  return settled;
}

/** Tests functions of the parameters by both covariances, and finds their resamples. */
export class Teller {
  private readonly places: Map<string, number>;

  constructor(
    private readonly fit: FittedResponses,
    private readonly theta: Float64Array,
    private readonly context: SectionContext,
  ) {
    this.places = new Map(fit.coefficients.map((q, i) => [q.label, i]));
  }

  get level(): number {
    return this.context.level;
  }

  value(expression: Expression): number {
    return compileExpression(expression)(this.theta, 0);
  }

  test(
    expression: Expression,
    kind: "classical" | "HC0" | "held",
    ratio = false,
  ): TestedNumber | null {
    const estimate = this.value(expression);
    const found = deltaTest(
      estimate,
      gradient(expression, this.theta),
      kind === "held" ? this.fit.held : (this.fit.covariances[kind] as Covariance),
      this.context.level,
    );
    if (!found) return null;
    if (!ratio) return { se: found.se, lower: found.lower, upper: found.upper, p: found.p };
    const se = found.se / estimate;
    const reach = zQuantile(1 - (1 - this.context.level) / 2) * se;
    const log = ln(estimate);
    return { se, lower: exp(log - reach), upper: exp(log + reach), p: normalP(log / se) };
  }

  drawn(label: string): { lower: number; upper: number } | null {
    const place = this.places.get(label);
    const found = place === undefined ? null : (this.context.drawn?.[place] ?? null);
    return found && { lower: found.lower, upper: found.upper };
  }

  resampled(label: string): BootstrapSummary | null {
    const place = this.places.get(label);
    return place === undefined ? null : (this.context.bootstrap?.[place] ?? null);
  }
}

function modelOf(
  fit: FittedResponses,
  teller: Teller,
  context: SectionContext,
  e: number,
): ResponseModelEvidence {
  const { estimation, model, plan, covariances } = fit;
  const response = model.responses[e]!;
  const from = estimation.shape.start[e]!;
  // Products are estimated about centres, and reported of columns as they are.
  const p = response.terms.length;
  const map = reportingMap(fit, e);
  const diagonal = (kind: "classical" | "HC0"): Float64Array => {
    const { size, values } = covariances[kind]!;
    const own = Float64Array.from({ length: p * p }, (_, at) => {
      const [j, k] = [Math.floor(at / p), at % p];
      return values[(from + j) * size + from + k]!;
    });
    const told = map ? sandwich(map, own, p, p) : own;
    return Float64Array.from({ length: p }, (_, k) => told[k * p + k]!);
  };
  const coefficients = Float64Array.from({ length: p }, (_, k) =>
    teller.value(reportedCoefficient(fit, from + k)),
  );
  const at = (place: number): Expression => parameter(estimation.estimated + place);
  const marginal = plan.marginal
    .filter((m) => m.outcome === response.outcome)
    .map(({ key, places: [one, zero] }): AverageMarginalEffect => {
      const expression: Expression =
        zero === undefined ? at(one) : { op: "subtract", a: at(one), b: at(zero) };
      return {
        column: key,
        estimate: teller.value(expression),
        model: teller.test(expression, "classical") ?? NOTHING,
        robust: teller.test(expression, "held") ?? NOTHING,
      };
    });
  return {
    ...modelEvidence(
      response,
      estimation.fits[e]!,
      coefficients,
      { classical: diagonal("classical"), robust: diagonal("HC0") },
      context.level,
      context.errors === "HC0",
    ),
    marginal,
  };
}

const NOTHING: TestedNumber = { se: NaN, lower: NaN, upper: NaN, p: null };

/** How effects differ between two values of a moderator. */
function changeOf(teller: Teller, change: Change): ChangedEffects {
  const { triad, upper, lower, formulas } = change;
  return {
    treatment: triad.contrast.variable,
    contrast: triad.contrast.label,
    mediator: triad.mediator,
    outcome: triad.outcome,
    moderator: triad.at!.name,
    upper: upper.value,
    lower: lower.value,
    upperWords: heldWords(upper),
    lowerWords: heldWords(lower),
    effects: formulas.map(({ kind, expression }): NaturalEffect => ({
      kind,
      held: null,
      name: kind,
      words: effectWords({ kind, held: null }, "difference", triad),
      estimate: teller.value(expression),
      model: teller.test(expression, "classical"),
      robust: teller.test(expression, "HC0"),
      bootstrap: teller.resampled(changeLabel(change, kind)),
      drawn: teller.drawn(changeLabel(change, kind)),
      withheld: null,
    })),
  };
}

const NAMES = [
  ["x0_m_x0", "x0_m_x1"],
  ["x1_m_x0", "x1_m_x1"],
] as const;

function naturalOf(
  fit: FittedResponses,
  teller: Teller,
  context: SectionContext,
  { triad, nested, controlled, along }: TriadMeans,
  t: number,
): NaturalEffectsEvidence {
  const { estimation, model, parameters } = fit;
  const { estimated } = estimation;
  const family = model.responses.find((r) => r.outcome === triad.outcome)!.family;
  const theta = (place: number): number => teller.value(parameter(estimated + place));
  const means = ([1, 0] as const).flatMap((x) =>
    ([1, 0] as const).map((own): PotentialMean => {
      const place = estimated + nested[x][own];
      return {
        name: NAMES[x][own],
        words: meanWords(triad, family, x, own, theta(nested[x][own])),
        estimate: theta(nested[x][own]),
        model: teller.test(parameter(place), "classical") ?? NOTHING,
        robust: teller.test(parameter(place), "HC0") ?? NOTHING,
        bootstrap: teller.resampled(parameters.labels[place]!),
        drawn: teller.drawn(parameters.labels[place]!),
      };
    }),
  );
  const total = fit.formulas[t]!.find((f) => f.name === "total_effect")!;
  const test = teller.test(total.expression, "classical");
  const steady = test !== null && Math.abs(teller.value(total.expression)) >= STEADY * test.se;
  const { y } = model.responses.find((r) => r.outcome === triad.outcome)!.equation;
  const effects: NaturalEffectsEvidence["effects"] = {};
  for (const formula of fit.formulas[t]!) {
    const list = (effects[formula.scale] ??= []);
    list.push(effectOf(teller, formula, t, triad, steady));
  }
  const inTotal = effects.difference!.find((e) => e.name === "total_effect")!;
  for (const [scale, list] of Object.entries(effects))
    effects[scale as EffectScale] = withheldAmong(list, inTotal, context);
  const unmeasured = unmeasuredCauses(effects, standardDeviation(y), teller.level);
  return {
    treatment: triad.contrast.variable,
    contrast: triad.contrast.label,
    upper: triad.contrast.upper,
    lower: triad.contrast.lower,
    at: triad.at && { name: triad.at.name, value: triad.at.value, level: triad.at.level },
    mediator: triad.mediator,
    outcome: triad.outcome,
    means,
    controlled: controlled.map(({ at, x1, x0 }) => ({ at, x1: theta(x1), x0: theta(x0) })),
    along: along.map(({ at, x1, x0 }) => {
      const expression = subtract(parameter(estimated + x1), parameter(estimated + x0));
      const own = teller.test(expression, "classical") ?? NOTHING;
      return { at, estimate: teller.value(expression), lower: own.lower, upper: own.upper };
    }),
    effects,
    unmeasured,
    rareOutcome: rareOutcome(fit, triad),
    words: [
      ...summaryWords(triad, family, effects.difference!),
      ...unmeasuredWords(triad, unmeasured),
    ],
  };
}

function effectOf(
  teller: Teller,
  formula: EffectFormula,
  t: number,
  triad: TriadMeans["triad"],
  steady: boolean,
): NaturalEffect {
  const { kind, held, name, scale, expression, ratio, structural } = formula;
  const share = isShare(formula);
  const base = {
    kind,
    held,
    name,
    words: effectWords(formula, scale, triad),
    estimate: structural ? 0 : teller.value(expression),
    withheld: null,
  };
  if (structural) {
    const zero: TestedNumber = { se: 0, lower: 0, upper: 0, p: null };
    return { ...base, model: zero, robust: zero, bootstrap: null, drawn: null };
  }
  return {
    ...base,
    model: teller.test(expression, "classical", ratio),
    robust: teller.test(expression, "HC0", ratio),
    bootstrap: share && !steady ? null : teller.resampled(formulaLabel(formula, t)),
    drawn: share && !steady ? null : teller.drawn(formulaLabel(formula, t)),
  };
}
