import {
  coefficientQuantity,
  multiply,
  number,
  parameter,
  sum,
  type Parameters,
  type Quantity,
} from "../../model";
import type { MetricMap } from "./metric";

/**
 * Every coefficient as it is reported, as a quantity, so that it gets the same intervals as an
 * effect.
 */
export function coefficientQuantities(
  { equations, labels }: Parameters,
  maps: readonly MetricMap[],
): Quantity[] {
  return maps.flatMap((map, g) => {
    const { start, count: p } = equations[g]!;
    return Array.from({ length: p }, (_, i): Quantity => {
      const terms = Array.from({ length: p }, (__, j) => ({
        weight: map[i * p + j]!,
        index: start + j,
      })).filter((t) => t.weight !== 0);
      const expression = sum(
        terms.map(({ weight, index }) =>
          weight === 1 ? parameter(index) : multiply(number(weight), parameter(index)),
        ),
      );
      return coefficientQuantity(labels[start + i]!, expression);
    });
  });
}
