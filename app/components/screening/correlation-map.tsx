import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import { styled } from "@mui/material/styles";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { Segments } from "../ui/segments";
import { Wide } from "../ui/wide";
import { useState } from "react";
import {
  correlationWorking,
  pClause,
  percent,
  plain,
  withoutZero,
  type CorrelationCell,
  type CorrelationTable,
} from "../../../core";
import { ScreenHead, Spacer } from "../ui/layout";
import type { Cell } from "../ui/number-table";
import { WorkingView } from "../ui/working-view";
import { TableTools } from "../ui/table-tools";

interface Props {
  pairwise: CorrelationTable;
  listwise: CorrelationTable;
  level: number;
}

type Kind = "pearson" | "spearman";

/** For a paper: a star below .05, two below .01. */
const exported = (found: { r: number; p: number } | null | undefined): Cell =>
  found
    ? {
        shown: `${withoutZero(found.r)}${found.p < 0.01 ? "**" : found.p < 0.05 ? "*" : ""}`,
        value: found.r,
      }
    : null;

/** Every pair as a number on a tint; the chosen pair in words beneath. */
export function CorrelationMap({ pairwise, listwise, level }: Props) {
  const [kind, setKind] = useState<Kind>("pearson");
  const [deletion, setDeletion] = useState<"pairwise" | "listwise">("pairwise");
  const [chosen, setChosen] = useState<CorrelationCell | null>(null);
  const table = deletion === "pairwise" ? pairwise : listwise;
  const find = (x: string, y: string): CorrelationCell | undefined =>
    table.cells.find((c) => (c.x === x && c.y === y) || (c.x === y && c.y === x));
  const shown = chosen && find(chosen.x, chosen.y);
  const working = shown && correlationWorking(shown, kind, level);
  return (
    <div>
      <ScreenHead as="div" style={{ marginBottom: 8 }}>
        <Typography variant="h3">Correlations</Typography>
        <Segments
          label="Coefficient"
          value={kind}
          choices={[
            ["pearson", "Pearson"],
            ["spearman", "Spearman (ranks)"],
          ]}
          choose={setKind}
        />
        <Segments
          label="Rows"
          value={deletion}
          choices={[
            ["pairwise", "every pair's own rows"],
            ["listwise", `the ${listwise.n} complete rows`],
          ]}
          choose={setDeletion}
        />
        <Spacer />
        <TableTools
          title={`${kind === "pearson" ? "Pearson" : "Spearman"} correlations`}
          heads={["", ...table.variables]}
          rows={table.variables.map((y, i) => ({
            key: y,
            cells: [
              y,
              ...table.variables.map((x, j) =>
                j < i ? exported(find(x, y)?.[kind]) : j === i ? "–" : "",
              ),
            ],
          }))}
        />
      </ScreenHead>
      <Wide label="Correlations">
        <TintedTable>
          <TableHead>
            <TableRow>
              <TableCell />
              {table.variables.slice(0, -1).map((name) => (
                <TableCell key={name} scope="col">
                  <span>{name}</span>
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {table.variables.slice(1).map((y, i) => (
              <TableRow key={y}>
                <TableCell component="th" scope="row">
                  {y}
                </TableCell>
                {table.variables.slice(0, i + 1).map((x) => (
                  <MapCell
                    key={x}
                    cell={find(x, y)}
                    kind={kind}
                    chosen={shown !== null && shown === find(x, y)}
                    choose={setChosen}
                  />
                ))}
              </TableRow>
            ))}
          </TableBody>
        </TintedTable>
      </Wide>
      <Box role="status" sx={{ minHeight: 28, pt: 0.75 }}>
        {shown ? (
          <Reading cell={shown} kind={kind} level={level} />
        ) : (
          <span className="quiet">Bold: p below .05. Choose a number to read it in full.</span>
        )}
      </Box>
      {working && <WorkingView working={working} />}
    </div>
  );
}

/** Numbers on tints; names of columns stand upright above them. */
export const TintedTable = styled(Table)({
  width: "auto",
  borderCollapse: "separate",
  borderSpacing: 2,
  "& th": {
    border: 0,
    padding: "0 8px 0 0",
    textAlign: "right",
    fontSize: 14,
    color: "inherit",
    whiteSpace: "nowrap",
  },
  "& thead th": { height: 92, verticalAlign: "bottom", padding: 0 },
  "& thead th span": {
    display: "block",
    writingMode: "vertical-rl",
    transform: "rotate(180deg)",
    maxHeight: 90,
    overflow: "hidden",
    textOverflow: "ellipsis",
    margin: "0 auto",
  },
  "& td": {
    width: 46,
    minWidth: 46,
    height: 30,
    padding: "0 !important",
    border: 0,
    textAlign: "center",
  },
  "& td button": { width: "100%", height: 30, fontSize: 14, color: "var(--ink)" },
  "& td.strong button": { color: "var(--paper)" },
  "& td button[aria-pressed=true]": { outline: "2px solid var(--ink)", outlineOffset: -2 },
});

interface CellProps {
  cell: CorrelationCell | undefined;
  kind: Kind;
  chosen: boolean;
  choose: (cell: CorrelationCell) => void;
}

function MapCell({ cell, kind, chosen, choose }: CellProps) {
  const found = cell?.[kind];
  if (!cell || !found) {
    return (
      <TableCell
        sx={{ color: "var(--quiet)" }}
        title={
          cell?.lacking?.constant.length
            ? `${cell.lacking.constant.join(", ")} never varies`
            : "too few rows"
        }
      >
        –
      </TableCell>
    );
  }
  const strength = Math.round(Math.abs(found.r) * 70);
  const tint = found.r < 0 ? "var(--rust)" : "var(--petrol)";
  return (
    <TableCell
      style={{ background: `color-mix(in srgb, ${tint} ${strength}%, var(--sheet))` }}
      className={strength > 45 ? "strong" : undefined}
    >
      <ButtonBase
        aria-pressed={chosen}
        aria-label={`${cell.x} with ${cell.y}: ${withoutZero(found.r)}`}
        sx={{ fontWeight: found.p < 0.05 ? 700 : 400 }}
        onClick={() => choose(cell)}
      >
        {withoutZero(found.r)}
      </ButtonBase>
    </TableCell>
  );
}

function Reading({ cell, kind, level }: { cell: CorrelationCell; kind: Kind; level: number }) {
  const found = cell[kind];
  if (!found) return null;
  const { r, n, p, ci, t } = found;
  return (
    <>
      <strong>
        {cell.x} with {cell.y}
      </strong>
      : {kind === "pearson" ? "r" : "rank correlation"} {plain(r)}
      {ci && `, ${percent(level)} % CI ${plain(ci[0])} to ${plain(ci[1])}`}, {pClause(p)}
      {t !== null && ` (t ${plain(t, 2)}, df ${n - 2})`}, {n} rows
    </>
  );
}
