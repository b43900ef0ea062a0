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

const latex = (text: string): string => [...text].map((mark) => MARKS[mark] ?? mark).join("");

const label = (id: string): string => `tab:${id.replace(/[^A-Za-z0-9]+/g, "-")}`;

/**
 * All tables of a report, each a float with caption and label; needs the package booktabs alone.
 */
export function latexTables(document: ReportDocument): string {
  const names = captionNames(document.blocks);
  const tables = document.blocks.filter((b) => b.kind === "table");
  return `% ${document.title.replaceAll("\n", " ")}
% Needs \\usepackage{booktabs} and, for long titles, \\usepackage{caption}.
${tables.map((t) => latexTable(t, names)).join("\n")}`;
}

function latexTable(table: TableBlock, names: ReadonlyMap<string, string>): string {
  const columns = table.columns.map((c) => (c.kind === "words" ? "l" : "r")).join("");
  const line = (cells: readonly string[]): string => `${cells.map(latex).join(" & ")} \\\\`;
  const rows = table.rows.map(({ cells, heading }) =>
    heading
      ? `\\multicolumn{${table.columns.length}}{l}{\\textit{${latex(cells[0]!.text)}}} \\\\`
      : line(cells.map((c) => c.text)),
  );
  const notes = table.notes.map(
    (n) => `\\par\\smallskip\\footnotesize\\textit{Note.} ${latexText(n, names)}`,
  );
  return `\\begin{table}[htbp]
\\caption{${latex(table.title)}}
\\label{${label(table.id)}}
\\begin{tabular}{@{}${columns}@{}}
\\toprule
${line(table.columns.map((c) => c.head))}
\\midrule
${rows.join("\n")}
\\bottomrule
\\end{tabular}
${notes.join("\n")}
\\end{table}
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
