import type { TypedColumn, Variable } from "../data";
import type { Design, ParameterLayout } from "../estimators/least-squares";
import { averageParameter, centreOf, coefficientLabel, sdLabel, type UsedCoding } from "../estimators/least-squares";
import type { Settings } from "../study";
import type { CompiledTheory } from "../theory";
import { pathsBetween } from "../theory";
import { parameter, type Expression } from "./expression";
import { moderatorsOf, slopeOf, times, type Polynomial } from "./polynomial";
import { moderatorOf, type Moderator } from "./probes";

export type EffectKind =
  | "direct"
  | "specific_indirect"
  | "total_indirect"
  | "total"
  | "contrast"
  | "proportion_mediated"
  | "ratio_to_direct"
  | "partially_standardised"
  | "completely_standardised"
  | "explained_variance"
  | "combined_indirect"
  | "average_direct"
  | "average_indirect"
  | "average_total"
  | "average_change"
  | "comparison"
  | "interaction"
  | "conditional_direct"
  | "conditional_indirect"
  | "conditional_contrast"
  | "conditional_index"
  | "index"
  | "curve"
  | "own";

/** Something to be estimated: a labelled function of the parameter vector. */
export interface Quantity {
  /** Stable and readable: `indirect hours > confidence > belonging`. */
  id: string;
  kind: EffectKind;
  /** For people: “hours on belonging through confidence”. */
  label: string;
  /** The design column the effect starts from (`hours`, `group.1`); null where that has no meaning. */
  from: string | null;
  to: string | null;
  /** Mediators of a specific indirect effect, in order. */
  via: string[];
  /** The quantity this one rescales or summarises. */
  of: string | null;
  expression: Expression;
  /** Differences between levels: which of them belong together when p is adjusted for their number. */
  family?: string;
}

/** The effects of one design column on one outcome: what exists of direct, specific indirect and total. */
export interface EffectPair {
  from: string;
  fromVariable: string;
  fromLabel: string;
  categorical: boolean;
  /** Only two values occur: a standard deviation of it means nothing. */
  binary: boolean;
  to: string;
  /** Every directed path from the predictor to the outcome, moderated or not, as a function of its moderators. */
  routes: ConditionalRoute[];
  /** Each directed path of two or more steps, as variables in order. */
  indirect: { nodes: string[]; expression: Expression; coefficients: Expression[] }[];
  direct: Expression | null;
  /** Paths, of one step or more, with a moderated step; they are in neither of the above. */
  conditional: ConditionalRoute[];
}

/** A path whose effect depends on moderators. */
export interface ConditionalRoute {
  nodes: string[];
  polynomial: Polynomial;
}

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
  /** Index of the parameter holding the sample average of a product of moderator columns about their centres. */
  average: (columns: readonly string[]) => number;
  codings: UsedCoding[];
  /** What people call a column, and a level of a variable. */
  columnLabel: (key: string) => string;
  levelLabel: (variable: string, level: string) => string;
}

export function effectContext(
  theory: CompiledTheory,
  design: Design,
  layout: ParameterLayout,
  typed: ReadonlyMap<string, TypedColumn>,
  { settings, variables }: { settings: Settings; variables: readonly Variable[] },
): EffectContext {
  const coefficient = (outcome: string, key: string): Expression => parameter(layout.index.get(coefficientLabel(outcome, key))!);
  const columns = new Map(design.equations.flatMap((e) => e.columns.map((c) => [c.key, c] as const)));
  const pairs: EffectPair[] = [];
  for (const { from, to } of pairNames(theory)) {
    for (const column of columns.values()) {
      if (column.variable !== from) continue;
      const routes = pathsBetween(theory.paths, from, to);
      const along = (nodes: string[]): Expression[] => nodes.slice(1).map((node, i) => coefficient(node, i === 0 ? column.key : nodes[i]!));
      const slopes = (nodes: string[]): Polynomial =>
        nodes
          .slice(1)
          .map((node, i) => slopeOf(design, layout, node, i === 0 ? column.key : nodes[i]!))
          .reduce(times);
      const polynomials = routes.map((nodes) => ({ nodes, polynomial: slopes(nodes) }));
      const conditional = polynomials.filter(({ polynomial }) => moderatorsOf(polynomial).length > 0);
      const plain = routes.filter((nodes) => !conditional.some((c) => c.nodes === nodes));
      const long = plain.filter((nodes) => nodes.length > 2);
      pairs.push({
        from: column.key,
        fromVariable: from,
        fromLabel: column.contrast === null ? from : `${from} (${column.contrast})`,
        categorical: column.contrast !== null,
        binary: column.contrast !== null || new Set(column.values).size === 2,
        to,
        routes: polynomials,
        direct: plain.some((nodes) => nodes.length === 2) ? coefficient(to, column.key) : null,
        indirect: long.map((nodes) => {
          const coefficients = along(nodes);
          return { nodes, coefficients, expression: coefficients.reduce((a, b) => ({ op: "multiply", a, b })) };
        }),
        conditional,
      });
    }
  }
  const products = design.equations.flatMap((e) =>
    e.columns.flatMap((c) =>
      c.components
        ? [
            {
              outcome: e.outcome,
              key: c.key,
              label: c.label,
              variables: c.components.map((p) => p.variable),
              keys: c.components.map((p) => p.key),
              expression: coefficient(e.outcome, c.key),
            },
          ]
        : [],
    ),
  );
  const involved = new Set(products.flatMap((p) => p.variables));
  const names = [...theory.roles.moderators, ...[...involved].filter((name) => !theory.roles.moderators.includes(name))];
  return {
    theory,
    pairs,
    moderators: names.map((name) => moderatorOf(name, design, typed, settings.probes[name] ?? ["mean_sd"])),
    products,
    centre: (key) => centreOf(columns.get(key)!),
    sd: (key) => parameter(layout.index.get(sdLabel(key))!),
    average: (keys) => averageParameter(layout, keys),
    codings: design.codings,
    columnLabel: (key) => columns.get(key)?.label ?? key,
    levelLabel: (variable, level) => variables.find((v) => v.name === variable)?.labels?.[level] ?? level,
  };
}

/** Pairs worth a table: every predictor on every final outcome it reaches, and whatever a hypothesis names. */
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
