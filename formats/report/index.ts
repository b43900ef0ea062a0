export { docxReport, type Picture } from "./docx";
export { htmlReport, htmlTable } from "./html";
export { latexTables } from "./latex";
export { markdownReport } from "./markdown";
export { bibTex, cslJson } from "./references";
export { xlsxReport } from "./xlsx";
