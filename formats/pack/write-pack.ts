import { strToU8, zipSync, type Zippable } from "fflate";
import Papa from "papaparse";
import { cell, VERDICT_WORDS, type DataEvidence, type Evidence, type Table } from "../../core";
import { codebookCsv } from "../codebook";
import { neutralise } from "../effects-table";
import { EVIDENCE, STUDY } from "./names";
import { writeStudy, type LoadedStudy } from "../study-file";

/** What goes into a pack beside the study and its evidence. */
export interface PackExtras {
  /** The report as a page of its own. */
  reportHtml: string;
  /** As a word-processor document, where there is one. */
  reportDocx: Uint8Array | null;
  /** SVG by the names of their files, without ending. */
  figures: ReadonlyMap<string, string>;
}

/** The same time in every pack: what is in it does not depend on when it was made. */
const WHEN = new Date(2000, 0, 1);

/**
 * Everything that somebody else needs to read a study and to run it again, as one archive (zip).
 * @param data what the data say before any model; null where that was not asked for
 */
export function writePack(
  study: LoadedStudy,
  evidence: Evidence,
  data: DataEvidence | null,
  { reportHtml, reportDocx, figures }: PackExtras,
): Uint8Array {
  const { definition, table } = study;
  const files: Zippable = {
    "README.txt": strToU8(readMe(study, evidence)),
    [STUDY]: strToU8(writeStudy(study)),
    ...(table.moments ? {} : { "data.csv": strToU8(dataCsv(table)) }),
    "codebook.csv": strToU8(codebookCsv(definition.variables)),
    [EVIDENCE]: strToU8(`${JSON.stringify({ ...evidence, ...(data ? { data } : {}) }, null, 2)}\n`),
    "report.html": strToU8(reportHtml),
    ...(reportDocx ? { "report.docx": [reportDocx, { level: 0 }] } : {}),
  };
  for (const [name, svg] of figures) files[`figures/${name}.svg`] = strToU8(svg);
  return zipSync(files, { mtime: WHEN });
}

/** The cells as they were imported. */
function dataCsv({ columns, rows }: Table): string {
  const lines = Array.from({ length: rows }, (_, i) => columns.map((c) => neutralise(cell(c, i))));
  return `${Papa.unparse([columns.map((c) => neutralise(c.name)), ...lines])}\r\n`;
}

/** How to read the pack, and how to run it again. */
function readMe({ definition, table }: LoadedStudy, evidence: Evidence): string {
  const { settings, hypotheses, sample, engine } = evidence;
  const verdicts = hypotheses.map(
    ({ label, sentence, verdict }) => `  ${label}  ${sentence}: ${VERDICT_WORDS[verdict]}`,
  );
  return [
    definition.title,
    ...(definition.question ? [definition.question] : []),
    "",
    `${sample.n} of ${sample.rowsRead} ${evidence.unit || "rows"} analysed; seed ${settings.seed}, ${settings.replications} bootstrap samples; ${engine}.`,
    ...verdicts,
    "",
    "In this archive",
    `  ${STUDY}   the study: data, measures, hypotheses, settings; open it in Hebel`,
    ...(table.moments ? [] : ["  data.csv           the data as they were imported"]),
    "  codebook.csv       what the variables are",
    `  ${EVIDENCE}      every number that was found`,
    "  report.html        the report; figures/ its figures",
    "",
    "To run it again, in a copy of Hebel with Node 20 or newer:",
    "  npm run --silent analyse -- PACK.zip --verify",
    "It says of every number and every file whether it is the same.",
    "",
  ].join("\n");
}
