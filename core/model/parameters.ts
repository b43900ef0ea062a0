/** What a number of the parameter vector is. */
export type ParameterRole = "coefficient" | "sd" | "average" | "flag";

/** The coefficients of one equation, side by side in the parameter vector, intercept first. */
export interface EquationBlock {
  outcome: string;
  start: number;
  count: number;
}

/**
 * The labels of a parameter vector: first what has a covariance (coefficients, equation by
 * equation), then the SD of every column, then averages over the sample of products of moderator
 * columns, which make averages of moderated effects. An engine whose SDs are functions of its
 * estimates has a covariance of those, too.
 */
export interface Parameters {
  labels: string[];
  roles: ParameterRole[];
  index: Map<string, number>;
  equations: EquationBlock[];
  /** So many parameters, the first ones, have a covariance. */
  covered: number;
}

export const coefficientLabel = (outcome: string, column: string): string =>
  `${outcome} ~ ${column}`;
export const sdLabel = (column: string): string => `SD(${column})`;
export const averageLabel = (columns: readonly string[]): string =>
  `average(${[...columns].sort().join(" * ")})`;

/**
 * The labels of coefficients and SDs; averages join later.
 * @param equations outcome and columns of each, the intercept (`intercept`) among the columns where
 *   there is one
 * @param sds columns whose SD is a parameter
 */
export function makeParameters(
  equations: { outcome: string; columns: string[] }[],
  sds: Iterable<string>,
): Parameters {
  const parameters: Parameters = {
    labels: [],
    roles: [],
    index: new Map(),
    equations: [],
    covered: 0,
  };
  for (const { outcome, columns } of equations) {
    parameters.equations.push({ outcome, start: parameters.labels.length, count: columns.length });
    for (const key of columns)
      addParameter(parameters, coefficientLabel(outcome, key), "coefficient");
  }
  parameters.covered = parameters.labels.length;
  for (const key of sds) addParameter(parameters, sdLabel(key), "sd");
  return parameters;
}

/** Adds a parameter at the end, and returns where it stands. */
export function addParameter(
  { labels, roles, index }: Parameters,
  label: string,
  role: ParameterRole,
): number {
  index.set(label, labels.length);
  roles.push(role);
  return labels.push(label) - 1;
}

/** Where a parameter stands. @throws Error for an unknown label, which is a fault of the program */
export function parameterAt({ index }: Parameters, label: string): number {
  const at = index.get(label);
  if (at === undefined) throw new Error(`No parameter is called ${label}.`);
  return at;
}

/** Position among `equations` of the equation that a coefficient belongs to. */
export const equationOf = ({ equations }: Parameters, at: number): number =>
  equations.findLastIndex(({ start }) => start <= at);

/** Says of every replicate whether its solution is improper: 1, else 0. */
export const IMPROPER = "improper";

/** Where the parameters begin that the delta method holds fixed: averages and flags. */
export const firstFixed = ({ roles }: Parameters): number => {
  const at = roles.findIndex((role) => role === "average" || role === "flag");
  return at < 0 ? roles.length : at;
};
