import { oneLine } from "../markup";
import {
  captionNames,
  plainText,
  referenceText,
  type Block,
  type ReportDocument,
  type Text,
} from "../../core";

/** Characters that Markdown would take for its own. */
const escaped = (text: string): string => oneLine(text).replace(/[\\`*_{}[\]<>|#]/g, "\\$&");

/**
 * A report as Markdown: tables with pipes, figures as files beside it.
 * @param fileOf the path of a figure, by its id
 */
export function markdownReport(
  document: ReportDocument,
  fileOf: (id: string) => string | null = () => null,
): string {
  const names = captionNames(document.blocks);
  const runs = (text: Text): string =>
    text
      .map((run) =>
        typeof run === "string"
          ? escaped(run)
          : "italic" in run
            ? `*${escaped(run.italic)}*`
            : (names.get(run.see) ?? "the table"),
      )
      .join("");
  const parts = document.blocks.map((block) => blockText(block, runs, fileOf));
  const question = document.question ? [`*${escaped(document.question)}*`] : [];
  return `${[`# ${escaped(document.title)}`, ...question, ...parts].join("\n\n")}\n`;
}

function blockText(
  block: Block,
  runs: (text: Text) => string,
  fileOf: (id: string) => string | null,
): string {
  switch (block.kind) {
    case "heading":
      return `${"#".repeat(block.level + 1)} ${escaped(block.text)}`;
    case "paragraph":
      return runs(block.text);
    case "list":
      return block.items.map((item) => `- ${runs(item)}`).join("\n");
    case "references":
      return block.items
        .map((r) =>
          referenceText(r)
            .map(({ text, italic }) => (italic ? `*${escaped(text)}*` : escaped(text)))
            .join(""),
        )
        .join("\n\n");
    case "figure": {
      const file = fileOf(block.id);
      const picture = file
        ? `![${escaped(block.title)}](${file.startsWith("data:") ? file : encodeURI(file)})\n\n`
        : "";
      return `${picture}**Figure ${block.number}.** ${escaped(block.title)}.${block.notes.map((n) => ` ${runs(n)}`).join("")}`;
    }
    case "table": {
      const line = (cells: readonly string[]): string => `| ${cells.join(" | ")} |`;
      const { columns } = block;
      const rows = block.rows.map(({ cells, heading }) =>
        line(
          heading
            ? [`**${escaped(cells[0]!.text)}**`, ...columns.slice(1).map(() => "")]
            : cells.map((c) => escaped(c.text)),
        ),
      );
      return [
        `**Table ${block.number}.** ${escaped(block.title)}`,
        "",
        line(columns.map((c) => escaped(c.head))),
        line(columns.map((c) => (c.kind === "words" ? ":--" : "--:"))),
        ...rows,
        ...block.notes.flatMap((n) => ["", `*Note.* ${runs(n)}`]),
      ].join("\n");
    }
  }
}

/** A paragraph without looks, its references by name. */
export const spoken = (text: Text, names: ReadonlyMap<string, string>): string =>
  plainText(text, (id) => names.get(id) ?? "the table");
