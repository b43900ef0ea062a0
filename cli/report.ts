import { extname } from "node:path";
import { completeChoices, composeReport, type ReportSources } from "../core";
import { FormatProblem } from "../formats";
import { drawFigure, type DrawnFigure } from "../formats/figures";
import {
  docxReport,
  htmlReport,
  latexTables,
  markdownReport,
  xlsxReport,
  type Picture,
} from "../formats/report";
import type { PackExtras } from "../formats/pack";
import { fontUrl, pngOf } from "./points";

export const REPORT_ENDINGS = [".html", ".md", ".docx", ".xlsx", ".tex"];

/** Resolution of pictures in a word-processor document, for programs that draw no vectors. */
const DOCUMENT_DPI = 300;

/** A report, and its figures by the names of their blocks. */
function drawnReport(sources: ReportSources) {
  const choices = completeChoices(sources.definition.report);
  const report = composeReport(sources, choices);
  const { widthMm, fontPt } = choices.figures;
  const style = { widthMm, fontPt, decimal: report.decimal, fontUrl: fontUrl() };
  const figures = new Map(
    report.blocks.flatMap((block) => {
      const drawn = block.kind === "figure" ? drawFigure(block, sources.evidence, style) : null;
      return block.kind === "figure" && drawn ? [[block.id, drawn] as const] : [];
    }),
  );
  return { report, figures };
}

/**
 * What an archive holds beside the study and its evidence, to be compared: report and figures. Of a
 * word-processor document the words count, so its pictures are not drawn.
 */
export async function packExtras(sources: ReportSources, withDocx: boolean): Promise<PackExtras> {
  const { report, figures } = drawnReport(sources);
  const svgs = new Map([...figures].map(([id, { svg }]) => [id, svg]));
  return {
    reportHtml: htmlReport(report, svgs),
    reportDocx: withDocx ? await docxReport(report, withoutPoints(figures)) : null,
    figures: new Map(
      report.blocks.flatMap((block) => {
        const svg = block.kind === "figure" ? svgs.get(block.id) : undefined;
        return block.kind === "figure" && svg ? [[`figure-${block.number}`, svg] as const] : [];
      }),
    ),
  };
}

/**
 * The report of a study as a file of the kind that its name says, with the choices that the study
 * keeps.
 * @throws FormatProblem for another kind
 */
export async function reportFile(
  path: string,
  sources: ReportSources,
): Promise<string | Uint8Array> {
  const { report, figures } = drawnReport(sources);
  const pictures = new Map([...figures].map(([id, { svg }]) => [id, svg]));
  switch (extname(path).toLowerCase()) {
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
      return docxReport(report, await withPoints(figures));
    case ".xlsx":
      return xlsxReport(report);
    default:
      throw new FormatProblem(
        `A report is a file that ends in ${REPORT_ENDINGS.join(", ")}, not “${path}”.`,
      );
  }
}

const withoutPoints = (figures: ReadonlyMap<string, DrawnFigure>): Map<string, Picture> =>
  new Map([...figures].map(([id, figure]) => [id, { ...figure, png: new Uint8Array(0) }]));

async function withPoints(
  figures: ReadonlyMap<string, DrawnFigure>,
): Promise<Map<string, Picture>> {
  const pictures = new Map<string, Picture>();
  for (const [id, figure] of figures)
    pictures.set(id, { ...figure, png: await pngOf(figure, DOCUMENT_DPI) });
  return pictures;
}
