/** Why a share or a ratio of effects is not reported, in sentences. */
export const WITHHELD = {
  zero: (what: string): string =>
    `The ${what} effect may be zero (its interval contains 0), so dividing by it has no meaning.`,
  opposite:
    "The direct and the indirect effect have opposite signs, so one is no share of the other.",
  parts: "The parts of the total effect have opposite signs, so none is a share of it.",
} as const;
