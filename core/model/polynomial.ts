import { add, multiply, number, parameter, product, sum, type Expression } from "./expression";

/**
 * One term: an expression times the listed moderator columns (about their centres), repeated for
 * powers.
 */
export interface Term {
  moderators: string[];
  expression: Expression;
}

/** An effect as a function of its moderators, with no two terms alike. */
export type Polynomial = Term[];

const same = (a: string[], b: string[]): boolean =>
  a.length === b.length && a.every((key, i) => key === b[i]);

/** A list with one occurrence of a key taken out. */
export function without(keys: readonly string[], key: string): string[] {
  const rest = [...keys];
  rest.splice(rest.indexOf(key), 1);
  return rest;
}

/** Terms with the same moderators joined into one. */
function collected(terms: Term[]): Polynomial {
  const joined: Polynomial = [];
  for (const { moderators, expression } of terms) {
    const known = joined.find((t) => same(t.moderators, moderators));
    if (known) known.expression = add(known.expression, expression);
    else joined.push({ moderators, expression });
  }
  return joined;
}

export const times = (a: Polynomial, b: Polynomial): Polynomial =>
  collected(
    a.flatMap((x) =>
      b.map((y) => ({
        moderators: [...x.moderators, ...y.moderators].sort(),
        expression: multiply(x.expression, y.expression),
      })),
    ),
  );

/**
 * A polynomial at the averages of its products of moderators.
 * @param average where the parameter stands that holds the average of a product of columns
 */
export const averagedOver = (
  polynomial: Polynomial,
  average: (columns: readonly string[]) => number,
): Expression =>
  polynomial
    .map(({ moderators, expression }) =>
      moderators.length === 0 ? expression : multiply(expression, parameter(average(moderators))),
    )
    .reduce(add);

/** A weighted sum of polynomials: comparisons of levels, sums over routes. */
export const combined = (parts: { weight: number; polynomial: Polynomial }[]): Polynomial =>
  collected(
    parts
      .filter(({ weight }) => weight !== 0)
      .flatMap(({ weight, polynomial }) =>
        polynomial.map((t) => ({
          ...t,
          expression: weight === 1 ? t.expression : multiply(number(weight), t.expression),
        })),
      ),
  );

/** Derivative by one moderator column. */
export function derivative(polynomial: Polynomial, key: string): Polynomial {
  return polynomial.flatMap(({ moderators, expression }) => {
    const power = moderators.filter((m) => m === key).length;
    if (power === 0) return [];
    return [
      {
        moderators: without(moderators, key),
        expression: power === 1 ? expression : multiply(number(power), expression),
      },
    ];
  });
}

/** The polynomial in the other columns when some columns stand at centred values. */
export const substitute = (
  polynomial: Polynomial,
  values: ReadonlyMap<string, number>,
): Polynomial =>
  collected(
    polynomial.map(({ moderators, expression }) => ({
      moderators: moderators.filter((key) => !values.has(key)),
      expression: product([
        expression,
        ...moderators.filter((key) => values.has(key)).map((key) => number(values.get(key)!)),
      ]),
    })),
  );

/** The value at centred moderator values. */
export function at(polynomial: Polynomial, values: ReadonlyMap<string, number>): Expression {
  return sum(
    polynomial.map(({ moderators, expression }) =>
      product([expression, ...moderators.map((key) => number(values.get(key)!))]),
    ),
  );
}

/** The moderator columns a polynomial depends on, and the highest power of one. */
export const moderatorsOf = (polynomial: Polynomial): string[] =>
  [...new Set(polynomial.flatMap((t) => t.moderators))].sort();
export const powerOf = (polynomial: Polynomial, key: string): number =>
  Math.max(0, ...polynomial.map((t) => t.moderators.filter((m) => m === key).length));
