import type { Design, ParameterLayout } from "../estimators/least-squares";
import { coefficientLabel, sdLabel } from "../estimators/least-squares";
import type { CompiledTheory } from "../theory";
import { pathsBetween } from "../theory";
import { parameter, type Expression } from "./expression";

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
  | "claim"
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
}

/** The effects of one design column on one outcome: what exists of direct, specific indirect and total. */
export interface EffectPair {
  from: string;
  fromVariable: string;
  fromLabel: string;
  categorical: boolean;
  to: string;
  /** Each directed path of two or more steps, as variables in order. */
  indirect: { nodes: string[]; expression: Expression; coefficients: Expression[] }[];
  direct: Expression | null;
}

/** What a family of effects can draw on. */
export interface EffectContext {
  theory: CompiledTheory;
  pairs: EffectPair[];
  /** Parameter holding the SD of a design column or outcome. */
  sd: (key: string) => Expression;
}

export function effectContext(theory: CompiledTheory, design: Design, layout: ParameterLayout): EffectContext {
  const coefficient = (outcome: string, key: string): Expression => parameter(layout.index.get(coefficientLabel(outcome, key))!);
  const columns = new Map(design.equations.flatMap((e) => e.columns.map((c) => [c.key, c] as const)));
  const pairs: EffectPair[] = [];
  for (const { from, to } of pairNames(theory)) {
    for (const column of columns.values()) {
      if (column.variable !== from) continue;
      const routes = pathsBetween(theory.paths, from, to);
      const along = (nodes: string[]): Expression[] => nodes.slice(1).map((node, i) => coefficient(node, i === 0 ? column.key : nodes[i]!));
      const long = routes.filter((nodes) => nodes.length > 2);
      pairs.push({
        from: column.key,
        fromVariable: from,
        fromLabel: column.contrast === null ? from : `${from} (${column.contrast})`,
        categorical: column.contrast !== null,
        to,
        direct: routes.some((nodes) => nodes.length === 2) ? coefficient(to, column.key) : null,
        indirect: long.map((nodes) => {
          const coefficients = along(nodes);
          return { nodes, coefficients, expression: coefficients.reduce((a, b) => ({ op: "multiply", a, b })) };
        }),
      });
    }
  }
  return { theory, pairs, sd: (key) => parameter(layout.index.get(sdLabel(key))!) };
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
