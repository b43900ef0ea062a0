/** Parts of a report, in the order in which papers have them. */
export const PARTS = [
  "sample",
  "measures",
  "methods",
  "descriptives",
  "measurement",
  "fit",
  "groups",
  "hypotheses",
  "limits",
  "effects",
  "conditional",
  "treatment",
  "equations",
  "prediction",
  "robustness",
  "figures",
  "references",
  "working",
] as const;
export type PartId = (typeof PARTS)[number];

export const PART_NAMES: Record<PartId, string> = {
  sample: "Sample and screening",
  measures: "Measures",
  methods: "Statistical analysis",
  descriptives: "Descriptive statistics and correlations",
  measurement: "Measurement quality",
  fit: "Fit of the model",
  groups: "Differences between groups",
  hypotheses: "Tests of the hypotheses",
  limits: "Limits of these results",
  effects: "Direct, indirect and total effects",
  conditional: "Conditional effects",
  treatment: "Effects of the treatment",
  equations: "Equations",
  prediction: "Prediction of new cases",
  robustness: "Robustness",
  figures: "Figures",
  references: "References",
  working: "Appendix: where the numbers come from",
};

/** How numbers and words are written. */
export interface ReportStyle {
  /**
   * `behavioural`: statistical symbols in italics, no zero before the point of what cannot exceed
   * one, limits in brackets. `medical`: zeros kept, capital P with two decimals, limits joined by
   * “to”.
   */
  journal: "behavioural" | "medical";
  /** Decimals of estimates. */
  digits: 2 | 3;
  decimal: "." | ",";
  spelling: "british" | "american";
  /** One sentence on what words of cause and effect rest on. */
  conditions: boolean;
  /** Of effects: as measured, in SDs of the outcome, in SDs of both. */
  units: "raw" | "partially_standardised" | "completely_standardised";
}

/** How figures are drawn for print. */
export interface FigureChoices {
  /** One column of a journal, one and a half, or both. */
  widthMm: 85 | 120 | 175;
  fontPt: 7 | 8 | 9 | 10;
  /** The model with its estimates, its concepts alone, or both. */
  diagram: "statistical" | "conceptual" | "both";
  /** What stands under an estimate on an arrow. */
  beside: "interval" | "p" | "nothing";
  /** Predictions over a predictor and its moderator as a surface, beside the lines. */
  surface: boolean;
}

/** What of the evidence stands in the report, in what order and style. */
export interface ReportChoices extends ReportStyle {
  figures: FigureChoices;
  parts: { id: PartId; shown: boolean }[];
}

export const DEFAULT_REPORT: ReportChoices = {
  journal: "behavioural",
  digits: 3,
  decimal: ".",
  spelling: "british",
  conditions: true,
  units: "raw",
  figures: { widthMm: 120, fontPt: 8, diagram: "statistical", beside: "interval", surface: false },
  // An appendix is for those who ask for it.
  parts: PARTS.map((id) => ({ id, shown: id !== "working" })),
};

/**
 * Choices made earlier. A part that exists since then stands after the one that comes before it in
 * papers, where parts on both sides of it were chosen, else at the end.
 */
export function completeChoices(chosen: Partial<ReportChoices> | undefined): ReportChoices {
  const parts = (chosen?.parts ?? []).filter(({ id }) => PARTS.includes(id));
  const stands = (id: PartId | undefined): boolean => parts.some((p) => p.id === id);
  const rest: PartId[] = [];
  PARTS.forEach((id, place) => {
    if (stands(id)) return;
    const before = PARTS[place - 1];
    if (!stands(before) || !PARTS.slice(place + 1).some(stands)) return void rest.push(id);
    const after = parts.findIndex((p) => p.id === before) + 1;
    parts.splice(after, 0, { id, shown: id !== "working" });
  });
  return {
    ...DEFAULT_REPORT,
    ...chosen,
    figures: { ...DEFAULT_REPORT.figures, ...chosen?.figures },
    parts: [...parts, ...rest.map((id) => ({ id, shown: id !== "working" }))],
  };
}
