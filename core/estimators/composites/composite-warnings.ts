import type { Warning } from "../../problems";
import type { FittedComposite } from "./fitted-composite";
import type { ResampledFlags } from "../engine";
import type { EstimatedGroup } from "./estimated-groups";
import { binaryOutcomes } from "../straight-outcomes";
import { BY_CORRELATION } from "./layout";
import { labelIn, turnedLabel } from "./labels";
import { rhoA } from "./reliability";
import { smallestOf } from "./model-fit";
import type { TheoryComposite } from "./theory-model";
import { warning } from "./wording";

/** Variance inflation from which an item is said to be collinear. */
const HIGH_VIF = 5;
const DEFINITE = 1e-10;

/** What of a composite model deserves a look before anything is concluded. */
export function compositeWarnings(fitted: FittedComposite): Warning[] {
  const { composite, groups, options, theory, data } = fitted;
  const list: Warning[] = [
    ...binaryOutcomes(theory, data.variables, true),
    ...addedEffects(composite),
    ...fitted.unreliable.map(({ name, value }) =>
      warning("rho_a_nonpositive", { construct: name, value }, [name]),
    ),
  ];
  if (composite.filled.size > 0)
    list.push(
      warning(
        "mean_replaced",
        { columns: [...composite.filled].map(([name, cells]) => ({ name, cells })) },
        [...composite.filled.keys()],
      ),
    );
  const products = composite.model.products.length > 0;
  if (products && options.approach !== "two_stage")
    list.push(warning("fit_not_defined_with_products", {}, []));
  if (products && options.approach !== "two_stage" && composite.correctable)
    list.push(warning("correction_not_with_products", {}, []));
  for (const group of groups)
    list.push(...measurementWarnings(group), ...correctionWarnings(group));
  return list;
}

/**
 * Main effects that products need, by the names of variables: one of several levels has several
 * columns.
 */
function addedEffects({ added, coded }: TheoryComposite): Warning[] {
  const named = (key: string): string => coded.get(key)?.variable ?? key;
  const pairs = added.map(([from, to]) => ({ from: named(from), to: named(to) }));
  return [...new Map(pairs.map((pair) => [`${pair.from} > ${pair.to}`, pair])).values()].map(
    (pair) => warning("main_effect_added", pair, [pair.from, pair.to]),
  );
}

/** Scores that resamples turned round, and groups that do not measure alike. */
export function resampledWarnings(
  fit: FittedComposite,
  { flags, done, complete }: ResampledFlags,
): Warning[] {
  const constructs = fit.groups.flatMap(({ name: group, built }, g) =>
    built.model.constructs.flatMap(({ name }) => {
      const count = flags.get(labelIn(g === 0 ? null : group, turnedLabel(name))) ?? 0;
      return count > 0 ? [{ name, group: fit.groups.length > 1 ? group : null, count }] : [];
    }),
  );
  const list: Warning[] =
    constructs.length > 0
      ? [warning("sign_flips", { constructs, done }, [...new Set(constructs.map((c) => c.name))])]
      : [];
  if (!complete || fit.groups.length < 2) return list;
  const unlike = fit
    .furtherStudies()
    .comparisons.flatMap((c) => c.constructs.filter((k) => k.step === "none"))
    .map((c) => c.construct);
  const names = [...new Set(unlike)];
  return names.length > 0 ? [...list, warning("groups_not_alike", { names }, names)] : list;
}

function measurementWarnings({ solution, built }: EstimatedGroup): Warning[] {
  const list: Warning[] = [];
  const { start } = built.plan.layout;
  if (!solution.converged) list.push(warning("not_converged", { rounds: solution.rounds }, []));
  const collinear = built.indicators.filter((_, k) => {
    const vif = solution.indicatorVif[k];
    return vif === null || vif! >= HIGH_VIF;
  });
  if (collinear.length > 0) list.push(warning("vif_high", { items: collinear }, collinear));
  built.model.constructs.forEach(({ name, indicators, dominant }, j) => {
    const of = (values: Float64Array): string[] =>
      indicators.filter((_, i) => values[start[j]! + i]! < 0);
    const against = of(solution.loadings);
    const negative = of(solution.weights);
    if (against.length > 0 && against.length < indicators.length)
      list.push(
        warning("mixed_sign_loadings", { construct: name, items: against }, [name, ...against]),
      );
    if (negative.length > 0)
      list.push(
        warning("negative_weight", { construct: name, items: negative }, [name, ...negative]),
      );
    if (dominant === null && indicators.length > 1 && solution.ties.includes(name))
      list.push(warning("sign_tie", { construct: name }, [name]));
  });
  return list;
}

function correctionWarnings({ solution, built }: EstimatedGroup): Warning[] {
  const { consistent, consistentLoadings } = solution;
  if (!consistent || !consistentLoadings) return [];
  const list: Warning[] = [];
  const { plan, model, indicators } = built;
  const { start, modes } = plan.layout;
  model.constructs.forEach(({ name }, j) => {
    if (!plan.corrected[j] || modes[j] !== BY_CORRELATION) return;
    const value = rhoA(solution.weights, start[j]!, start[j + 1]!);
    if (value > 1) list.push(warning("rho_a_above_one", { construct: name, value }, [name]));
  });
  const above = indicators.filter((_, k) => Math.abs(consistentLoadings[k]!) > 1 + ROUNDING);
  if (above.length > 0) list.push(warning("loading_above_one", { items: above }, above));
  const { names, values } = consistent.correlations;
  names.forEach((a, i) =>
    names.slice(0, i).forEach((b, j) => {
      const value = values[i * names.length + j]!;
      if (Math.abs(value) > 1 + ROUNDING)
        list.push(warning("corrected_correlation_above_one", { a: b, b: a, value }, [b, a]));
    }),
  );
  if (smallestOf(values, names.length) <= DEFINITE)
    list.push(warning("corrected_matrix_not_pd", {}, []));
  for (const e of consistent.equations)
    if (e && (e.r2 < 0 || e.r2 > 1))
      list.push(warning("r2_out_of_range", { outcome: e.outcome, value: e.r2 }, [e.outcome]));
  for (const [product, value] of Object.entries(solution.productReliability))
    if (value <= 0) list.push(warning("product_reliability_nonpositive", { product }, [product]));
  return list;
}

const ROUNDING = 1e-12;
