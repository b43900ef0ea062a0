import Button from "@mui/material/Button";
import { useEffect, useState } from "react";
import { plain } from "../../../core";
import { addNote, layOutSheet, neutralise, sheetName } from "../../../formats";
import { escapedMarkup } from "../../../formats/markup";
import { copyBoth, tabbed } from "./clipboard";
import { download, fileName } from "../download";
import { useLeftOutWords } from "./left-out";
import { useTaking } from "./numbers-of-before";
import { exportedCell, exportedTable, isShown, type Cell, type TableRowSpec } from "./cell";

interface Props {
  title: string;
  heads: readonly string[];
  rows: readonly TableRowSpec[];
}

const SAID_MS = 2000;

/**
 * A table into the clipboard, as a table of a word processor and as text, or into a file with all
 * digits.
 */
export function TableTools({ title, heads, rows }: Props) {
  const [said, setSaid] = useState("");
  const taking = useTaking();
  const leftOut = useLeftOutWords();
  useEffect(() => {
    if (said === "") return;
    const timer = setTimeout(() => setSaid(""), SAID_MS);
    return () => clearTimeout(timer);
  }, [said]);
  const copy = (): void =>
    void copyTable(title, heads, rows, leftOut).then(
      () => setSaid("Copied"),
      () => setSaid("The browser did not allow it"),
    );
  const save = (saving: Promise<void>): void =>
    void saving.catch(() => setSaid("The file could not be made; is the network there?"));
  return (
    <span role="group" aria-label={`Take along: ${title}`}>
      <Button variant="text" size="small" onClick={copy} aria-label={`Copy ${title}`} {...taking}>
        {said || "Copy"}
      </Button>
      <Button
        variant="text"
        size="small"
        aria-label={`${title} as CSV`}
        onClick={() => save(saveCsv(title, heads, rows, leftOut))}
        {...taking}
      >
        CSV
      </Button>
      <Button
        variant="text"
        size="small"
        aria-label={`${title} as XLSX`}
        onClick={() => save(saveXlsx(title, heads, rows, leftOut))}
        {...taking}
      >
        XLSX
      </Button>
      <span className="visually-hidden" role="status">
        {said && `${title}: ${said}`}
      </span>
    </span>
  );
}

/** As it is read: what the clipboard gets is what stands on the page, rounded alike. */
const shownText = (cell: Cell): string => {
  if (isShown(cell) && cell.limits && typeof cell.shown === "string") return cell.shown;
  const value = exportedCell(cell);
  if (value === null) return "";
  if (typeof value === "string") return value;
  const shown = typeof cell === "object" && cell !== null ? cell.shown : null;
  return typeof shown === "string" ? shown : plain(value);
};

/**
 * The table as HTML that pastes into a word processor as a table: rules above, below the head and
 * at the end.
 */
export function tableHtml(
  title: string,
  heads: readonly string[],
  rows: Props["rows"],
  leftOut = "",
): string {
  const cell = (tag: "th" | "td", text: string, j: number, rule: string): string =>
    `<${tag} style="text-align:${j === 0 ? "left" : "right"};padding:2px 8px;font-weight:normal${rule}">${escapedMarkup(text)}</${tag}>`;
  const head = heads
    .map((text, j) => cell("th", text, j, ";border-top:1px solid;border-bottom:1px solid"))
    .join("");
  const body = rows
    .map(({ cells }, i) => {
      const rule = i === rows.length - 1 ? ";border-bottom:1px solid" : "";
      return `<tr>${cells.map((one, j) => cell("td", shownText(one), j, rule)).join("")}</tr>`;
    })
    .join("");
  return `<table style="border-collapse:collapse"><caption style="text-align:left">${escapedMarkup(title)}</caption><thead><tr>${head}</tr></thead><tbody>${body}</tbody></table>${leftOut === "" ? "" : `<p>${escapedMarkup(leftOut)}</p>`}`;
}

/** The same as text: tabs between cells. */
export const tableText = (heads: readonly string[], rows: Props["rows"], leftOut = ""): string =>
  tabbed([heads, ...rows.map(({ cells }) => cells.map(shownText)), ...lastLine(leftOut)]);

/** What takes part in no number, as the last line of a table. */
const lastLine = (leftOut: string): string[][] => (leftOut === "" ? [] : [[leftOut]]);

const copyTable = (
  title: string,
  heads: Props["heads"],
  rows: Props["rows"],
  leftOut: string,
): Promise<void> =>
  copyBoth(tableHtml(title, heads, rows, leftOut), tableText(heads, rows, leftOut));

async function saveCsv(
  title: string,
  heads: Props["heads"],
  rows: Props["rows"],
  leftOut: string,
): Promise<void> {
  const { default: Papa } = await import("papaparse");
  const whole = exportedTable(heads, rows);
  const lines = [whole.heads, ...whole.rows, ...lastLine(leftOut)];
  const text = Papa.unparse(
    lines.map((line) =>
      line.map((cell) => (typeof cell === "number" ? cell : neutralise(cell ?? ""))),
    ),
  );
  download(fileName(title, ".csv"), `${text}\r\n`, "text/csv");
}

async function saveXlsx(
  title: string,
  heads: Props["heads"],
  rows: Props["rows"],
  leftOut: string,
): Promise<void> {
  const { default: ExcelJs } = await import("exceljs");
  const book = new ExcelJs.Workbook();
  const sheet = book.addWorksheet(sheetName(title, new Set()));
  const whole = exportedTable(heads, rows);
  sheet.addRow(whole.heads).font = { bold: true };
  for (const line of whole.rows) sheet.addRow(line);
  layOutSheet(sheet, 1, whole.heads, whole.rows);
  if (leftOut !== "") addNote(sheet, leftOut, whole.heads.length);
  const bytes = await book.xlsx.writeBuffer();
  download(
    fileName(title, ".xlsx"),
    new Blob([bytes]),
    "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  );
}
