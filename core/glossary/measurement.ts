import type { GlossaryEntry } from "./entry";

/** How well items measure what they are meant to measure. */
export const MEASUREMENT: readonly GlossaryEntry[] = [
  {
    term: "alpha",
    definition:
      "Internal consistency of a sum or mean of items; a lower bound of its reliability when errors are unrelated, exact when all items measure equally well.",
    formula: "k / (k − 1) · (1 − Σ item variances / variance of the sum)",
    source: "Cronbach 1951, Psychometrika 16",
  },
  {
    term: "alpha if item deleted",
    definition:
      "Alpha of the remaining items. Where it is clearly higher, the item disturbs the scale.",
  },
  {
    term: "AVE",
    also: ["√AVE"],
    definition:
      "Average variance extracted: the mean share of its items' variance that a construct explains.",
    formula: "Σ λ² / k",
    source: "Fornell & Larcker 1981, J Marketing Res 18",
  },
  {
    term: "BIC",
    definition:
      "Bayesian information criterion of an exploratory model: misfit less what its degrees of freedom would cost; of several numbers of factors the lowest is preferred.",
    formula: "χ² − df · ln n",
    source: "Schwarz 1978, Ann Stat 6; Raftery 1995, Sociol Methodol 25",
  },
  {
    term: "factor",
    also: ["factors"],
    definition:
      "What several items have in common. Exploratory analysis asks how many there are and which items load on which; a theory then states it, for other people to confirm.",
    source: "Lawley & Maxwell 1971, Factor Analysis as a Statistical Method",
  },
  {
    term: "parallel analysis",
    definition:
      "How many factors: as many as have larger eigenvalues than 95 % of samples without any common factor.",
    source: "Horn 1965, Psychometrika 30; Glorfeld 1995, Educ Psychol Meas 55",
  },
  {
    term: "minimum average partial",
    definition:
      "How many factors: as many components as leave the smallest average squared partial correlation behind.",
    source: "Velicer 1976, Psychometrika 41",
  },
  {
    term: "oblimin",
    also: ["geomin", "varimax", "rotation"],
    definition:
      "Rotations turn factors so that each item loads on few of them. Oblimin and geomin let factors correlate, varimax does not.",
    source:
      "Jennrich & Sampson 1966, Psychometrika 31; Browne 2001, Multivar Behav Res 36; Kaiser 1958, Psychometrika 23",
  },
  {
    term: "residuals",
    also: ["RMSR"],
    definition: "Root mean square of what the correlations of the items have beyond the factors.",
    formula: "√(Σ residual² / (k (k − 1) / 2))",
  },
  {
    term: "communality",
    also: ["explained"],
    definition:
      "Share of an item's variance that its construct explains; in one factor the square of the standardised loading.",
    formula: "λ²",
  },
  {
    term: "composite reliability",
    definition: "Reliability of a sum of items from their loadings, which need not be equal.",
    formula: "(Σ λ)² / ((Σ λ)² + Σ (1 − λ²))",
    source: "Jöreskog 1971, Psychometrika 36",
  },
  {
    term: "corrected item-total r",
    definition: "Correlation of an item with the sum of the other items of its measure.",
  },
  {
    term: "cross-loadings",
    definition:
      "Correlations of an item with the scores of constructs that it is not meant to measure.",
  },
  {
    term: "Fornell-Larcker",
    definition:
      "A construct should share more variance with its own items than with any other construct: its √AVE exceeds its correlations.",
    source: "Fornell & Larcker 1981, J Marketing Res 18",
  },
  {
    term: "HTMT",
    also: ["largest HTMT"],
    definition:
      "Heterotrait-monotrait ratio: correlations of items between two constructs, relative to those within them; near 1 the two cannot be told apart.",
    source: "Henseler, Ringle & Sarstedt 2015, J Acad Marketing Sci 43",
  },
  {
    term: "HTMT2",
    definition:
      "HTMT with geometric in place of arithmetic means of the correlations, for items that measure unequally well.",
    source: "Roemer, Schuberth & Henseler 2021, Ind Manag Data Syst 121",
  },
  {
    term: "item keying",
    also: ["keyed", "reversed"],
    definition:
      "Whether a high answer stands for much or for little of what is measured; reversed items are turned before they are summed.",
    formula: "lowest + highest answer − answer",
  },
  {
    term: "latent variable",
    definition:
      "A variable that is not observed itself: what its items have in common explains their answers, each with an error of its own.",
    source: "Bollen 1989",
  },
  {
    term: "loading",
    also: ["loadings", "would also load on"],
    definition:
      "The effect of a latent variable on an item: by how much the item moves when the latent variable moves by one unit.",
  },
  {
    term: "measurement invariance",
    also: ["what is equal", "held equal"],
    definition:
      "Items measure the same in all groups: the same loadings make paths comparable, the same intercepts make means comparable, too.",
    source: "Meredith 1993, Psychometrika 58",
  },
  {
    term: "omega",
    definition: "Reliability of the sum of items from one common factor with free loadings.",
    formula: "(Σ λ)² / ((Σ λ)² + Σ uniqueness)",
    source: "McDonald 1999",
  },
  {
    term: "rho_A",
    definition:
      "Reliability of a weighted score of items that reflect a common factor, from its weights.",
    source: "Dijkstra & Henseler 2015, MIS Quarterly 39",
  },
  {
    term: "squared multiple r",
    definition: "Share of an item's variance that the other items explain.",
  },
];
