export { addNote, layOutSheet } from "./report/sheet-layout";
export { sheetName } from "./report/sheet-name";
export { FormatProblem } from "./problem";
export { decodeText } from "./text-encoding";
export {
  guessHeader,
  guessSeparator,
  readDelimited,
  SEPARATORS,
  type DelimitedOptions,
  type Separator,
} from "./delimited";
export { type ReadTable } from "./row-collector";
export { looksLikeMatrix } from "./matrix-table";
export {
  chooseSheet,
  matrixOf,
  openData,
  readData,
  type DataLayout,
  type DataSource,
  type Opened,
} from "./open-data";
export { tableOfMoments } from "./moments";
export { applyCodebook, codebookCsv, type Codebook } from "./codebook";
export {
  check,
  parseJson,
  readStudy,
  writeStudy,
  type CsvReader,
  type LoadedStudy,
} from "./study-file";
export {
  replicatesSchema,
  studyJsonSchema,
  studySchema,
  type MomentsFile,
  type ReplicatesFile,
  type StudyFile,
} from "./study-schema";
export { effectsCsv, neutralise } from "./effects-table";
