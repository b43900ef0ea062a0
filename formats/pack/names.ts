/** The study within an archive that is handed over, and what was found. */
export const STUDY = "study.hebel.json";
export const EVIDENCE = "evidence.json";
