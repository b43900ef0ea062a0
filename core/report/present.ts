import type { ReportStyle } from "../study";
import type { Block, Cell, Run, Text } from "./document";

/** Statistical symbols that journals set in italics where a number follows. */
const SYMBOLS = /(?<![\p{L}\p{N}])(b|p|P|SE|SD|M|t|z|F|n|r|T|R²)(?=(?:\([^)]*\))? [=<>] )/u;

/** Beginnings of words that the program writes, British and American. */
const AMERICAN = [
  ["standardis", "standardiz"],
  ["centred", "centered"],
  ["centring", "centering"],
  ["centre", "center"],
  ["labelled", "labeled"],
  ["modelled", "modeled"],
  ["behaviour", "behavior"],
  ["colour", "color"],
  ["analysed", "analyzed"],
  ["analysing", "analyzing"],
  ["generalis", "generaliz"],
  ["orthogonalis", "orthogonaliz"],
  ["maximis", "maximiz"],
  ["hypothesis(?=ed)", "hypothesiz"],
].map(([british, american]) => [new RegExp(british!, "gi"), american!] as const);

/**
 * Letters that stand for a name while the words around it are changed: from a private area, so
 * never in a text.
 */
const KEPT = 0xe000;

/**
 * Writes texts as a style wants them: decimal comma, spelling, percentages without a space,
 * statistical symbols in italics. Names of the study are left as they are.
 */
export class Presenter {
  private readonly names: RegExp | null;

  /** @param names of variables, labels and levels, which no style changes */
  constructor(
    private readonly style: Pick<ReportStyle, "journal" | "decimal" | "spelling">,
    names: readonly string[],
  ) {
    // Only names in which something could be changed need to be looked for.
    const risky = [...new Set(names)].filter((name) => this.changed(name) !== name);
    risky.sort((a, b) => b.length - a.length);
    this.names =
      risky.length === 0
        ? null
        : new RegExp(risky.map((n) => n.replace(/[.*+?^${}()|[\]\\]/g, "\\$&")).join("|"), "g");
  }

  /** Words with their numbers. */
  text(text: string): string {
    const kept: string[] = [];
    const hidden = this.names
      ? text.replace(this.names, (name) => String.fromCharCode(KEPT + kept.push(name) - 1))
      : text;
    return this.changed(hidden).replace(/[\ue000-\uf8ff]/g, (mark) => {
      return kept[mark.charCodeAt(0) - KEPT] ?? mark;
    });
  }

  private changed(text: string): string {
    const { decimal, spelling, journal } = this.style;
    let out = text.replace(/(\d) %/g, "$1%");
    if (spelling === "american")
      for (const [british, american] of AMERICAN)
        out = out.replace(british, (found) =>
          found[0] === found[0]!.toUpperCase()
            ? `${american[0]!.toUpperCase()}${american.slice(1)}`
            : american,
        );
    out = out.replace(/(?<=[\s([])-(?=\d)/g, "−");
    if (journal === "medical") out = out.replace(/(?<![\d.])\.(?=\d)/g, "0.");
    if (journal === "medical") out = out.replace(/(?<![\p{L}\p{N}])p(?= [=<>] [\d.])/gu, "P");
    return decimal === "," ? commas(out) : out;
  }

  /** A paragraph, its symbols in italics. */
  runs(text: Text): Run[] {
    return text.flatMap((run): Run[] => {
      if (typeof run !== "string")
        return "italic" in run ? [{ italic: this.text(run.italic) }] : [run];
      return italicised(this.text(run), this.style.journal === "medical" ? /^P$/ : /./);
    });
  }

  private head(text: string): string {
    return this.style.journal === "medical" && text === "p" ? "P" : this.text(text);
  }

  private cell(cell: Cell): Cell {
    const text = this.text(cell.text);
    return { ...cell, text, value: typeof cell.value === "string" ? text : cell.value };
  }

  block(block: Block): Block {
    switch (block.kind) {
      case "heading":
        return { ...block, text: this.text(block.text) };
      case "paragraph":
        return { ...block, text: this.runs(block.text) };
      case "list":
        return { ...block, items: block.items.map((item) => this.runs(item)) };
      case "references":
        return block;
      case "figure":
        return {
          ...block,
          title: this.text(block.title),
          notes: block.notes.map((n) => this.runs(n)),
        };
      case "table":
        return {
          ...block,
          title: this.text(block.title),
          columns: block.columns.map((c) => ({ ...c, head: this.head(c.head) })),
          rows: block.rows.map((row) => ({ ...row, cells: row.cells.map((c) => this.cell(c)) })),
          notes: block.notes.map((n) => this.runs(n)),
        };
    }
  }
}

/** Decimal commas; thousands get a thin space, and commas between numbers become semicolons. */
const commas = (text: string): string =>
  text
    .replace(/(?<=\d),(?=\d{3}(?!\d))/g, "\u202f")
    .replace(/(?<=\d), (?=−?[\d.])/g, "; ")
    .replace(/(?<!\d)\.(?=\d)/g, ",")
    .replace(/(?<=\d)\.(?=\d)/g, ",");

/** @param which of the symbols are set in italics */
function italicised(text: string, which: RegExp): Run[] {
  const runs: Run[] = [];
  let rest = text;
  for (let found = SYMBOLS.exec(rest); found; found = SYMBOLS.exec(rest)) {
    const symbol = found[1]!;
    const before = rest.slice(0, found.index);
    if (which.test(symbol)) {
      if (before !== "") runs.push(before);
      runs.push({ italic: symbol });
    } else runs.push(before + symbol);
    rest = rest.slice(found.index + symbol.length);
  }
  return rest === "" ? runs : [...runs, rest];
}

/**
 * The words of a paragraph without their looks.
 * @param named what a reference to a table or figure is called
 */
export const plainText = (text: Text, named: (id: string) => string): string =>
  text
    .map((run) => (typeof run === "string" ? run : "italic" in run ? run.italic : named(run.see)))
    .join("");
