import { coefficientLabel } from "../../model";
import type { CompiledTheory, Measure } from "../../theory";
import { arrowName, compileArrows, type Arrow, type ArrowModel } from "./arrows";

/** A theory as arrows, with the names that its parts go by. */
export interface BuiltModel {
  /** Of covariances and means. */
  whole: ArrowModel;
  /** The same without means: what the covariances alone say. */
  covariances: ArrowModel;
  /** The arrows of the whole model. */
  arrows: Arrow[];
  /** Items, then observed variables of the theory. */
  observed: string[];
  factors: Measure[];
}

/** The factor's scale comes from its first item. */
const MARKER = 1;

/**
 * Latent variables explain their items, the first with a loading of one; sentences explain variables; whatever nothing explains
 * may covary freely; residuals do not (specification of factors and paths after Bollen 1989).
 * @param factors measures that reflect a latent variable, as far as the theory uses them
 */
export function buildModel(theory: CompiledTheory, factors: Measure[]): BuiltModel {
  const latent = factors.map((m) => m.name.name);
  const items = factors.flatMap((m) => m.items.map((item) => item.ref.name));
  const nodes = new Set(
    theory.equations.flatMap((e) => [e.outcome, ...e.predictors, ...e.covariates]),
  );
  const others = [...nodes].filter((name) => !latent.includes(name) && !items.includes(name));
  const observed = [...new Set([...items, ...others])];
  const explained = new Set(theory.equations.map((e) => e.outcome));
  const exogenous = [...nodes].filter((name) => !explained.has(name) && !items.includes(name));
  const arrows: Arrow[] = [
    ...factors.flatMap(loadings),
    ...theory.equations.flatMap(({ outcome, predictors, covariates }) =>
      [...new Set([...predictors, ...covariates])].map((from): Arrow => ({
        kind: "path",
        from,
        to: outcome,
        label: coefficientLabel(outcome, from),
        value: 0,
      })),
    ),
    ...[...observed, ...latent].map((name): Arrow => variance(name, factors)),
    ...exogenous.flatMap((to, i) =>
      exogenous.slice(0, i).map((from) => free({ kind: "covariance", from, to })),
    ),
  ];
  const means = observed.map((to) => free({ kind: "intercept", from: "", to }));
  return {
    whole: compileArrows(observed, latent, [...arrows, ...means]),
    covariances: compileArrows(observed, latent, arrows),
    arrows: [...arrows, ...means],
    observed,
    factors,
  };
}

const free = (arrow: Pick<Arrow, "kind" | "from" | "to">): Arrow => ({
  ...arrow,
  label: arrowName(arrow),
  value: 0,
});

const loadings = ({ name, items }: Measure): Arrow[] =>
  items.map(({ ref }, i) => {
    const arrow = { kind: "path", from: name.name, to: ref.name } as const;
    return i === 0 ? { ...arrow, label: null, value: MARKER } : free(arrow);
  });

/** The only item of a factor is taken as free of error: with nothing beside it nothing can tell error from factor. */
function variance(name: string, factors: Measure[]): Arrow {
  const arrow = { kind: "covariance", from: name, to: name } as const;
  const alone = factors.some((m) => m.items.length === 1 && m.items[0]!.ref.name === name);
  return alone ? { ...arrow, label: null, value: 0 } : free(arrow);
}
