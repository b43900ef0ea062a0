import type { CompiledTheory, Measure } from "../../theory";
import { constrained } from "./group-arrows";
import type { LatentInteraction } from "./latent-moderated";
import { Parts, type BuiltProduct, type ModelContext } from "./model-parts";
import type { Specification } from "./specification";

/** A theory as arrows, with the names that its parts go by. */
export interface BuiltModel {
  spec: Specification;
  factors: Measure[];
  /** Columns of the data, then products of them. */
  dataColumns: string[];
  products: BuiltProduct[];
  /** With full information: products that have no items. */
  interactions: LatentInteraction[];
  /** Products are what is left of them beside all items of both factors. */
  residualCentring: boolean;
}

/**
 * Latent variables explain their items, the first with a loading of one; sentences explain
 * variables; whatever nothing explains may covary freely; residuals do not unless they are said to
 * (specification of factors and paths after Bollen 1989).
 * @throws StudyProblem for constraints on what is not there
 */
export function buildModel(theory: CompiledTheory, context: ModelContext): BuiltModel {
  const parts = new Parts(theory, context);
  const arrows = parts.arrows();
  const groups = context.groups.map((name, g) => ({
    name,
    arrows: constrained(theory, arrows, parts, context, g),
  }));
  return {
    spec: {
      observed: parts.observed,
      latent: parts.latent,
      groups,
      means: context.options.means,
      estimator: context.options.estimator,
      convention: context.options.convention,
      units: parts.units(),
    },
    factors: context.factors,
    dataColumns: parts.observed.filter((name) => !parts.productItems.has(name)),
    products: parts.products,
    interactions: parts.interactions,
    residualCentring: context.options.interactions.endsWith("_residual"),
  };
}
