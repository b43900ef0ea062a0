import {
  captionNames,
  referenceText,
  type Block,
  type ReportDocument,
  type TableBlock,
  type Text,
} from "../../core";
import { escapedMarkup } from "../markup";

const anchor = (id: string): string => `b-${id.replace(/[^A-Za-z0-9]+/g, "-")}`;

/** Black on white whatever the reader's screen; the rules of a printed table. */
const STYLE = `
:root { color-scheme: light; }
body { font: 12pt/1.5 Georgia, "Times New Roman", serif; color: #111; background: #fff; max-width: 46em; margin: 2em auto; padding: 0 1em; }
h1 { font-size: 1.5em; } h2 { font-size: 1.2em; margin-top: 1.8em; } h3 { font-size: 1em; font-style: italic; }
figure { margin: 1.4em 0; break-inside: avoid; } figure.wide { overflow-x: auto; }
figcaption { text-align: left; margin-bottom: .4em; }
table { border-collapse: collapse; font-size: .88em; border-top: 1px solid; border-bottom: 1px solid; }
th, td { padding: .18em .7em; font-weight: normal; text-align: right; vertical-align: top; white-space: nowrap; font-variant-numeric: tabular-nums; }
thead th { border-bottom: 1px solid; vertical-align: bottom; }
.words { text-align: left; white-space: normal; } .group { text-align: left; font-style: italic; padding-top: .5em; }
.note { font-size: .85em; margin: .3em 0 0; } .references p { padding-left: 2em; text-indent: -2em; margin: .3em 0; }
svg { max-width: 100%; height: auto; }
@media print { body { margin: 0; max-width: none; } thead { display: table-header-group; } tr { break-inside: avoid; } h2, h3 { break-after: avoid; } @page { margin: 22mm; } }
`;

/** Text with its italics and its links to tables and figures. */
export function htmlText(text: Text, names: ReadonlyMap<string, string>): string {
  return text
    .map((run) => {
      if (typeof run === "string") return escapedMarkup(run);
      if ("italic" in run) return `<i>${escapedMarkup(run.italic)}</i>`;
      const name = names.get(run.see);
      return name ? `<a href="#${anchor(run.see)}">${name}</a>` : "the table";
    })
    .join("");
}

/**
 * A table for a page or a clipboard: its looks stand in its own tags, since a word processor reads
 * no style sheet.
 */
export function htmlTable(table: TableBlock, names: ReadonlyMap<string, string>): string {
  const rule = (side: "top" | "bottom"): string => `;border-${side}:1px solid`;
  const align = (j: number): string =>
    table.columns[j]!.kind === "words" ? "text-align:left" : "text-align:right";
  const words = (j: number): string => (table.columns[j]!.kind === "words" ? ' class="words"' : "");
  const head = table.columns
    .map(
      ({ head: text }, j) =>
        `<th scope="col"${words(j)} style="${align(j)};padding:2px 8px;font-weight:normal${rule("top")}${rule("bottom")}">${escapedMarkup(text)}</th>`,
    )
    .join("");
  const body = table.rows
    .map(({ cells, heading }, i) => {
      const last = i === table.rows.length - 1 ? rule("bottom") : "";
      if (heading)
        return `<tr><td class="group" colspan="${table.columns.length}" style="text-align:left;padding:2px 8px${last}"><i>${escapedMarkup(cells[0]!.text)}</i></td></tr>`;
      return `<tr>${cells
        .map(
          (c, j) =>
            `<td${words(j)} style="${align(j)};padding:2px 8px${last}">${escapedMarkup(c.text)}</td>`,
        )
        .join("")}</tr>`;
    })
    .join("\n");
  const notes = table.notes
    .map((n) => `<p class="note"><i>Note.</i> ${htmlText(n, names)}</p>`)
    .join("");
  return `<figure class="wide" id="${anchor(table.id)}"><figcaption><b>Table ${table.number}</b><br><i>${escapedMarkup(table.title)}</i></figcaption><table style="border-collapse:collapse"><thead><tr>${head}</tr></thead><tbody>
${body}
</tbody></table>${notes}</figure>`;
}

function blockHtml(
  block: Block,
  names: ReadonlyMap<string, string>,
  pictures: ReadonlyMap<string, string>,
): string {
  switch (block.kind) {
    case "heading":
      return `<h${block.level + 1}>${escapedMarkup(block.text)}</h${block.level + 1}>`;
    case "paragraph":
      return `<p>${htmlText(block.text, names)}</p>`;
    case "list":
      return `<ul>${block.items.map((item) => `<li>${htmlText(item, names)}</li>`).join("")}</ul>`;
    case "references":
      return `<div class="references">${block.items
        .map(
          (r) =>
            `<p>${referenceText(r)
              .map(({ text, italic }) =>
                italic ? `<i>${escapedMarkup(text)}</i>` : escapedMarkup(text),
              )
              .join("")}</p>`,
        )
        .join("")}</div>`;
    case "table":
      return htmlTable(block, names);
    case "figure":
      return `<figure id="${anchor(block.id)}">${pictures.get(block.id) ?? ""}<figcaption><b>Figure ${block.number}</b> <i>${escapedMarkup(block.title)}.</i> ${block.notes.map((n) => htmlText(n, names)).join(" ")}</figcaption></figure>`;
  }
}

/**
 * A report as one HTML file that needs nothing beside it.
 * @param pictures SVG by the id of its figure
 */
export function htmlReport(
  document: ReportDocument,
  pictures: ReadonlyMap<string, string> = new Map(),
): string {
  const names = captionNames(document.blocks);
  const body = document.blocks.map((block) => blockHtml(block, names, pictures)).join("\n");
  const question = document.question ? `<p><i>${escapedMarkup(document.question)}</i></p>` : "";
  return `<!doctype html>
<html lang="${document.language}">
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${escapedMarkup(document.title)}</title><style>${STYLE}</style></head>
<body>
<h1>${escapedMarkup(document.title)}</h1>
${question}
${body}
</body>
</html>
`;
}
