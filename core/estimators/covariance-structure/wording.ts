import { plain } from "../../wording/numbers";
import { warningsIn } from "../../wording/warnings";

/** A warning of covariance-structure models; what its sentences say stands here and nowhere else. */
export const warning = warningsIn({
  negative_variance: ({
    name,
    estimate,
    se,
  }: {
    name: string;
    estimate: number;
    se: number | null;
  }) =>
    `The ${name} is negative (${plain(estimate)}${se === null ? "" : `, SE ${plain(se)}`}), which no variance can be (Heywood case). ${
      se !== null && estimate + 2 * se > 0
        ? "Zero lies within its interval, so it may be chance; the solution is shown as it is."
        : "Zero lies outside its interval: the model does not suit these items."
    }`,
  latent_correlation: ({ a, b, r }: { a: string; b: string; r: number }) =>
    `The latent variables “${a}” and “${b}” correlate ${plain(r, 2)}: they cannot be told apart.`,
});

/** Why a model of latent variables cannot be estimated, in words that say what to do. */
export const UNSUITED = {
  products:
    "Latent variables in interactions are not estimated yet. Measure the moderator as an average (“averages” instead of “reflects”) to estimate its interaction by least squares.",
  categorical: (name: string) =>
    `“${name}” has more than two groups; beside latent variables it is not estimated yet. Make code columns of it on the Data screen and use those.`,
  clusters:
    "Clusters are not allowed for yet where there are latent variables. Take the cluster column out of the analysis settings.",
  moments:
    "Latent variables need the rows of the data; from a matrix of covariances they are not estimated yet.",
  singular: (names: readonly string[]) =>
    `The sample covariances of ${names.join(", ")} are singular: one of these never varies, is computed from others, or there are too few rows. Take it out of its measure.`,
  negativeDf: (parameters: number, moments: number) =>
    `There are more free parameters (${parameters}) than means, variances and covariances (${moments}), so nothing can be estimated. Give each latent variable more items, or leave out paths.`,
  underIdentified:
    "The data cannot tell all parameters of this model apart (it is under-identified). A latent variable with two items needs a covariance with another variable, one with three stands alone.",
  notConverged:
    "The estimates did not settle down within 500 steps, so there is no result. Look for items that hardly correlate with the others of their measure, or for a latent variable that explains nothing.",
} as const;
