import { spawnSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { ReportDocument, TableBlock } from "../../core";
import { latexTables, markdownReport } from ".";

/** Text that tries to leave its place. */
const hostile = fc.array(
  fc.oneof(
    fc.constantFrom(..."[]*\\{}$&#%_^~<>|`\r\n\t\u0000\u0085\u2028\ufffe\ud800 ab"),
    fc.constantFrom("\\end{tabular}", "\\input{/etc/passwd}", "\r% ", "^^M", "\\\\[9cm]"),
  ),
  { minLength: 1, maxLength: 8 },
);
const text = hostile.map((marks) => marks.join(""));

const documentOf = (title: string, rows: string[][]): ReportDocument => {
  const table: TableBlock = {
    kind: "table",
    id: title,
    number: 1,
    title,
    columns: rows[0]!.map((head) => ({ head, kind: "words" })),
    rows: rows.map((row) => ({ cells: row.map((cell) => ({ text: cell, value: cell })) })),
    notes: [[title]],
  };
  const blocks = [table];
  return { title, question: title, language: "en-GB", decimal: ".", leftOut: [], blocks };
};
const documents = fc
  .tuple(text, fc.array(fc.tuple(text, text), { minLength: 1, maxLength: 4 }))
  .map(([title, rows]) => documentOf(title, rows));

/** What stands in a document that cannot be written. */
// eslint-disable-next-line no-control-regex
const UNPRINTABLE = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u2028\u2029\ufffe\uffff]|\p{Cs}/u;

describe("text that tries to leave its place", () => {
  it("stays in its cell of a LaTeX table", () => {
    fc.assert(
      fc.property(documents, (report) => {
        const tex = latexTables(report);
        expect(tex).not.toMatch(UNPRINTABLE);
        expect(tex.split("\n")[0]).toMatch(/^% /);
        expect(tex.split("\n")[1]).toMatch(/^% Needs/);
        const lines = tex.split("\n").filter((line) => line.endsWith("\\\\"));
        // The head and each row, none of which begins with what TeX takes for an option.
        expect(lines.length).toBe(
          1 + report.blocks.flatMap((b) => ("rows" in b ? b.rows : [])).length,
        );
        for (const line of lines) expect(line).not.toMatch(/^\s*[[*]/);
        // No command but those that marks are written by, and the table's own.
        const body = tex.split("\n").slice(2).join("\n");
        const commands = [...body.matchAll(/\\([A-Za-z]+)/g)].map((m) => m[1]!);
        expect(commands).not.toContain("input");
        expect(commands.filter((c) => c === "end").length).toBe(2);
        // Every bracket of TeX is closed, and no per cent sign begins a comment.
        const plain = body.replace(/\\[\\{}%&#$_]/g, "");
        expect(plain.split("{").length).toBe(plain.split("}").length);
        expect(plain).not.toContain("%");
      }),
      { numRuns: 300 },
    );
  });

  it("stays on its line of a Markdown document", () => {
    fc.assert(
      fc.property(documents, (report) => {
        const lines = markdownReport(report).split("\n");
        expect(lines.join("")).not.toMatch(UNPRINTABLE);
        expect(lines.filter((line) => line.startsWith("# ")).length).toBe(1);
        const rows = report.blocks.flatMap((b) => ("rows" in b ? b.rows : [])).length;
        expect(lines.filter((line) => line.startsWith("|")).length).toBe(rows + 2);
      }),
      { numRuns: 300 },
    );
  });

  it.skipIf(!process.env.TEX)("is set by TeX without a complaint", () => {
    const folder = mkdtempSync(join(tmpdir(), "tex-"));
    const bodies = fc.sample(documents, { numRuns: 60, seed: 5 }).map(latexTables);
    const file = `\\documentclass{article}\\usepackage[T1]{fontenc}\\usepackage{array,booktabs,longtable,rotating,caption}\\begin{document}\n${bodies.join("\n\\clearpage\n")}\\end{document}\n`;
    writeFileSync(join(folder, "all.tex"), file);
    const { stdout } = spawnSync(
      process.env.TEX!,
      ["-no-shell-escape", "-interaction=nonstopmode", "all.tex"],
      { cwd: folder, encoding: "latin1" },
    );
    expect(stdout.split("\n").filter((line) => line.startsWith("!"))).toEqual([]);
    expect(stdout).toMatch(/Output written on all\.pdf \(\d+ pages/);
  });
});
