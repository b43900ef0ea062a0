import { own } from "../data/own";
import type { TypedColumn, Variable } from "../data";
import { centreOf, type Column, type UsedCoding } from "../design";
import {
  averagedOver,
  coefficientLabel,
  moderatorsOf,
  multiply,
  parameter,
  parameterAt,
  sdLabel,
  times,
  type Expression,
  type Parameters,
  type Polynomial,
  type Quantity,
} from "../model";
import { twoValues } from "../numerics/moments";
import type { Settings } from "../study";
import type { CompiledTheory } from "../theory";
import { pathsBetween } from "../theory";
import { moderatorOf, type Moderator } from "./probes";

export type { EffectKind, Quantity } from "../model";

/**
 * The effects of one design column on one outcome: what exists of direct, specific indirect and
 * total.
 */
export interface EffectPair {
  from: string;
  fromVariable: string;
  fromLabel: string;
  categorical: boolean;
  /** Only two values occur: a standard deviation of it means nothing. */
  binary: boolean;
  to: string;
  /**
   * Every directed path from the predictor to the outcome, moderated or not, as a function of its
   * moderators.
   */
  routes: ConditionalRoute[];
  /** Each directed path of two or more steps, as variables in order. */
  indirect: { nodes: string[]; expression: Expression; coefficients: Expression[] }[];
  direct: Expression | null;
  /**
   * The effect through everything between the two at once, where it is a difference of means and
   * the single paths are products of coefficients on another scale; null where single paths add up.
   */
  together: Expression | null;
  /** Some effect is no product of slopes: nothing is said of it in SDs, and averages add up to nothing. */
  natural: boolean;
  /** Products of slopes on the scale of a model are no differences of means, and have no sum. */
  apart: boolean;
  /** Some step is explained by anything but a straight line. */
  curved: boolean;
  /** Paths, of one step or more, with a moderated step; they are in neither of the above. */
  conditional: ConditionalRoute[];
}

/** A path whose effect depends on moderators. */
export interface ConditionalRoute {
  nodes: string[];
  polynomial: Polynomial;
  /** Its effect as a product of slopes, where `polynomial` is a difference of means. */
  slopes: Polynomial;
  difference?: true;
}

/**
 * How one moderator changes: per unit, from what it is in each row; or from one of its values to
 * another, by their order.
 */
export interface ModeratorChange {
  moderator: string;
  between: readonly [upper: number, lower: number] | null;
}

/** What effects are made of: all that they know of the engine that estimated them. */
export interface EffectSource {
  /** Columns of the equations by key: numeric variables, codes, products. */
  columns: ReadonlyMap<string, Column>;
  codings: UsedCoding[];
  parameters: Parameters;
  /** Products of columns that explain an outcome. */
  products: { outcome: string; column: Column; components: Column[] }[];
  /**
   * The coefficient of a product where it may differ between groups, as a function of their codes;
   * a parameter elsewhere.
   */
  coefficientOf?(outcome: string, key: string): Polynomial;
  /** The effect of a column on an outcome, other things equal, as a function of its moderators. */
  slope(outcome: string, key: string): Polynomial;
  /**
   * The effect along a path where it is no product of slopes, as with responses that are no
   * straight lines: a difference of means. Null where slopes tell.
   */
  along?(key: string, nodes: readonly string[]): Expression | null;
  /** Is a variable explained by anything but a straight line? Slopes on it say nothing of its mean. */
  curved?(outcome: string): boolean;
  /**
   * The effects past all mediators and through all of them at once, where single paths have no
   * differences of means.
   */
  throughAll?(key: string, outcome: string): { direct: Expression; indirect: Expression } | null;
  /**
   * How an effect that is a difference of means changes with moderators, averaged over the sample;
   * null where slopes tell.
   */
  changeAlong?(
    key: string,
    nodes: readonly string[],
    changes: readonly ModeratorChange[],
  ): Expression | null;
  /**
   * Where the parameter stands that holds the sample average of a product of columns about their
   * centres; it joins when first asked for.
   */
  average(columns: readonly string[]): number;
  /**
   * Products are on a scale of their own, so nothing is said of effects at values of a moderator.
   */
  unscaledProducts?: boolean;
}

/** Turns what is known of a model into quantities of one kind. */
export type EffectFamily = (context: EffectContext) => Quantity[];

/** A product of columns in an equation. */
export interface ProductTerm {
  outcome: string;
  key: string;
  label: string;
  /** Names of the variables multiplied. */
  variables: string[];
  /** The columns multiplied. */
  keys: string[];
  expression: Expression;
  /** It differs between groups; `expression` is its average over them. */
  averaged: boolean;
}

/** What a family of effects can draw on. */
export interface EffectContext {
  theory: CompiledTheory;
  pairs: EffectPair[];
  /** Variables that some effect depends on, with their probes, in the order of the theory. */
  moderators: Moderator[];
  products: ProductTerm[];
  /** Where a column is centred within products. */
  centre: (key: string) => number;
  /** Parameter holding the SD of a design column or outcome. */
  sd: (key: string) => Expression;
  /**
   * Index of the parameter holding the sample average of a product of moderator columns about their
   * centres.
   */
  average: (columns: readonly string[]) => number;
  codings: UsedCoding[];
  /** As the engine tells it. */
  changeAlong: EffectSource["changeAlong"];
  /** What people call a column, and a level of a variable. */
  columnLabel: (key: string) => string;
  levelLabel: (variable: string, level: string) => string;
}

/** What families of effects draw on, from a theory and what an engine found. */
export function effectContext(
  theory: CompiledTheory,
  source: EffectSource,
  typed: ReadonlyMap<string, TypedColumn>,
  { settings, variables }: { settings: Settings; variables: readonly Variable[] },
): EffectContext {
  const { columns, codings, parameters, products } = source;
  const involved = new Set(products.flatMap((p) => p.components.map((c) => c.variable)));
  const names = [
    ...theory.roles.moderators,
    ...[...involved].filter((name) => !theory.roles.moderators.includes(name)),
  ];
  return {
    theory,
    pairs: pairNames(theory).flatMap(({ from, to }) =>
      [...columns.values()]
        .filter((c) => c.variable === from)
        .map((column) => pairOf(theory, source, column, to)),
    ),
    moderators: names.map((name) => {
      const found = moderatorOf(name, source, typed, own(settings.probes, name) ?? ["mean_sd"]);
      return source.unscaledProducts ? { ...found, probes: [] } : found;
    }),
    products: products.map(({ outcome, column, components }) => ({
      outcome,
      key: column.key,
      label: column.label,
      variables: components.map((p) => p.variable),
      keys: components.map((p) => p.key),
      ...productTerm(source, outcome, column.key),
    })),
    centre: (key) => centreOf(columns.get(key)!),
    sd: (key) => parameter(parameterAt(parameters, sdLabel(key))),
    average: source.average,
    codings,
    changeAlong: source.changeAlong,
    columnLabel: (key) => columns.get(key)?.label ?? key,
    levelLabel: (variable, level) =>
      own(variables.find((v) => v.name === variable)?.labels, level) ?? level,
  };
}

/** The coefficient of a product: the same for everybody, or its average over groups. */
function productTerm(
  { coefficientOf, average, parameters }: EffectSource,
  outcome: string,
  key: string,
): Pick<ProductTerm, "expression" | "averaged"> {
  const polynomial = coefficientOf?.(outcome, key);
  return polynomial
    ? {
        expression: averagedOver(polynomial, average),
        averaged: moderatorsOf(polynomial).length > 0,
      }
    : {
        expression: parameter(parameterAt(parameters, coefficientLabel(outcome, key))),
        averaged: false,
      };
}

/** What exists of effects of one column on one outcome. */
function pairOf(
  theory: CompiledTheory,
  { slope, along, throughAll, curved }: EffectSource,
  column: Column,
  to: string,
): EffectPair {
  const from = column.variable;
  const steps = (nodes: string[]): Polynomial[] =>
    nodes.slice(1).map((node, i) => slope(node, i === 0 ? column.key : nodes[i]!));
  const paths = pathsBetween(theory.paths, from, to);
  const differences = paths.map((nodes) => along?.(column.key, nodes) ?? null);
  const slopes = paths.map((nodes) => steps(nodes).reduce(times));
  const moderated = slopes.map((polynomial) => moderatorsOf(polynomial).length > 0);
  // Differences of means and products of slopes have no common scale to be summed on; moderated
  // paths are in no sum.
  const natural =
    differences.some((own) => own !== null) &&
    differences.every((own, i) => own !== null || moderated[i]);
  // What goes through all of them is a difference of means whatever moderates a step of it; where
  // single paths are differences, too, they stand for themselves.
  const single = paths.some((nodes, i) => nodes.length > 2 && !moderated[i]);
  const whole = natural && single ? null : (throughAll?.(column.key, to) ?? null);
  const bent = paths.some((nodes) => nodes.slice(1).some((node) => curved?.(node)));
  const apart = !natural && !whole && bent;
  const routes = paths.map((nodes, i): ConditionalRoute => {
    const past = nodes.length === 2 && !moderated[i];
    const own = natural || (apart && past) ? differences[i] : past ? whole?.direct : null;
    const told = { nodes, slopes: slopes[i]! };
    return own
      ? { ...told, polynomial: [{ moderators: [], expression: own }], difference: true }
      : { ...told, polynomial: slopes[i]! };
  });
  const conditional = routes.filter(({ polynomial }) => moderatorsOf(polynomial).length > 0);
  const plain = routes.filter((route) => !conditional.includes(route));
  const direct = plain.find(({ nodes }) => nodes.length === 2);
  return {
    from: column.key,
    fromVariable: from,
    fromLabel: column.contrast === null ? from : `${from} (${column.contrast})`,
    categorical: column.contrast !== null,
    binary: column.contrast !== null || twoValues(column.values) !== null,
    to,
    routes,
    direct: direct ? constantOf(direct.polynomial) : null,
    indirect: plain
      .filter(({ nodes }) => nodes.length > 2)
      .map(({ nodes, polynomial }) => {
        if (natural) return { nodes, coefficients: [], expression: constantOf(polynomial) };
        const coefficients = steps(nodes).map(constantOf);
        return { nodes, coefficients, expression: coefficients.reduce(multiply) };
      }),
    together: whole?.indirect ?? null,
    natural: natural || whole !== null || apart,
    apart,
    curved: bent,
    conditional,
  };
}

/** The one term of a slope that depends on no moderator. */
const constantOf = (polynomial: Polynomial): Expression => polynomial[0]!.expression;

/**
 * Pairs worth a table: every predictor on every final outcome it reaches, and whatever a hypothesis
 * names.
 */
function pairNames(theory: CompiledTheory): { from: string; to: string }[] {
  const wanted = [
    ...theory.hypotheses.map((h) => ({ from: h.from.name, to: h.to.name })),
    ...theory.roles.predictors.flatMap((from) => theory.roles.outcomes.map((to) => ({ from, to }))),
    ...theory.paths.map(({ from, to }) => ({ from, to })),
  ];
  const seen = new Set<string>();
  return wanted.filter(({ from, to }) => {
    const key = `${from}\u0000${to}`;
    if (seen.has(key) || pathsBetween(theory.paths, from, to).length === 0) return false;
    seen.add(key);
    return true;
  });
}
