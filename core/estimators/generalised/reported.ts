import { multiply, number, parameter, sum, type Expression } from "../../model";
import type { FittedResponses } from "./fitted-responses";
import { multipliedOut } from "./terms";

/**
 * From coefficients of products about centres to those that are reported, of columns as they are;
 * null where the two are the same.
 */
export function reportingMap({ model }: FittedResponses, e: number): Float64Array | null {
  const { terms } = model.responses[e]!;
  if (terms.every((t) => t.length < 2)) return null;
  const map = multipliedOut(terms, model.base);
  if (!map) throw new Error("A product stands without what it is made of.");
  return map;
}

/**
 * A coefficient as it is reported; another parameter as it is.
 * @param at its place among the parameters
 */
export function reportedCoefficient(fit: FittedResponses, at: number): Expression {
  const { equations } = fit.parameters;
  const e = equations.findIndex((b) => at >= b.start && at < b.start + b.count);
  const map = e < 0 ? null : reportingMap(fit, e);
  if (!map) return parameter(at);
  const { start, count } = equations[e]!;
  const row = (at - start) * count;
  return sum(
    Array.from({ length: count }, (_, k) => k)
      .filter((k) => map[row + k] !== 0)
      .map((k) => multiply(number(map[row + k]!), parameter(start + k))),
  );
}
