import type { Arrow } from "./arrows";

/**
 * The unit of the product of two factors is the product of their units, whatever scales these. In
 * estimation the product factor is scaled by its first item, the product of an item of each; what
 * is told of it is turned into its own unit by the loadings of these two (Wen, Marsh & Hau 2010, SEM
 * 17: the interaction goes with sd(X) sd(W)). Both are the same solution.
 */
export interface ProductUnit {
  /** Name of the product factor. */
  product: string;
  /** The two items whose product scales it, each with its factor; none of an observed variable. */
  loadings: { factor: string; item: string }[];
}

/** A number times parameters of the model. */
export interface Scale {
  fixed: number;
  /** Positions among the parameters. */
  parameters: number[];
}

/** What a unit of the product of the factors is in units of the product factor as estimated. */
export function unitScale(
  { loadings }: ProductUnit,
  arrows: readonly Arrow[],
  labels: readonly string[],
): Scale {
  const scale: Scale = { fixed: 1, parameters: [] };
  for (const { factor, item } of loadings) {
    const arrow = arrows.find((a) => a.kind === "path" && a.from === factor && a.to === item);
    if (!arrow) continue;
    if (arrow.label === null) scale.fixed *= arrow.value;
    else scale.parameters.push(labels.indexOf(arrow.label));
  }
  return scale;
}

export const scaleAt = ({ fixed, parameters }: Scale, theta: ArrayLike<number>): number =>
  parameters.reduce((product, at) => product * theta[at]!, fixed);

/**
 * What an arrow of a group as estimated is multiplied by to be told in units of the products of
 * factors: a path from a product factor by its scale, whatever points to it, or goes with it, by
 * one over it.
 * @returns scale and its power; null for arrows that no product factor takes part in
 */
export function arrowScale(
  arrow: Pick<Arrow, "kind" | "from" | "to">,
  units: readonly ProductUnit[],
  arrows: readonly Arrow[],
  labels: readonly string[],
): ((theta: ArrayLike<number>) => number) | null {
  const of = (name: string): Scale | null => {
    const unit = units.find((u) => u.product === name);
    return unit ? unitScale(unit, arrows, labels) : null;
  };
  const [from, to] = [arrow.kind === "intercept" ? null : of(arrow.from), of(arrow.to)];
  if (!from && !to) return null;
  const outward = arrow.kind === "path";
  return (theta) => {
    const [left, right] = [from, to].map((scale) => (scale ? scaleAt(scale, theta) : 1)) as [
      number,
      number,
    ];
    return outward ? left / right : 1 / (left * right);
  };
}

/** The scale of the path that has a label; null where it does not begin at a product factor. */
export function pathScale(
  label: string,
  { groups, units = [] }: { groups: readonly { arrows: Arrow[] }[]; units?: ProductUnit[] },
  labels: readonly string[],
): Scale | null {
  for (const { arrows } of groups) {
    const arrow = arrows.find((a) => a.kind === "path" && a.label === label);
    const unit = units.find((u) => u.product === arrow?.from);
    if (unit) return unitScale(unit, arrows, labels);
  }
  return null;
}
