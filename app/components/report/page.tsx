import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { styled } from "@mui/material/styles";
import { memo, useState } from "react";
import {
  captionNames,
  referenceText,
  type Block,
  type Evidence,
  type FigureBlock,
  type FigureChoices,
  type ReportDocument,
  type TableBlock,
  type Text,
} from "../../../core";
import { drawFigure } from "../../../formats/figures";
import { useTaking } from "../ui/numbers-of-before";
import { copyReportTable } from "./copy-table";
import { Drawn, FigureSaves } from "./figure-saves";
import { figureStyle, saveFigure } from "./exports";

/** A sheet of paper, light in either look, as it will be printed. */
const Sheet = styled("article")({
  background: "#fff",
  color: "#16191b",
  colorScheme: "light",
  fontFamily: "var(--serif)",
  fontSize: 15,
  lineHeight: 1.5,
  padding: "52px 60px 64px",
  maxWidth: 860,
  boxShadow: "0 1px 2px rgb(0 0 0 / 18%), 0 8px 30px rgb(0 0 0 / 10%)",
  "& p": { maxWidth: "74ch" },
  "@media (max-width: 900px)": { padding: "28px 20px" },
  "@media print": { boxShadow: "none", padding: 0, maxWidth: "none" },
});

const Tools = styled("span")({
  float: "right",
  fontFamily: "var(--sans)",
  "& button": { color: "#0f5b66" },
  "@media print": { display: "none" },
});

type Names = ReadonlyMap<string, string>;

interface Props {
  report: ReportDocument;
  evidence: Evidence;
  figures: FigureChoices;
}

/** The report as it will be printed. */
export const ReportPage = memo(function ReportPage({ report, evidence, figures }: Props) {
  const names = captionNames(report.blocks);
  return (
    <Sheet lang={report.language} aria-label="Report">
      <Typography variant="h1" component="h2" sx={{ fontSize: 27, color: "inherit" }}>
        {report.title}
      </Typography>
      {report.question && <p style={{ fontStyle: "italic" }}>{report.question}</p>}
      {report.blocks.map((block, i) => (
        <BlockView key={i} {...{ block, names, evidence, figures }} decimal={report.decimal} />
      ))}
    </Sheet>
  );
});

function BlockView({
  block,
  names,
  evidence,
  figures,
  decimal,
}: {
  block: Block;
  names: Names;
  evidence: Evidence;
  figures: FigureChoices;
  decimal: "." | ",";
}) {
  switch (block.kind) {
    case "heading":
      return (
        <Typography
          component={block.level === 1 ? "h3" : "h4"}
          sx={{
            fontFamily: "var(--serif)",
            color: "inherit",
            fontSize: block.level === 1 ? 19 : 16,
            fontStyle: block.level === 1 ? "normal" : "italic",
            fontWeight: block.level === 1 ? 600 : 400,
            mt: 3.5,
            mb: 0.75,
            breakAfter: "avoid",
          }}
        >
          {block.text}
        </Typography>
      );
    case "paragraph":
      return (
        <p style={{ margin: "6px 0" }}>
          <Runs text={block.text} names={names} />
        </p>
      );
    case "list":
      return (
        <ul>
          {block.items.map((item, i) => (
            <li key={i}>
              <Runs text={item} names={names} />
            </li>
          ))}
        </ul>
      );
    case "references":
      return block.items.map((r) => (
        <p key={r.id} style={{ paddingLeft: "2em", textIndent: "-2em", margin: "4px 0" }}>
          {referenceText(r).map(({ text, italic }, i) =>
            italic ? <i key={i}>{text}</i> : <span key={i}>{text}</span>,
          )}
        </p>
      ));
    case "table":
      return <TableView table={block} names={names} />;
    case "figure":
      return <FigureView {...{ block, names, evidence, figures, decimal }} />;
  }
}

const anchor = (id: string): string => `report-${id.replace(/[^A-Za-z0-9]+/g, "-")}`;

function Runs({ text, names }: { text: Text; names: Names }) {
  return text.map((run, i) => {
    if (typeof run === "string") return <span key={i}>{run}</span>;
    if ("italic" in run) return <i key={i}>{run.italic}</i>;
    const name = names.get(run.see);
    return name ? (
      <a key={i} href={`#${anchor(run.see)}`} style={{ color: "inherit" }}>
        {name}
      </a>
    ) : (
      <span key={i}>the table</span>
    );
  });
}

const RULE = "1px solid #16191b";
const CELL = {
  border: 0,
  color: "inherit",
  fontFamily: "inherit",
  fontSize: 13,
  padding: "2px 10px 2px 0",
  verticalAlign: "top",
  textAlign: "right",
  whiteSpace: "nowrap",
  fontVariantNumeric: "tabular-nums",
  backgroundColor: "transparent",
} as const;
const WORDS = { ...CELL, textAlign: "left", whiteSpace: "normal" } as const;

function TableView({ table, names }: { table: TableBlock; names: Names }) {
  const [said, setSaid] = useState("");
  const taking = useTaking();
  const places = table.columns.map((_, j) =>
    Math.max(
      0,
      ...table.rows.map(({ cells, heading }) => (heading ? 0 : decimalsOf(cells[j]!.text))),
    ),
  );
  const look = (j: number) => (table.columns[j]!.kind === "words" ? WORDS : CELL);
  const copy = (): void =>
    void copyReportTable(table, names).then(
      () => setSaid("Copied"),
      () => setSaid("The browser did not allow it"),
    );
  return (
    <Box component="figure" id={anchor(table.id)} sx={{ m: 0, my: 2.5, breakInside: "avoid-page" }}>
      <Tools>
        <Button
          size="small"
          variant="text"
          onClick={copy}
          aria-label={`Copy Table ${table.number}`}
          {...taking}
        >
          {said || "Copy"}
        </Button>
      </Tools>
      <figcaption>
        <strong>Table {table.number}</strong>
        <br />
        <i>{table.title}</i>
      </figcaption>
      <Box
        role="region"
        aria-label={`Table ${table.number}: ${table.title}`}
        tabIndex={0}
        sx={{ overflowX: "auto", mt: 0.5, "@media print": { overflow: "visible" } }}
      >
        <Table sx={{ width: "auto", minWidth: "60%", borderTop: RULE, borderBottom: RULE }}>
          <TableHead>
            <TableRow>
              {table.columns.map((c, j) => (
                <TableCell
                  key={j}
                  scope="col"
                  sx={{ ...look(j), borderBottom: RULE, verticalAlign: "bottom" }}
                >
                  {c.head}
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {table.rows.map((row, i) => (
              <TableRow key={i}>
                {row.heading ? (
                  <TableCell
                    colSpan={table.columns.length}
                    sx={{ ...WORDS, fontStyle: "italic", pt: 0.75 }}
                  >
                    {row.cells[0]!.text}
                  </TableCell>
                ) : (
                  row.cells.map((cell, j) => (
                    <TableCell
                      key={j}
                      sx={look(j)}
                      {...(j === 0 ? { component: "th", scope: "row" } : {})}
                    >
                      {cell.text}
                      {table.columns[j]!.kind === "number" && (
                        <Padding places={places[j]! - decimalsOf(cell.text)} text={cell.text} />
                      )}
                    </TableCell>
                  ))
                )}
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Box>
      {table.notes.map((note, i) => (
        <p key={i} style={{ fontSize: 13, margin: "4px 0 0" }}>
          <i>Note.</i> <Runs text={note} names={names} />
        </p>
      ))}
    </Box>
  );
}

const decimalsOf = (text: string): number => /[.,](\d+)$/.exec(text)?.[1]?.length ?? 0;

/** Room of the decimals that a number lacks, so that points stand beneath each other. */
function Padding({ places, text }: { places: number; text: string }) {
  if (places === 0 || !/\d$/.test(text)) return null;
  const sign = decimalsOf(text) === 0 ? " + 0.25em" : "";
  return <span style={{ display: "inline-block", width: `calc(${places}ch${sign})` }} />;
}

function FigureView({
  block,
  names,
  evidence,
  figures,
  decimal,
}: {
  block: FigureBlock;
  names: Names;
  evidence: Evidence;
  figures: FigureChoices;
  decimal: "." | ",";
}) {
  const drawn = drawFigure(block, evidence, figureStyle(figures, decimal));
  const save = (as: "svg" | 300 | 600): void =>
    void saveFigure(block, evidence, figures, decimal, as);
  return (
    <Box component="figure" id={anchor(block.id)} sx={{ m: 0, my: 2.5, breakInside: "avoid" }}>
      {drawn && (
        <Tools role="group" aria-label={`Take along: Figure ${block.number}`}>
          <FigureSaves save={save} />
        </Tools>
      )}
      {drawn ? (
        <Drawn
          figure={drawn}
          sx={{ clear: "both", overflowX: "auto", "& svg": { maxWidth: "100%", height: "auto" } }}
        />
      ) : (
        <p className="quiet">This figure cannot be drawn from the evidence as it is.</p>
      )}
      <figcaption>
        <strong>Figure {block.number}</strong>. <i>{block.title}.</i>{" "}
        {block.notes.map((note, i) => (
          <Runs key={i} text={note} names={names} />
        ))}
      </figcaption>
    </Box>
  );
}
