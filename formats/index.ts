export { FormatProblem } from "./problem";
export { decodeText } from "./text-encoding";
export {
  guessHeader,
  guessSeparator,
  readDelimited,
  SEPARATORS,
  type DelimitedOptions,
  type DelimitedTable,
  type Separator,
} from "./delimited";
export { check, parseJson, readStudy, writeStudy, type CsvReader, type LoadedStudy } from "./study-file";
export { replicatesSchema, studyJsonSchema, studySchema, type ReplicatesFile, type StudyFile } from "./study-schema";
export { effectsCsv, neutralise } from "./effects-table";
