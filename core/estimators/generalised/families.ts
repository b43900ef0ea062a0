import { Phi, phi } from "../../numerics/distributions";
import { expit } from "../../model";
import { exp, ln, log1p } from "../../numerics/elementary";

/** Models of a response. */
export const FAMILIES = ["linear", "logistic", "probit", "poisson", "negative_binomial"] as const;
export type FamilyId = (typeof FAMILIES)[number];

/** A response as a function of its linear predictor, and how it scatters about that. */
export interface Family {
  id: FamilyId;
  /** Inverse link. */
  mean(eta: number): number;
  /** First and second derivative of the mean. */
  slope(eta: number): number;
  /** The first derivative where the mean is known already. */
  slopeAt(eta: number, mu: number): number;
  curvature(eta: number): number;
  /** Third derivative of the mean. */
  bend(eta: number): number;
  /** Variance at a mean, but for the dispersion. */
  variance(mu: number): number;
  /** The linear predictor of a mean, to begin with. */
  link(mu: number): number;
  /** Part of the deviance of one row; weights multiply it. */
  deviance(y: number, mu: number): number;
}

/** -2 log-likelihood of a yes or no. */
const binaryDeviance = (y: number, mu: number): number => -2 * (y === 1 ? ln(mu) : ln(1 - mu));

const linear: Family = {
  id: "linear",
  mean: (eta) => eta,
  slope: () => 1,
  slopeAt: () => 1,
  curvature: () => 0,
  bend: () => 0,
  variance: () => 1,
  link: (mu) => mu,
  deviance: (y, mu) => (y - mu) * (y - mu),
};

const logistic: Family = {
  id: "logistic",
  mean: expit,
  slope: (eta) => {
    const p = expit(eta);
    return p * (1 - p);
  },
  slopeAt: (_, mu) => mu * (1 - mu),
  curvature: (eta) => {
    const p = expit(eta);
    return p * (1 - p) * (1 - 2 * p);
  },
  bend: (eta) => {
    const v = expit(eta) * expit(-eta);
    return v * (1 - 6 * v);
  },
  variance: (mu) => mu * (1 - mu),
  link: (mu) => ln(mu / (1 - mu)),
  deviance: binaryDeviance,
};

const probit: Family = {
  id: "probit",
  mean: Phi,
  slope: phi,
  slopeAt: phi,
  curvature: (eta) => -eta * phi(eta),
  bend: (eta) => (eta * eta - 1) * phi(eta),
  variance: (mu) => mu * (1 - mu),
  // Only where iterations begin, so a rough one will do: logit / 1.6.
  link: (mu) => ln(mu / (1 - mu)) / 1.6,
  deviance: binaryDeviance,
};

const poisson: Family = {
  id: "poisson",
  mean: exp,
  slope: exp,
  slopeAt: (_, mu) => mu,
  curvature: exp,
  bend: exp,
  variance: (mu) => mu,
  link: ln,
  deviance: (y, mu) => 2 * ((y > 0 ? y * ln(y / mu) : 0) - (y - mu)),
};

/** Counts that scatter by μ + μ²/θ; means are as in a Poisson model. */
export const negativeBinomial = (theta: number): Family => ({
  ...poisson,
  id: "negative_binomial",
  variance: (mu) => mu + (mu * mu) / theta,
  deviance: (y, mu) =>
    // Not by the logarithm of a ratio near one, which loses its digits where θ is large.
    2 * ((y > 0 ? y * ln(y / mu) : 0) - (y + theta) * log1p((y - mu) / (mu + theta))),
});

const ALL: Record<FamilyId, Family> = {
  linear,
  logistic,
  probit,
  poisson,
  // Where only means matter, whatever the size.
  negative_binomial: { ...poisson, id: "negative_binomial" },
};

export const familyOf = (id: FamilyId): Family => ALL[id];

export const isBinary = (id: FamilyId): boolean => id === "logistic" || id === "probit";

/** Counted responses. */
export const isCount = (id: FamilyId): boolean => id === "poisson" || id === "negative_binomial";
