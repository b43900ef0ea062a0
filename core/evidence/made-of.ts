import { expressionWords, type Expression, type Parameters } from "../model";
import { plain } from "../wording/numbers";
import type { EffectEvidence } from "./types";

/**
 * A parameter by a name that can be read: `b(hours → confidence)`, `SD(hours)`, `mean(support)`.
 */
function parameterName(label: string): string {
  const [outcome, column] = label.split(" ~ ");
  const mean = /^mean \d+: (.+)$/.exec(label);
  if (mean) return mean[1]!;
  if (column !== undefined) return `b(${column.replaceAll(":", " × ")} → ${outcome!})`;
  return label.replace(/^average\(/, "mean(").replaceAll(" * ", " × ");
}

/** What rounding leaves of a mean that is zero. */
const NOTHING = 1e-12;

const written = (value: number): string => (Math.abs(value) < NOTHING ? "0" : plain(value));

/**
 * What an estimate is made of, by name and in numbers.
 * @param theta the estimates of the parameters
 */
export const madeOf = (
  expression: Expression,
  { labels }: Parameters,
  theta: Float64Array,
): EffectEvidence["made"] => ({
  formula: expressionWords(expression, (at) => parameterName(labels[at]!), written),
  numbers: expressionWords(expression, (at) => written(theta[at]!), written),
});
