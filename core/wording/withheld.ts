/** Why an effect, or a share or a ratio of effects, is not reported, in sentences. */
export const WITHHELD = {
  zero: (what: string): string =>
    `The ${what} effect may be zero (its interval contains 0), so dividing by it has no meaning.`,
  opposite:
    "The direct and the indirect effect have opposite signs, so one is no share of the other.",
  interval:
    "Its interval leaves out the estimate itself: the bootstrap samples scatter too wildly for limits to mean anything.",
  parts: "The parts of the total effect have opposite signs, so none is a share of it.",
} as const;
