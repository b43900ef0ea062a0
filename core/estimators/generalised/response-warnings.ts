import { mean } from "../../numerics/moments";
import { compileExpression, gradient } from "../../model";
import { deltaTest } from "../../inference";
import type { Warning } from "../../problems";
import { countedOutcomes, FAR_FROM_ZERO } from "../straight-outcomes";
import { MOST_SIZE } from "./dispersion";
import { isBinary, isCount } from "./families";
import { linkTriads } from "./link-products";
import type { FittedResponses } from "./fitted-responses";
import { warning } from "./wording";

const ENOUGH_EVENTS = 10;
const DISPERSION = 1.5;

/** What of models and effects deserves a look before anything is concluded. */
export function responseWarnings(fit: FittedResponses): Warning[] {
  return [
    ...modelWarnings(fit),
    ...blockWarnings(fit),
    ...linkWarnings(fit),
    ...countedOutcomes(
      fit.model.responses.flatMap((r) => (r.family === "linear" ? [r.outcome] : [])),
      fit.theory,
      fit.data,
    ),
    ...rangeWarnings(fit),
    ...shareWarnings(fit),
  ];
}

/** Of every mediator and response whose product of coefficients is told. */
function linkWarnings(fit: FittedResponses): Warning[] {
  const pairs = linkTriads(fit).map(({ outcome, mediator }) => ({ outcome, mediator }));
  return [...new Map(pairs.map((p) => [`${p.outcome} ${p.mediator}`, p])).values()].map((p) =>
    warning("not_collapsible", p, [p.outcome]),
  );
}

/** Where paths through one of several mediators have no reading as differences of means. */
function blockWarnings({ model }: FittedResponses): Warning[] {
  const blocks = model.triads.filter(
    ({ block, outcome, at }) =>
      block.length > 1 &&
      at === null &&
      model.responses.some((r) => r.outcome === outcome && r.family !== "linear"),
  );
  return [...new Map(blocks.map((t) => [`${t.outcome} ${t.mediator}`, t])).values()].map(
    ({ outcome, mediator, block }) =>
      warning("paths_on_link_scale", { outcome, mediators: mediator }, [outcome, ...block]),
  );
}

function modelWarnings({ model, estimation, theory }: FittedResponses): Warning[] {
  return model.responses.flatMap(({ outcome, family, equation }, e): Warning[] => {
    const list: Warning[] = [];
    const { y, columns } = equation;
    if (isBinary(family)) {
      const ones = y.reduce((a, b) => a + b, 0);
      const events = Math.min(ones, y.length - ones);
      if (events < ENOUGH_EVENTS * (columns - 1))
        list.push(warning("few_events", { outcome, events, columns: columns - 1 }, [outcome]));
    }
    if (isCount(family)) {
      const { mu } = estimation.fits[e]!;
      const { variance } = estimation.fits[e]!.response;
      const pearson = y.reduce((sum, v, i) => sum + (v - mu[i]!) ** 2 / variance(mu[i]!), 0);
      const dispersion = pearson / (y.length - columns);
      if (dispersion > DISPERSION)
        list.push(warning("overdispersion", { outcome, dispersion }, [outcome]));
      if (estimation.fits[e]!.size === MOST_SIZE)
        list.push(warning("no_overdispersion", { outcome }, [outcome]));
      const centre = mean(y);
      if (centre > FAR_FROM_ZERO && !equation.offset)
        list.push(warning("far_from_zero", { outcome, mean: centre }, [outcome]));
    }
    if (family !== "linear" && theory.moderated.some((m) => m.to === outcome))
      list.push(warning("interaction_scale", { outcome }, [outcome]));
    return list;
  });
}

function rangeWarnings({ model }: FittedResponses): Warning[] {
  const list: Warning[] = [];
  const outside = (name: string, value: number): boolean => {
    const values = model.base.get(name)!;
    return values.every((v) => v < value) || values.every((v) => v > value);
  };
  for (const { key, variable, x1, x0 } of model.contrasts)
    for (const at of [x1.get(key)!, x0.get(key)!])
      if (outside(key, at))
        list.push(warning("contrast_outside_range", { treatment: variable, at }, [variable]));
  for (const { at } of model.triads)
    if (at?.level === null && outside(at.name, at.value))
      list.push(
        warning("moderator_outside_range", { moderator: at.name, at: at.value }, [at.name]),
      );
  for (const { block, controlled } of new Map(model.triads.map((t) => [t.mediator, t])).values())
    for (const values of controlled)
      block.forEach((mediator, j) => {
        const at = values[j]!;
        if (outside(mediator, at))
          list.push(warning("controlled_value_outside_range", { mediator, at }, [mediator]));
      });
  return list;
}

function shareWarnings(fit: FittedResponses): Warning[] {
  const theta = fit.vector();
  return fit.plan.triads.flatMap(({ triad }, t): Warning[] => {
    if (triad.at) return [];
    const find = (name: string) => fit.formulas[t]!.find((f) => f.name === name)!.expression;
    const total = find("total_effect");
    const value = (e: typeof total): number => compileExpression(e)(theta, 0);
    const test = deltaTest(
      value(total),
      gradient(total, theta),
      fit.covariances.classical,
      fit.settings.level,
    );
    const share = value(find("proportion_mediated"));
    if (test && test.lower * test.upper > 0 && share >= 0 && share <= 1) return [];
    const { outcome, mediator, contrast } = triad;
    const data = { outcome, mediator, contrast: contrast.label };
    return [warning("proportion_unstable", data, [outcome, mediator])];
  });
}
