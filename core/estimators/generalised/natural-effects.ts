import { add, divide, number, parameter, subtract, type Expression } from "../../model";
import type { EffectScale, NaturalEffectKind } from "./types";
import { isBinary, type FamilyId } from "./families";
import type { TriadMeans } from "./effect-plan";

/** An effect as a function of the means. */
export interface EffectFormula {
  scale: EffectScale;
  kind: NaturalEffectKind;
  /** Where the mediator is held, or each of several; null where it is as it would be. */
  held: readonly number[] | null;
  /** Kind and place in one word. */
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
    kind: NaturalEffectKind,
    expression: Expression,
    more: Partial<Pick<EffectFormula, "held" | "ratio" | "structural">> = {},
  ): void => {
    const { held = null, ratio = false, structural = false } = more;
    const name = held ? `${kind}[m=${held.join(",")}]` : kind;
    list.push({ scale, kind, held, name, expression, ratio, structural });
  };
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
  for (const { at: held, x1, x0 } of controlled) {
    const cde = subtract(at(x1), at(x0));
    const reference = subtract(pure, cde);
    const both = add(reference, mediated);
    put("difference", "controlled_direct", cde, { held });
    put("difference", "reference_interaction", reference, { held, structural: none });
    put("difference", "proportion_eliminated", divide(subtract(total, cde), total), { held });
    put("difference", "share_controlled_direct", divide(cde, total), { held });
    const zero = { held, structural: none };
    put("difference", "share_reference_interaction", divide(reference, total), zero);
    put("difference", "share_interaction_total", divide(both, total), zero);
  }
  put("difference", "share_mediated_interaction", divide(mediated, total), { structural: none });
  put("difference", "share_pure_indirect", divide(pnie, total));
  if (family === "linear") return list;
  ratios(isBinary(family) ? "risk_ratio" : "mean_ratio", (e) => e);
  for (const { at: held, x1, x0 } of controlled) {
    const cde = subtract(at(x1), at(x0));
    put("excess_ratio", "controlled_direct", divide(cde, m00), { held });
    put("excess_ratio", "reference_interaction", divide(subtract(pure, cde), m00), { held });
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
    const ratio = (
      kind: NaturalEffectKind,
      a: Expression,
      b: Expression,
      held: readonly number[] | null = null,
    ): void => put(scale, kind, divide(of(a), of(b)), { ratio: true, held });
    ratio("total_effect", m11, m00);
    ratio("pure_natural_direct", m10, m00);
    ratio("total_natural_indirect", m11, m10);
    ratio("total_natural_direct", m11, m01);
    ratio("pure_natural_indirect", m01, m00);
    for (const { at: held, x1, x0 } of controlled) ratio("controlled_direct", at(x1), at(x0), held);
  }
}

/** How a formula's resamples are found again. @param triad which of the triads */
export const formulaLabel = (
  { scale, name }: Pick<EffectFormula, "scale" | "name">,
  triad: number,
): string => `${triad + 1} ${scale} ${name}`;
