import { useVirtualizer, type VirtualItem } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";
import { cell, isMissing, type ColumnSummary, type Table, type TextColumn, type Variable } from "../../../core";
import { Sparkbars } from "./sparkbars";

const ROW_HEIGHT = 28;
const COLUMN_WIDTH = 136;
const HEAD_HEIGHT = 112;
const NUMBER_WIDTH = 56;

interface Props {
  table: Table;
  variables: Variable[];
  summaries: ColumnSummary[];
  selected: string | null;
  select: (name: string | null) => void;
}

/** Rows and columns drawn only where they are seen; every column carries its card on top. */
export function DataGrid({ table, variables, summaries, selected, select }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: table.rows,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
    scrollMargin: HEAD_HEIGHT,
  });
  const columns = useVirtualizer({
    count: table.columns.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => COLUMN_WIDTH,
    overscan: 3,
    horizontal: true,
    scrollMargin: NUMBER_WIDTH,
  });
  const byName = new Map(variables.map((v) => [v.name, v]));
  const summaryOf = new Map(summaries.map((s) => [s.name, s]));
  useEffect(() => {
    const at = table.columns.findIndex((c) => c.name === selected);
    if (at >= 0) columns.scrollToIndex(at);
    // Only a new choice moves the grid.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [selected]);
  const width = columns.getTotalSize() + NUMBER_WIDTH;
  return (
    // A scrolling region has to be reachable by keyboard.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <div className="grid" ref={scroller} tabIndex={0} role="region" aria-label="Data">
      <div
        role="table"
        aria-rowcount={table.rows + 1}
        aria-colcount={table.columns.length + 1}
        style={{ width, height: rows.getTotalSize() + HEAD_HEIGHT, position: "relative" }}
      >
        <div role="row" aria-rowindex={1} className="grid-head" style={{ height: HEAD_HEIGHT, width }}>
          <div role="columnheader" className="grid-corner quiet" style={{ width: NUMBER_WIDTH, height: HEAD_HEIGHT }}>
            row
          </div>
          {columns.getVirtualItems().map((item) => {
            const { name } = table.columns[item.index]!;
            return (
              <div
                key={name}
                role="columnheader"
                aria-colindex={item.index + 2}
                className="grid-card-cell"
                style={{ left: item.start, width: COLUMN_WIDTH, height: HEAD_HEIGHT }}
              >
                <ColumnCard
                  variable={byName.get(name)!}
                  summary={summaryOf.get(name)}
                  selected={selected === name}
                  select={() => select(selected === name ? null : name)}
                />
              </div>
            );
          })}
        </div>
        {rows.getVirtualItems().map((row) => (
          <Row
            key={row.key}
            index={row.index}
            top={row.start}
            width={width}
            items={columns.getVirtualItems()}
            {...{ table, byName, selected }}
          />
        ))}
      </div>
    </div>
  );
}

interface RowProps {
  index: number;
  top: number;
  width: number;
  items: VirtualItem[];
  table: Table;
  byName: Map<string, Variable>;
  selected: string | null;
}

function Row({ index, top, width, items, table, byName, selected }: RowProps) {
  return (
    <div role="row" aria-rowindex={index + 2} className="grid-row" style={{ top, height: ROW_HEIGHT, width }}>
      <div role="rowheader" className="grid-number quiet" style={{ width: NUMBER_WIDTH }}>
        {index + 1}
      </div>
      {items.map((item) => {
        const column = table.columns[item.index]!;
        const variable = byName.get(column.name)!;
        const text = cell(column, index);
        const gap = isMissing(text, variable);
        const numeric = variable.level === "continuous" || variable.level === "ordinal";
        const look = ["grid-cell", numeric ? "number" : "", gap ? "gap" : "", selected === column.name ? "chosen" : ""].join(" ");
        return (
          <div
            key={column.name}
            role="cell"
            aria-colindex={item.index + 2}
            className={look}
            style={{ left: item.start, width: COLUMN_WIDTH }}
            title={gap ? "counts as missing" : undefined}
          >
            {text === "" ? "·" : text}
            {numeric && !gap && <Padding text={text} places={places(column)} />}
          </div>
        );
      })}
    </div>
  );
}

const placesOf = new WeakMap<TextColumn, number>();

/** The most decimals that a cell of the column has, at most four; the first two thousand texts tell. */
function places(column: TextColumn): number {
  let found = placesOf.get(column);
  if (found === undefined) {
    found = column.dictionary
      .slice(0, 2000)
      .reduce((most, text) => Math.max(most, Math.min(4, /[.,](\d+)$/.exec(text)?.[1]?.length ?? 0)), 0);
    placesOf.set(column, found);
  }
  return found;
}

/** Unseen digits that line the cells of a column up on the decimal mark. */
function Padding({ text, places: most }: { text: string; places: number }) {
  const own = /[.,](\d+)$/.exec(text)?.[1]?.length ?? 0;
  const lacking = most - own;
  if (lacking <= 0) return null;
  return (
    <span className="padding" aria-hidden>
      {(own === 0 ? "." : "") + "0".repeat(lacking)}
    </span>
  );
}

function ColumnCard({
  variable,
  summary,
  selected,
  select,
}: {
  variable: Variable;
  summary: ColumnSummary | undefined;
  selected: boolean;
  select: () => void;
}) {
  const share = summary && summary.rows > 0 ? summary.missing / summary.rows : 0;
  const flagged = summary && (summary.notNumeric !== null || summary.constant);
  return (
    <button type="button" className={`column-card ${selected ? "selected" : ""}`} aria-pressed={selected} onClick={select}>
      <span className="column-name" title={variable.label ?? variable.name}>
        {variable.name}
      </span>
      <span className="column-level">{variable.level}</span>
      <span className="column-shape">{summary && <Sparkbars summary={summary} width={COLUMN_WIDTH - 22} height={32} />}</span>
      <span className={`column-missing ${flagged ? "flag" : ""}`}>
        {flagged
          ? "◆ needs a look"
          : share > 0
            ? `${share < 0.001 ? "< 0.1" : (100 * share).toFixed(share < 0.1 ? 1 : 0)} % missing`
            : "complete"}
      </span>
    </button>
  );
}
