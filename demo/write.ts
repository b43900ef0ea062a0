import { mkdirSync, writeFileSync } from "node:fs";
import ExcelJS from "exceljs";
import Papa from "papaparse";
import { studyJsonSchema } from "../formats";
import { DEMO_COLUMNS, demoRows, demoStudy } from "./study";

/**
 * Writes the demo data as CSV and as a workbook of two sheets, and the published schema of the
 * study file.
 */
const rows = demoRows();
writeFileSync(
  "demo/language-cafe.csv",
  `${Papa.unparse([DEMO_COLUMNS, ...rows], { newline: "\n" })}\n`,
);

const book = new ExcelJS.Workbook();
// A fixed date keeps the file the same at every run.
book.created = book.modified = new Date(Date.UTC(2026, 0, 1));
const answers = book.addWorksheet("answers");
answers.addRow(DEMO_COLUMNS);
for (const row of rows)
  answers.addRow(
    row.map((text) => (text !== "" && !Number.isNaN(Number(text)) ? Number(text) : text || null)),
  );
const codebook = book.addWorksheet("codebook");
codebook.addRow(["variable", "label", "unit", "level", "missing codes"]);
for (const v of demoStudy().definition.variables)
  codebook.addRow([v.name, v.label ?? "", v.unit ?? "", v.level, (v.missing ?? []).join(", ")]);
await book.xlsx.writeFile("demo/language-cafe.xlsx");

mkdirSync("docs", { recursive: true });
writeFileSync("docs/study.schema.json", `${JSON.stringify(studyJsonSchema(), null, 2)}\n`);
console.log(`${rows.length} rows written.`);
