import { Phi, phi } from "../numerics/distributions";
import { exp } from "../numerics/elementary";

/**
 * How a linear predictor becomes the mean of a response: as it is, or by the inverse of a logit,
 * probit or logarithm.
 */
export type Link = "identity" | "logit" | "probit" | "log";

/** The logistic function, 1 / (1 + exp(-η)), without overflow on either side. */
export const expit = (eta: number): number =>
  eta >= 0 ? 1 / (1 + exp(-eta)) : exp(eta) / (1 + exp(eta));

const INVERSES: Record<Link, { mean: (eta: number) => number; slope: (eta: number) => number }> = {
  identity: { mean: (eta) => eta, slope: () => 1 },
  logit: {
    mean: expit,
    slope: (eta) => {
      const p = expit(eta);
      return p * (1 - p);
    },
  },
  probit: { mean: Phi, slope: phi },
  log: { mean: exp, slope: exp },
};

/** The mean of a response at a linear predictor, and its derivative. */
export const inverseLink = (link: Link) => INVERSES[link];

/** The scale of a linear predictor by its short name; empty where it is the mean itself. */
export const linkName = (link: Link): string =>
  ({ identity: "", logit: "log odds", probit: "probit index", log: "log counts" })[link];
