import {
  effectAt,
  errorsName,
  pClause,
  percent,
  plain,
  testOf,
  type Evidence,
  type ModerationEvidence,
  type ProbeModel,
} from "../evidence";
import { operand } from "./paper";
import type { Working } from "./types";

interface Term {
  formula: string;
  numbers: string;
}

/**
 * Where the slope at a place comes from: the coefficient of the focal column, and those of its
 * products times what they are multiplied with, about the centres that products are taken about.
 * @param place values of moderators in the columns of the model
 */
export function slopeWorking(
  moderation: ModerationEvidence,
  place: ReadonlyMap<string, number>,
  evidence: Evidence,
): Working {
  const { model, focal, focalLabel } = moderation;
  const { level } = evidence.settings;
  const slope = effectAt(model, focal, place);
  const test = testOf(slope, model, level);
  const terms = termsOf(model, focal, place);
  return {
    title: `Slope of ${focalLabel} on ${model.outcome}`,
    steps: [
      {
        what: "Slope",
        formula: terms.map((t) => t.formula).join(" + "),
        numbers: `${terms.map((t) => t.numbers).join(" + ")} = ${plain(slope.estimate)}`,
        source: "Aiken & West 1991, Multiple Regression",
      },
      ...(slope.se === null || !test
        ? []
        : [
            {
              what: "SE",
              formula: "√(c′ V c), c what each coefficient is multiplied with, V their covariance",
              numbers: `${errorsName(evidence.errors)} errors: ${plain(slope.se)}`,
              source: null,
            },
            {
              what: `${percent(level)} % interval and p`,
              formula: model.df === null ? "slope ± z × SE" : "slope ± t × SE",
              numbers: `${plain(slope.estimate)} ± ${plain((test.upper - slope.estimate) / slope.se)} × ${plain(slope.se)} = [${plain(test.lower)}, ${plain(test.upper)}], ${pClause(test.p)}`,
              source: null,
            },
          ]),
    ],
    rows: `${evidence.sample.n} ${evidence.unit || "rows"}; other predictors do not enter.`,
  };
}

/** The parts of the slope, largest order last. */
function termsOf(model: ProbeModel, focal: string, place: ReadonlyMap<string, number>): Term[] {
  const columns = new Map(model.columns.map((c) => [c.key, c]));
  return model.columns.flatMap(({ key, components }, j): Term[] => {
    const b = model.b[j + 1]!;
    if (!components) return key === focal ? [{ formula: `b(${key})`, numbers: operand(b) }] : [];
    const power = components.filter((c) => c === focal).length;
    if (power === 0) return [];
    const others = components.filter((c) => c !== focal);
    const about = power === 2 ? [focal, ...others] : others;
    const value = (c: string): number => place.get(c) ?? columns.get(c)!.mean;
    const twice = power === 2 ? "2 × " : "";
    const name = components.join(" × ");
    return [
      {
        formula: `${twice}b(${name})${about.map((c) => ` × (${c} − centre)`).join("")}`,
        numbers: `${twice}${operand(b)}${about.map((c) => ` × (${plain(value(c))} − ${operand(columns.get(c)!.centre)})`).join("")}`,
      },
    ];
  });
}
