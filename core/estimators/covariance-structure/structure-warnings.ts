import type { Warning } from "../../problems";
import type { FittedModel } from "./fit-model";
import type { Estimates } from "./estimates";
import { inverseOf } from "./scoring";
import { improperSolutions, type Improper } from "./improper";
import type { TheoryModel } from "./theory-model";
import { orderedProposals, orderedWarnings } from "./ordered/warnings";
import { warning } from "./wording";

/**
 * What deserves a look in a model of means and covariances.
 * @param dropped cases left out for a missing answer, where they are many
 */
export function structureWarnings(
  model: TheoryModel,
  estimates: Estimates,
  dropped: number,
): Warning[] {
  const { fitted } = estimates;
  const improper = estimates.moderated ? [] : improperSolutions(fitted);
  const several = fitted.spec.groups.length > 1;
  return [
    ...apartWarnings(fitted),
    ...orderedWarnings(model, fitted),
    ...orderedProposals(model, fitted),
    ...(fitted.sample.empty > 0
      ? [warning("empty_cases", { cases: fitted.sample.empty }, [])]
      : []),
    ...(dropped > 0 && model.built.products.length === 0 && fitted.spec.estimator === "ml"
      ? [warning("keep_everybody", { dropped }, [])]
      : []),
    ...improper.map((each) => improperWarning(each, several)),
    ...(improper.length === 0 ? legitimate(estimates) : []),
    ...(singular(estimates) ? [warning("singular_information", {}, [])] : []),
    ...(fitted.spec.estimator === "uls" ? [warning("scale_dependent", {}, [])] : []),
    ...notInvariant(model),
    ...surplus(model),
  ];
}

function improperWarning(each: Improper, several: boolean): Warning {
  const group = several ? each.group : null;
  switch (each.code) {
    case "negative-variance": {
      const { variable, residual, estimate, se, mayBeZero } = each;
      const name = `${residual ? "residual variance" : "variance"} of “${variable}”`;
      return warning("negative_variance", { name, estimate, se, mayBeZero, group }, [variable]);
    }
    case "r2-above-one":
      return warning("r2_above_one", { name: each.variable, value: each.value }, [each.variable]);
    case "latent-correlation-beyond-one":
      return warning("latent_correlation", { a: each.a, b: each.b, r: each.value }, [
        each.a,
        each.b,
      ]);
    case "latent-covariance-not-positive-definite":
      return warning("latent_covariance", { group }, []);
    case "residual-covariance-not-positive-definite":
      return warning("residual_covariance", { group }, []);
  }
}

const singular = ({ fitted, moderated }: Estimates): boolean =>
  moderated
    ? moderated.observed === null
    : Object.values(fitted.errors.by).every((m) => m === null);

/** Standardised paths beyond one that correlated predictors make (Deegan 1978; Joreskog 1999). */
function legitimate({ fitted, moderated }: Estimates): Warning[] {
  if (moderated) return [];
  return fitted.models.flatMap(({ slots, variables, observed: p }, g) => {
    const { E, A, S, v } = fitted.implied[g]!;
    const sd = (i: number): number => Math.sqrt(E[i * v + i]!);
    const paths = slots.filter((s) => s.matrix === "A" && !(s.column >= p && s.row < p));
    return paths.flatMap(({ row, column }) => {
      const value = (A[row * v + column]! * sd(column)) / sd(row);
      if (!(Math.abs(value) > 1)) return [];
      const others = paths.filter((s) => s.row === row && s.column !== column);
      if (others.length === 0) return [];
      const correlation = (i: number, j: number): number => E[i * v + j]! / (sd(i) * sd(j));
      const r = others
        .map((s) => correlation(s.column, column))
        .reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a));
      const predictors = [column, ...others.map((s) => s.column)];
      const inverse = inverseOf(
        Float64Array.from(predictors.flatMap((i) => predictors.map((j) => correlation(i, j)))),
        predictors.length,
      );
      const [from, to] = [variables[column]!, variables[row]!];
      const data = {
        from,
        to,
        value,
        r,
        simple: correlation(column, row),
        vif: inverse?.[0] ?? null,
        r2: 1 - S[row * v + row]! / E[row * v + row]!,
      };
      return [warning("beyond_one_legitimate", data, [from, to])];
    });
  });
}

function notInvariant({ theory, grouping, built }: TheoryModel): Warning[] {
  const { groups } = theory;
  if (!groups || grouping.names.length < 2 || built.factors.length === 0) return [];
  const compared = theory.moderated.some((s) => s.moderators.includes(groups.by.name));
  return compared && !groups.equal.includes("loadings")
    ? [warning("loadings_not_invariant", { groups: groups.by.name }, [groups.by.name])]
    : [];
}

/** Items that matched pairs leave out. */
function surplus({ built, options }: TheoryModel): Warning[] {
  if (!options.interactions.startsWith("matched")) return [];
  return built.products.flatMap(({ x, w, items }) =>
    [x, w].flatMap((name) => {
      const all = built.factors.find((m) => m.name.name === name)?.items.map((i) => i.ref.name);
      const left = all?.filter((item) => !items.some((i) => i.x === item || i.w === item)) ?? [];
      return left.length > 0 ? [warning("surplus_items", { name, items: left }, left)] : [];
    }),
  );
}

/** Pairs of variables that no case has both of. */
function apartWarnings({ sample, spec }: FittedModel): Warning[] {
  return sample.groups.flatMap(({ apart, name }) => {
    if (apart.length === 0) return [];
    const pairs = apart.map(([i, j]): [string, string] => [spec.observed[i]!, spec.observed[j]!]);
    const group = sample.groups.length > 1 ? name : null;
    return [warning("never_together", { pairs, group }, [...new Set(pairs.flat())])];
  });
}
