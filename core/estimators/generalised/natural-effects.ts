import { add, divide, number, parameter, subtract, type Expression } from "../../model";
import type { EffectScale } from "../response-types";
import { isBinary, type FamilyId } from "./families";
import type { TriadMeans } from "./effect-plan";

/** An effect as a function of the means. */
export interface EffectFormula {
  scale: EffectScale;
  name: string;
  expression: Expression;
  /** On a ratio scale: one means no effect, and the logarithm is tested. */
  ratio: boolean;
  /** It is zero by the structure of the models: there is nothing to test. */
  structural: boolean;
}

/**
 * Total, natural and controlled effects and their decompositions (Robins & Greenland 1992; Pearl
 * 2001; VanderWeele 2013, 2014, 2015; average effects: Imai, Keele & Tingley 2010).
 * @param from where the functionals begin in the parameter vector
 * @param product does the mediator do more under one treatment than under another?
 */
export function effectFormulas(
  { nested, controlled }: TriadMeans,
  family: FamilyId,
  from: number,
  product: boolean,
): EffectFormula[] {
  const at = (place: number): Expression => parameter(from + place);
  const mean = (x: 0 | 1, own: 0 | 1): Expression => at(nested[x][own]);
  const [m11, m10, m01, m00] = [mean(1, 1), mean(1, 0), mean(0, 1), mean(0, 0)];
  const list: EffectFormula[] = [];
  const put = (
    scale: EffectScale,
    name: string,
    expression: Expression,
    more: Partial<EffectFormula> = {},
  ): void => void list.push({ scale, name, expression, ratio: false, structural: false, ...more });
  const half = (a: Expression, b: Expression): Expression => divide(add(a, b), number(2));
  const total = subtract(m11, m00);
  const pure = subtract(m10, m00);
  const tnie = subtract(m11, m10);
  const tnde = subtract(m11, m01);
  const pnie = subtract(m01, m00);
  const mediated = subtract(tnie, pnie);
  put("difference", "total_effect", total);
  put("difference", "pure_natural_direct", pure);
  put("difference", "total_natural_indirect", tnie);
  put("difference", "total_natural_direct", tnde);
  put("difference", "pure_natural_indirect", pnie);
  put("difference", "average_natural_direct", half(pure, tnde));
  put("difference", "average_natural_indirect", half(tnie, pnie));
  // On a curved scale effects interact even without a product.
  const none = !product && family === "linear";
  put("difference", "mediated_interaction", mediated, { structural: none });
  put("difference", "proportion_mediated", divide(tnie, total));
  put("difference", "proportion_mediated_average", divide(half(tnie, pnie), total));
  for (const { at: m, x1, x0 } of controlled) {
    const own = heldAt(m);
    const cde = subtract(at(x1), at(x0));
    const reference = subtract(pure, cde);
    put("difference", `controlled_direct${own}`, cde);
    put("difference", `reference_interaction${own}`, reference, { structural: none });
    put("difference", `proportion_eliminated${own}`, divide(subtract(total, cde), total));
    put("difference", `share_controlled_direct${own}`, divide(cde, total));
    put("difference", `share_reference_interaction${own}`, divide(reference, total), {
      structural: none,
    });
    put("difference", `share_interaction_total${own}`, divide(add(reference, mediated), total), {
      structural: none,
    });
  }
  put("difference", "share_mediated_interaction", divide(mediated, total), { structural: none });
  put("difference", "share_pure_indirect", divide(pnie, total));
  if (family === "linear") return list;
  ratios(isBinary(family) ? "risk_ratio" : "mean_ratio", (e) => e);
  for (const { at: m, x1, x0 } of controlled) {
    const cde = subtract(at(x1), at(x0));
    put("excess_ratio", `controlled_direct${heldAt(m)}`, divide(cde, m00));
    put("excess_ratio", `reference_interaction${heldAt(m)}`, divide(subtract(pure, cde), m00));
  }
  put("excess_ratio", "mediated_interaction", divide(mediated, m00));
  put("excess_ratio", "pure_indirect", divide(pnie, m00));
  put("excess_ratio", "total", divide(total, m00));
  if (!isBinary(family)) return list;
  const odds = (p: Expression): Expression => divide(p, subtract(number(1), p));
  ratios("odds_ratio", odds);
  put(
    "odds_ratio",
    "proportion_mediated_odds",
    divide(subtract(odds(m11), odds(m10)), subtract(odds(m11), odds(m00))),
  );
  return list;

  function ratios(scale: EffectScale, of: (mean: Expression) => Expression): void {
    const ratio = (name: string, a: Expression, b: Expression): void =>
      put(scale, name, divide(of(a), of(b)), { ratio: true });
    ratio("total_effect", m11, m00);
    ratio("pure_natural_direct", m10, m00);
    ratio("total_natural_indirect", m11, m10);
    ratio("total_natural_direct", m11, m01);
    ratio("pure_natural_indirect", m01, m00);
    for (const { at: m, x1, x0 } of controlled)
      ratio(`controlled_direct${heldAt(m)}`, at(x1), at(x0));
  }
}

/** The end of a name that says where mediators are held: `[m=30]`, `[m=4,45]` for a block. */
const heldAt = (values: readonly number[]): string => `[m=${values.join(",")}]`;

/** How a formula's resamples are found again. @param triad which of the triads */
export const formulaLabel = (
  { scale, name }: Pick<EffectFormula, "scale" | "name">,
  triad: number,
): string => `${triad + 1} ${scale} ${name}`;
