import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import { cell, type ColumnSummary, type Correction, type Dataset } from "../../../core";
import { GridHead } from "./grid-head";
import { GridRow } from "./grid-row";
import { COLUMN_WIDTH, HEAD_HEIGHT, NUMBER_WIDTH, ROW_HEIGHT } from "./grid-sizes";
import type { GridView } from "./grid-view";
import styles from "./data-grid.module.css";

interface Props {
  dataset: Dataset;
  view: GridView;
  summaries: ColumnSummary[];
  corrections: Correction[];
  selected: string | null;
  select: (name: string | null) => void;
  /** Writes a cell of the raw data as a correction; row from 0. */
  correct: (name: string, row: number, text: string) => void;
}

/**
 * Rows and columns drawn only where they are seen; every column carries its card on top, and
 * identifiers stay in sight.
 */
export function DataGrid({
  dataset,
  view,
  summaries,
  corrections,
  selected,
  select,
  correct,
}: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const [editing, setEditing] = useState<{ text: string } | null>(null);
  const { order, names, active, setActive } = view;
  const frozen =
    names.find((name) => dataset.variables.find((v) => v.name === name)?.level === "identifier") ??
    null;
  const moving = names.filter((name) => name !== frozen);
  const left = NUMBER_WIDTH + (frozen ? COLUMN_WIDTH : 0);
  const rows = useVirtualizer({
    count: order.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
    scrollMargin: HEAD_HEIGHT,
    scrollPaddingStart: HEAD_HEIGHT,
  });
  const columns = useVirtualizer({
    count: moving.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => COLUMN_WIDTH,
    overscan: 3,
    horizontal: true,
    scrollMargin: left,
    scrollPaddingStart: left,
  });
  useFollow(rows, columns, view, selected, moving);
  const editable = (name: string | undefined): boolean => isEditable(dataset, name);
  const place =
    active && names[active.column] !== undefined && active.row < order.length ? active : null;
  const move = (down: number, right: number): void => {
    const from = place ?? { row: 0, column: 0 };
    setActive({
      row: Math.min(order.length - 1, Math.max(0, from.row + down)),
      column: Math.min(names.length - 1, Math.max(0, from.column + right)),
    });
  };
  const begin = (text?: string): void => {
    const name = place ? names[place.column] : undefined;
    if (!place || !editable(name)) return;
    setEditing({
      text:
        text ??
        cell(
          dataset.table.columns.find((c) => c.name === name)!,
          order[place.row]!,
        ),
    });
  };
  const commit = (text: string, down: number, right: number): void => {
    setEditing(null);
    scroller.current?.focus();
    if (place) correct(names[place.column]!, order[place.row]!, text);
    move(down, right);
  };
  const size = { rows: order.length, columns: names.length };
  const onKey = (event: KeyboardEvent): void => {
    if (editing || event.target !== event.currentTarget) return;
    const clear = (): void => void (place && commit("", 0, 0));
    if (gridKey(event, { ...size, move, begin, clear })) event.preventDefault();
  };
  const width = columns.getTotalSize() + left;
  const shared = {
    dataset,
    view,
    corrections,
    selected,
    place,
    editing,
    setEditing,
    commit,
    begin,
    frozen,
    moving,
    editable,
  };
  return (
    // The grid is one stop of the tab key; the arrow keys move the active cell within it.
    <div
      className={styles.grid}
      ref={scroller}
      tabIndex={0}
      role="grid"
      aria-label="Data"
      aria-rowcount={order.length + 1}
      aria-colcount={names.length + 1}
      aria-activedescendant={place ? `cell-${place.row}-${place.column}` : undefined}
      onKeyDown={onKey}
    >
      <div
        role="presentation"
        style={{ width, height: rows.getTotalSize() + HEAD_HEIGHT, position: "relative" }}
      >
        <GridHead
          {...{ dataset, view, summaries, selected, select, frozen, moving, width, left }}
          items={columns.getVirtualItems()}
        />
        {rows.getVirtualItems().map((row) => (
          <GridRow
            key={row.key}
            index={row.index}
            top={row.start}
            width={width}
            items={columns.getVirtualItems()}
            {...shared}
          />
        ))}
        {order.length === 0 && (
          <p className={`${styles.gridEmpty} quiet`}>No row fits the condition.</p>
        )}
      </div>
    </div>
  );
}

type Scroller = ReturnType<typeof useVirtualizer<HTMLDivElement, Element>>;

/**
 * Brings what was chosen into sight: a column, the active cell, or the beginning of another order
 * of rows.
 */
function useFollow(
  rows: Scroller,
  columns: Scroller,
  view: GridView,
  selected: string | null,
  moving: string[],
): void {
  const { active, names, sort, condition } = view;
  const showColumn = (name: string | undefined): void => {
    const at = moving.indexOf(name ?? "");
    if (at >= 0) columns.scrollToIndex(at);
  };
  /* Only a new choice moves the grid, not every render. */
  /* eslint-disable react-hooks/exhaustive-deps */
  useEffect(() => showColumn(selected ?? undefined), [selected]);
  useEffect(() => {
    if (!active) return;
    rows.scrollToIndex(active.row);
    showColumn(names[active.column]);
  }, [active]);
  useEffect(() => rows.scrollToOffset(0), [sort, condition]);
  /* eslint-enable react-hooks/exhaustive-deps */
}

/** Only imported cells can be corrected; what is made of them follows. */
const isEditable = (dataset: Dataset, name: string | undefined): boolean =>
  name !== undefined && dataset.origins.get(name) === "raw" && !dataset.table.moments;

interface Moves {
  rows: number;
  columns: number;
  move: (down: number, right: number) => void;
  begin: (text?: string) => void;
  clear: () => void;
}

/** What a key does in the grid; true when it did something. */
function gridKey(event: KeyboardEvent, { rows, columns, move, begin, clear }: Moves): boolean {
  const far = event.ctrlKey || event.metaKey;
  const steps: Record<string, [number, number]> = {
    ArrowDown: [far ? rows : 1, 0],
    ArrowUp: [far ? -rows : -1, 0],
    ArrowRight: [0, far ? columns : 1],
    ArrowLeft: [0, far ? -columns : -1],
    PageDown: [20, 0],
    PageUp: [-20, 0],
    Home: [far ? -rows : 0, -columns],
    End: [far ? rows : 0, columns],
  };
  const step = steps[event.key];
  if (step) move(...step);
  else if (event.key === "Enter" || event.key === "F2") begin();
  else if (event.key === "Delete") clear();
  else if (event.key.length === 1 && !far && !event.altKey && event.key !== " ") begin(event.key);
  else return false;
  return true;
}
