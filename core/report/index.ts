export { captionNames, composeReport, partsWithContent, type ReportSources } from "./compose";
export {
  completeChoices,
  DEFAULT_REPORT,
  PART_NAMES,
  PARTS,
  type FigureChoices,
  type PartId,
  type ReportChoices,
  type ReportStyle,
} from "../study";
export type * from "./document";
export { hasSurface } from "./parts/figures";
export { arrowNote, pathEffects, type PathUnits } from "./path-numbers";
export { plainText } from "./present";
export { referenceText } from "./references";
export { registrationDocument } from "./registration";
