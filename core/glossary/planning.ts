import type { GlossaryEntry } from "./entry";

/** Before the data are there. */
export const PLANNING: readonly GlossaryEntry[] = [
  {
    term: "coverage",
    definition:
      "The share of simulated samples whose interval holds the true value; 95 % intervals should cover in 95 of 100.",
    source: "Burton et al. 2006, Stat Med 25",
  },
  {
    term: "joint significance",
    definition: "A test of mediation: every path of the chain differs from zero by its own t test.",
    source: "MacKinnon et al. 2002, Psychol Methods 7",
  },
  {
    term: "power",
    also: ["exact power"],
    definition:
      "The probability of finding an effect of a stated size in a sample of a stated size, with the test that will be used.",
    source: "Cohen 1988",
  },
  {
    term: "simulation error",
    also: ["error of the simulation"],
    definition: "By how much a share found by simulation scatters over simulations.",
    formula: "√(share (1 − share) / samples)",
  },
];
