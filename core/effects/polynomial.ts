import type { Design, ParameterLayout } from "../estimators/least-squares";
import { coefficientLabel } from "../estimators/least-squares";
import { add, multiply, number, parameter, product, sum, type Expression } from "./expression";

/** One term: an expression times the listed moderator columns (about their centres), repeated for powers. */
export interface Term {
  moderators: string[];
  expression: Expression;
}

/** An effect as a function of its moderators, with no two terms alike. */
export type Polynomial = Term[];

const same = (a: string[], b: string[]): boolean => a.length === b.length && a.every((key, i) => key === b[i]);

/** The slope of a column in an equation: its coefficient, and each product that contains it times the other components. */
export function slopeOf(design: Design, layout: ParameterLayout, outcome: string, key: string): Polynomial {
  const equation = design.equations.find((e) => e.outcome === outcome)!;
  const coefficient = (column: string): Expression => parameter(layout.index.get(coefficientLabel(outcome, column))!);
  const products = equation.columns.filter((c) => c.components?.some((part) => part.key === key));
  return [
    { moderators: [], expression: coefficient(key) },
    ...products.map((column) => ({
      moderators: column
        .components!.map((part) => part.key)
        .filter((other) => other !== key)
        .sort(),
      expression: coefficient(column.key),
    })),
  ];
}

export function times(a: Polynomial, b: Polynomial): Polynomial {
  const terms: Polynomial = [];
  for (const x of a) {
    for (const y of b) {
      const moderators = [...x.moderators, ...y.moderators].sort();
      const expression = multiply(x.expression, y.expression);
      const known = terms.find((t) => same(t.moderators, moderators));
      if (known) known.expression = add(known.expression, expression);
      else terms.push({ moderators, expression });
    }
  }
  return terms;
}

/** Derivative by one moderator column. */
export function derivative(polynomial: Polynomial, key: string): Polynomial {
  return polynomial.flatMap(({ moderators, expression }) => {
    const power = moderators.filter((m) => m === key).length;
    if (power === 0) return [];
    const rest = [...moderators];
    rest.splice(rest.indexOf(key), 1);
    return [{ moderators: rest, expression: power === 1 ? expression : multiply(number(power), expression) }];
  });
}

/** The value at centred moderator values. */
export function at(polynomial: Polynomial, values: ReadonlyMap<string, number>): Expression {
  return sum(polynomial.map(({ moderators, expression }) => product([expression, ...moderators.map((key) => number(values.get(key)!))])));
}

/** The moderator columns a polynomial depends on, and the highest power of one. */
export const moderatorsOf = (polynomial: Polynomial): string[] => [...new Set(polynomial.flatMap((t) => t.moderators))].sort();
export const powerOf = (polynomial: Polynomial, key: string): number =>
  Math.max(0, ...polynomial.map((t) => t.moderators.filter((m) => m === key).length));
