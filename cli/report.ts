import { extname } from "node:path";
import { completeChoices, composeReport, type ReportSources } from "../core";
import { FormatProblem } from "../formats";
import { DEFAULT_FIGURE, drawFigure } from "../formats/figures";
import { docxReport, htmlReport, latexTables, markdownReport, xlsxReport } from "../formats/report";

export const REPORT_ENDINGS = [".html", ".md", ".docx", ".xlsx", ".tex"];

/**
 * The report of a study as a file of the kind that its name says, with the choices that the study keeps. A .docx file made here
 * has no figures: what draws the points that some word processors need is a browser.
 * @throws FormatProblem for another kind
 */
export async function reportFile(
  path: string,
  sources: ReportSources,
): Promise<string | Uint8Array> {
  const choices = completeChoices(sources.definition.report);
  const ending = extname(path).toLowerCase();
  const parts = choices.parts.map((p) =>
    p.id === "figures" && ending === ".docx" ? { ...p, shown: false } : p,
  );
  const report = composeReport(sources, { ...choices, parts });
  const { widthMm, fontPt } = choices.figures;
  const style = { ...DEFAULT_FIGURE, widthMm, fontPt, decimal: report.decimal };
  const pictures = new Map(
    report.blocks.flatMap((block) => {
      const drawn = block.kind === "figure" ? drawFigure(block, sources.evidence, style) : null;
      return block.kind === "figure" && drawn ? [[block.id, drawn.svg] as const] : [];
    }),
  );
  switch (ending) {
    case ".html":
      return htmlReport(report, pictures);
    case ".md":
      return markdownReport(report, (id) => {
        const svg = pictures.get(id);
        return svg ? `data:image/svg+xml;utf8,${encodeURIComponent(svg)}` : null;
      });
    case ".tex":
      return latexTables(report);
    case ".docx":
      return docxReport(report);
    case ".xlsx":
      return xlsxReport(report);
    default:
      throw new FormatProblem(
        `A report is a file that ends in ${REPORT_ENDINGS.join(", ")}, not “${path}”.`,
      );
  }
}
