import type {
  DataEvidence,
  Evidence,
  FigureBlock,
  FigureChoices,
  ReportDocument,
} from "../../../core";
import type { LoadedStudy } from "../../../formats";
import { drawFigure, type DrawnFigure, type FigureStyle } from "../../../formats/figures";
import { sansUrl } from "../figure/font-faces";
import { download, fileName } from "../download";
import { pngOf } from "./png";

/** What a report can be taken along as. */
export const FORMATS = [
  ["docx", "Word document"],
  ["html", "Web page"],
  ["xlsx", "Tables as workbook"],
  ["md", "Markdown"],
  ["tex", "LaTeX tables"],
  ["bib", "References, BibTeX"],
  ["json", "References, CSL-JSON"],
] as const;
export type ReportFormat = (typeof FORMATS)[number][0];

const TYPES: Record<ReportFormat, string> = {
  docx: "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  html: "text/html",
  md: "text/markdown",
  tex: "application/x-tex",
  bib: "application/x-bibtex",
  json: "application/json",
};

/** Resolution of pictures in a word-processor document, for programs that draw no vectors. */
const DOCUMENT_DPI = 300;

export const figureStyle = (
  { widthMm, fontPt }: FigureChoices,
  decimal: "." | ",",
  font: string | null = null,
): FigureStyle => ({ widthMm, fontPt, decimal, fontUrl: font });

const figuresOf = (report: ReportDocument): FigureBlock[] =>
  report.blocks.filter((b) => b.kind === "figure");

/** All figures of a report with their font inside, by id. */
async function drawnFigures(
  report: ReportDocument,
  evidence: Evidence,
  choices: FigureChoices,
): Promise<Map<string, DrawnFigure>> {
  const style = figureStyle(choices, report.decimal, await sansUrl());
  return new Map(
    figuresOf(report).flatMap((block) => {
      const drawn = drawFigure(block, evidence, style);
      return drawn ? [[block.id, drawn] as const] : [];
    }),
  );
}

/** Makes a file of a report and hands it over. The writers are loaded only when they are wanted. */
export async function saveReport(
  format: ReportFormat,
  report: ReportDocument,
  evidence: Evidence,
  choices: FigureChoices,
): Promise<void> {
  const content = await contentOf(format, report, evidence, choices);
  const name = fileName(`${report.title} report`, `.${format}`);
  download(name, new Blob([content as BlobPart]), TYPES[format]);
}

async function contentOf(
  format: ReportFormat,
  report: ReportDocument,
  evidence: Evidence,
  choices: FigureChoices,
): Promise<string | Uint8Array> {
  const write = await import("../../../formats/report");
  const sources = report.blocks.flatMap((b) => (b.kind === "references" ? b.items : []));
  switch (format) {
    case "xlsx":
      return write.xlsxReport(report);
    case "tex":
      return write.latexTables(report);
    case "bib":
      return write.bibTex(sources);
    case "json":
      return write.cslJson(sources);
    default: {
      const drawn = await drawnFigures(report, evidence, choices);
      const svgs = new Map([...drawn].map(([id, { svg }]) => [id, svg]));
      if (format === "html") return write.htmlReport(report, svgs);
      if (format === "md") return write.markdownReport(report, (id) => dataUrl(svgs.get(id)));
      const pictures = new Map(
        await Promise.all(
          [...drawn].map(
            async ([id, figure]) =>
              [id, { ...figure, png: await pngOf(figure, DOCUMENT_DPI) }] as const,
          ),
        ),
      );
      return write.docxReport(report, pictures);
    }
  }
}

/**
 * Everything that somebody else needs to read the study and to run it again, as one archive.
 * @param data what the data say; null where that is not known yet
 */
export async function savePack(
  study: LoadedStudy,
  report: ReportDocument,
  evidence: Evidence,
  data: DataEvidence | null,
  choices: FigureChoices,
): Promise<void> {
  const { writePack } = await import("../../../formats/pack");
  const drawn = await drawnFigures(report, evidence, choices);
  const figures = new Map(
    figuresOf(report).flatMap(({ id, number }) => {
      const own = drawn.get(id);
      return own ? [[`figure-${number}`, own.svg] as const] : [];
    }),
  );
  const bytes = writePack(study, evidence, data, {
    reportHtml: (await contentOf("html", report, evidence, choices)) as string,
    reportDocx: (await contentOf("docx", report, evidence, choices)) as Uint8Array,
    figures,
  });
  download(fileName(report.title, ".zip"), new Blob([bytes as BlobPart]), "application/zip");
}

const dataUrl = (svg: string | undefined): string | null =>
  svg === undefined ? null : `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`;

/** One figure as a file: vectors, or points at a resolution. */
export async function saveFigure(
  block: FigureBlock,
  evidence: Evidence,
  choices: FigureChoices,
  decimal: "." | ",",
  as: "svg" | 300 | 600,
): Promise<void> {
  const drawn = drawFigure(block, evidence, figureStyle(choices, decimal, await sansUrl()));
  if (!drawn) return;
  const name = `figure ${block.number} ${block.title}`;
  if (as === "svg") download(fileName(name, ".svg"), drawn.svg, "image/svg+xml");
  else
    download(
      fileName(`${name} ${as} dpi`, ".png"),
      new Blob([await pngOf(drawn, as)]),
      "image/png",
    );
}
