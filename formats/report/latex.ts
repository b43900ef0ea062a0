import { oneLine } from "../markup";
import { latexColumns } from "./latex-columns";
import { captionNames, type ReportDocument, type TableBlock, type Text } from "../../core";

const MARKS: Record<string, string> = {
  "\\": "\\textbackslash{}",
  "{": "\\{",
  "}": "\\}",
  $: "\\$",
  "&": "\\&",
  "#": "\\#",
  "%": "\\%",
  _: "\\_",
  "^": "\\textasciicircum{}",
  "~": "\\textasciitilde{}",
  "<": "$<$",
  ">": "$>$",
  "−": "$-$",
  "≤": "$\\le$",
  "≥": "$\\ge$",
  "×": "$\\times$",
  "→": "$\\rightarrow$",
  "√": "$\\surd$",
  "²": "\\textsuperscript{2}",
  "–": "--",
  "“": "``",
  "”": "''",
  "\u202f": "\\,",
  α: "$\\alpha$",
  β: "$\\beta$",
  χ: "$\\chi$",
  ω: "$\\omega$",
  ρ: "$\\rho$",
  Δ: "$\\Delta$",
};

const latex = (text: string): string =>
  [...oneLine(text)].map((mark) => MARKS[mark] ?? mark).join("");

/** A bracket or star at the start of a cell would be taken for an option of the line before it. */
const cellOf = (text: string): string => latex(text).replace(/^\s*(?=[[*])/, "{}");

const label = (id: string): string => `tab:${id.replace(/[^A-Za-z0-9]+/g, "-")}`;

/**
 * All tables of a report, each with caption and label: a float, or a table over several pages where
 * it is long; words break within their columns where a line would not hold them.
 */
export function latexTables(document: ReportDocument): string {
  const names = captionNames(document.blocks);
  const tables = document.blocks.filter((b) => b.kind === "table");
  return `% ${oneLine(document.title)}
% Needs \\usepackage{array,booktabs,longtable,rotating} and, for long titles, \\usepackage{caption}.
${tables.map((t) => latexTable(t, names, document.leftOut)).join("\n")}`;
}

/** Rows from which on a table breaks over pages. */
const LONG = 32;

function latexTable(
  table: TableBlock,
  names: ReadonlyMap<string, string>,
  leftOut: readonly string[],
): string {
  const { set, room } = latexColumns(table);
  const line = (cells: readonly string[]): string => `${cells.map(cellOf).join(" & ")} \\\\`;
  const rows = table.rows.map(({ cells, heading }) =>
    heading
      ? `\\multicolumn{${table.columns.length}}{l}{\\textit{${latex(cells[0]!.text)}}} \\\\`
      : line(cells.map((c) => c.text)),
  );
  const notes = [...leftOut.map((words): Text => [words]), ...table.notes]
    .map((n) => `\\par\\smallskip\\noindent\\textit{Note.} ${latexText(n, names)}`)
    .join("\n");
  const caption = `\\caption{${latex(table.title)}}\\label{${label(table.id)}}`;
  const head = `\\toprule\n${line(table.columns.map((c) => c.head))}\n\\midrule`;
  const look = room !== "page" ? "\\footnotesize\\setlength{\\tabcolsep}{3pt}" : "\\small";
  if (rows.length > LONG && room !== "sideways")
    return `{${look}
\\begin{longtable}{@{}${set}@{}}
${caption} \\\\
${head}
\\endfirsthead
${head}
\\endhead
${rows.join("\n")}
\\bottomrule
\\end{longtable}
\\footnotesize
${notes}\\par}
`;
  const float = room === "sideways" ? "sidewaystable" : "table";
  return `\\begin{${float}}${float === "table" ? "[htbp]" : ""}
${caption}
${look}
\\begin{tabular}{@{}${set}@{}}
${head}
${rows.join("\n")}
\\bottomrule
\\end{tabular}
\\footnotesize
${notes}
\\end{${float}}
`;
}

const latexText = (text: Text, names: ReadonlyMap<string, string>): string =>
  text
    .map((run) =>
      typeof run === "string"
        ? latex(run)
        : "italic" in run
          ? `\\textit{${latex(run.italic)}}`
          : names.has(run.see)
            ? `Table~\\ref{${label(run.see)}}`
            : "the table",
    )
    .join("");
