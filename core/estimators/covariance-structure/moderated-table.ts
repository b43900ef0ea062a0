import { ImpliedMoments } from "./implied";
import { STRUCTURE_ERRORS, type StructureErrors } from "./error-matrices";
import type { ModeratedFit } from "./latent-moderated";
import { arrowName } from "./arrows";
import { reportedIntercept, standardErrors, type ArrowEstimate } from "./parameter-table";
import { deltaError, differentiated, type Functions } from "./standardised";

/**
 * Every arrow of a model with latent interactions, and each interaction as “x * w -> y”.
 * Standardised with SDs by the law of total covariance; an interaction by b3 sd(X) sd(W) / sd(Y).
 */
export function moderatedTable(
  { linear, model, interactions, likelihood, theta, observed, robust }: ModeratedFit,
  errors: StructureErrors,
): ArrowEstimate[] {
  const q = theta.length;
  const chosen = errors === "robust" ? robust : observed;
  const scales = standardErrors(observed, q);
  const { slots, variables, observed: p } = model;
  const v = variables.length;
  const place = (name: string): number => variables.indexOf(name);
  const intercept = reportedIntercept({ models: [model], sample: linear.sample }, 0);
  const plain = new ImpliedMoments(model);
  const write =
    (scale: "raw" | "full" | "latent") =>
    (at: Float64Array): Float64Array => {
      const { E } = likelihood.implied(at);
      const { S } = plain.at(at);
      const sd = (i: number): number =>
        scale === "raw" || (scale === "latent" && i < p) ? 1 : Math.sqrt(E[i * v + i]!);
      const own = (i: number): number =>
        scale === "raw" || (scale === "latent" && i < p) ? 1 : Math.sqrt(S[i * v + i]!);
      return Float64Array.from([
        ...slots.map(({ matrix, row, column, parameter, value }, k) => {
          const x = parameter < 0 ? value : at[parameter]!;
          if (matrix === "A") return (x * sd(column)) / sd(row);
          if (matrix === "m") return intercept(at, k) / sd(row);
          return row === column ? x / (sd(row) * sd(row)) : x / (own(row) * own(column));
        }),
        ...interactions.map(({ x, w, to, label }) => {
          const scaled = (sd(place(x)) * sd(place(w))) / sd(place(to));
          return at[model.parameters.indexOf(label)]! * scaled;
        }),
      ]);
    };
  const [raw, full, latent] = (["raw", "full", "latent"] as const).map((scale) =>
    differentiated(write(scale), theta, scales),
  ) as [Functions, Functions, Functions];
  const matrices: Partial<Record<StructureErrors, Float64Array | null>> = { observed, robust };
  const rows = [
    ...slots.map(({ matrix, row, column, parameter }) => {
      const kind = matrix === "A" ? "path" : matrix === "S" ? "covariance" : "intercept";
      const from = matrix === "m" ? "" : variables[column]!;
      const to = variables[row]!;
      return { kind, from, to, arrow: arrowName({ kind, from, to }), parameter } as const;
    }),
    ...interactions.map(({ x, w, to, label }) => ({
      kind: "path" as const,
      from: `${x} * ${w}`,
      to,
      arrow: `${x} * ${w} -> ${to}`,
      parameter: model.parameters.indexOf(label),
    })),
  ];
  return rows.map(({ kind, from, to, arrow, parameter }, k): ArrowEstimate => ({
    arrow,
    kind,
    from,
    to,
    group: linear.spec.groups[0]!.name,
    free: parameter >= 0,
    parameter: parameter < 0 ? null : model.parameters[parameter]!,
    estimate: raw.values[k]!,
    se: Object.fromEntries(
      STRUCTURE_ERRORS.map((name) => {
        const matrix = matrices[name];
        return [name, matrix && parameter >= 0 ? deltaError(raw, k, matrix, q) : null];
      }),
    ) as ArrowEstimate["se"],
    full: { estimate: full.values[k]!, se: chosen ? deltaError(full, k, chosen, q) : NaN },
    latent: { estimate: latent.values[k]!, se: chosen ? deltaError(latent, k, chosen, q) : NaN },
  }));
}
