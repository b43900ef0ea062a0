import { WITHHELD } from "../../wording";
import { coefficientLabel, multiply, number, parameter, type Expression } from "../../model";
import { normalP, zQuantile } from "../../numerics/distributions";
import { standardDeviation } from "../../numerics/moments";
import type { LinkCoefficient, LinkProduct } from "./types";
import type { Response, Triad } from "./causal-model";
import { isBinary } from "./families";
import { GeneralisedFit } from "./generalised-fit";
import type { FittedResponses } from "./fitted-responses";
import { designOf, type Term } from "./terms";

/**
 * Variance of what stands behind a yes/no response beyond its predictor: of a logistic and of a
 * standard normal variable.
 */
const LATENT = { logistic: (Math.PI * Math.PI) / 3, probit: 1 } as const;

/**
 * Treatments with one straight-line mediator on the way to a yes/no response, nothing moderated on
 * the way.
 */
export function linkTriads({ model, theory }: FittedResponses): Triad[] {
  return model.triads.filter(({ at, block, outcome, contrast }) => {
    const [mediator] = block as [string];
    const find = (name: string): Response => model.responses.find((r) => r.outcome === name)!;
    return (
      at === null &&
      block.length === 1 &&
      isBinary(find(outcome).family) &&
      find(mediator).family === "linear" &&
      !theory.moderated.some(
        (m) => [mediator, outcome].includes(m.to) && [contrast.variable, mediator].includes(m.from),
      )
    );
  });
}

/** How the resamples of a product are found again. */
export const linkLabel = (at: number): string => `product on the scale of the model ${at + 1}`;

/**
 * a b as a function of the parameters, where the outcome has no product of treatment and mediator.
 */
export function linkFormula(
  { parameters, model }: FittedResponses,
  { contrast, block, outcome }: Triad,
): Expression | null {
  const [mediator] = block as [string];
  const { terms } = model.responses.find((r) => r.outcome === outcome)!;
  if (terms.some((t) => t.length > 1)) return null;
  const of = (response: string, key: string): Expression =>
    parameter(parameters.index.get(coefficientLabel(response, key))!);
  return multiply(
    multiply(number(contrast.distance), of(mediator, contrast.key)),
    of(outcome, mediator),
  );
}

/**
 * Products of coefficients with a yes/no response: the mediator by a straight line, the response
 * without and with the mediator, same covariates. Null where one of the two models has no finite
 * estimate.
 */
export function linkProduct(
  fit: FittedResponses,
  { contrast, mediator, outcome }: Triad,
  level: number,
): Omit<LinkProduct, "bootstrap"> | null {
  const { model } = fit;
  const find = (name: string): Response => model.responses.find((r) => r.outcome === name)!;
  const own = find(outcome);
  const full = own.terms.filter((t) => !(t.includes(contrast.key) && t.includes(mediator)));
  const without = full.filter((t) => !t.includes(mediator));
  const [ofM, ofTotal, ofFull] = [
    fitted(fit, find(mediator), find(mediator).terms),
    fitted(fit, own, without),
    fitted(fit, own, full),
  ];
  if (!ofM || !ofTotal || !ofFull) return null;
  const d = contrast.distance;
  const a = ofM.of(contrast.key, d);
  const b = ofFull.of(mediator, 1);
  const total = ofTotal.of(contrast.key, d);
  const direct = ofFull.of(contrast.key, d);
  const product = a.estimate * b.estimate;
  const se = Math.sqrt((a.estimate * b.se) ** 2 + (b.estimate * a.se) ** 2);
  const z = zQuantile(1 - (1 - level) / 2);
  const reach = z * se;
  const [pa, pb] = [ofM.influence(contrast.key), ofFull.influence(mediator)];
  let squares = 0;
  for (let i = 0; i < model.n; i++) squares += (a.estimate * pb[i]! + b.estimate * d * pa[i]!) ** 2;
  const variance = LATENT[own.family as keyof typeof LATENT];
  const sd = (of: NonNullable<typeof ofFull>): number =>
    Math.sqrt(standardDeviation(of.predictor) ** 2 + variance);
  const latentSd = { total: sd(ofTotal), full: sd(ofFull) };
  const rescaled = {
    b: b.estimate / latentSd.full,
    total: total.estimate / latentSd.total,
    direct: direct.estimate / latentSd.full,
    product: product / latentSd.full,
    difference: total.estimate / latentSd.total - direct.estimate / latentSd.full,
  };
  const shares = {
    proportionProduct: rescaled.product / (rescaled.product + rescaled.direct),
    proportionDifference: 1 - rescaled.direct / rescaled.total,
  };
  const zero = Math.abs(total.estimate) <= z * total.se;
  const opposite = Object.values(shares).some((s) => !(s >= 0 && s <= 1));
  return {
    treatment: contrast.variable,
    contrast: contrast.label,
    mediator,
    outcome,
    a,
    b,
    total,
    direct,
    product: {
      estimate: product,
      se,
      z: product / se,
      p: normalP(product / se),
      lower: product - reach,
      upper: product + reach,
      robustSe: Math.sqrt(squares) / model.n,
    },
    difference: total.estimate - direct.estimate,
    latentSd,
    rescaled: {
      ...rescaled,
      ...shares,
      withheld: zero ? WITHHELD.zero("total") : opposite ? WITHHELD.opposite : null,
    },
  };
}

/** One model with other terms than its own; null where it has no finite estimate. */
function fitted(
  { model }: FittedResponses,
  { equation, family }: Response,
  terms: readonly Term[],
) {
  const { n, base } = model;
  const p = terms.length;
  const design = designOf(terms, base, n);
  const own = new GeneralisedFit({ ...equation, design, columns: p });
  if (own.fit(new Float64Array(n).fill(1)) !== "converged") return null;
  const inverse = own.outward(own.innerInverse());
  const scale = family === "linear" ? own.deviance / (n - p) : 1;
  const influence = own.influence(inverse);
  const place = (key: string): number => terms.findIndex((t) => t.length === 1 && t[0] === key);
  return {
    of: (key: string, distance: number): LinkCoefficient => ({
      estimate: distance * own.beta[place(key)]!,
      se: Math.abs(distance) * Math.sqrt(scale * inverse[place(key) * p + place(key)]!),
    }),
    influence: (key: string): Float64Array =>
      Float64Array.from({ length: n }, (_, i) => influence[i * p + place(key)]!),
    predictor: Float64Array.from({ length: n }, (_, i) => {
      let sum = equation.offset?.[i] ?? 0;
      for (let k = 0; k < p; k++) sum += design[i * p + k]! * own.beta[k]!;
      return sum;
    }),
  };
}
