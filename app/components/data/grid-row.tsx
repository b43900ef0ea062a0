import type { VirtualItem } from "@tanstack/react-virtual";
import {
  cell,
  isMissing,
  shownText,
  type CellPlace,
  type Correction,
  type Dataset,
  type TextColumn,
} from "../../../core";
import { COLUMN_WIDTH, NUMBER_WIDTH, ROW_HEIGHT } from "./grid-sizes";
import type { GridView } from "./grid-view";
import { TextInput } from "../ui/text-input";
import styles from "./data-grid.module.css";

interface Props {
  index: number;
  top: number;
  width: number;
  items: VirtualItem[];
  dataset: Dataset;
  view: GridView;
  corrections: Correction[];
  selected: string | null;
  place: CellPlace | null;
  frozen: string | null;
  moving: string[];
  editing: { text: string } | null;
  setEditing: (editing: { text: string } | null) => void;
  commit: (text: string, down: number, right: number) => void;
  begin: () => void;
  editable: (name: string | undefined) => boolean;
}

const excludedOf = new WeakMap<Dataset, Map<number, string>>();

/** Row -> the filter that leaves it out. */
function excludedRows(dataset: Dataset): Map<number, string> {
  let found = excludedOf.get(dataset);
  if (!found) {
    found = new Map(
      dataset.excluded.flatMap(({ filter, rows }) => rows.map((row) => [row, filter] as const)),
    );
    excludedOf.set(dataset, found);
  }
  return found;
}

export function GridRow(props: Props) {
  const { index, top, width, items, dataset, view, frozen, moving } = props;
  const row = view.order[index]!;
  const filter = excludedRows(dataset).get(row);
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      className={`${styles.gridRow} ${filter ? styles.leftOut : ""}`}
      title={filter && `Left out of analyses: ${filter}`}
      style={{ top, height: ROW_HEIGHT, width }}
    >
      <div className={styles.gridFixed}>
        <div
          role="rowheader"
          className={`${styles.gridNumber} quiet`}
          style={{ width: NUMBER_WIDTH }}
        >
          {filter && <span aria-label="left out">×&nbsp;</span>}
          {row + 1}
        </div>
        {frozen && <Cell {...props} row={row} name={frozen} style={{ width: COLUMN_WIDTH }} />}
      </div>
      {items.map((item) => (
        <Cell
          key={item.key}
          {...props}
          row={row}
          name={moving[item.index]!}
          style={{ position: "absolute", left: item.start, width: COLUMN_WIDTH }}
        />
      ))}
    </div>
  );
}

type CellProps = Props & { row: number; name: string; style: React.CSSProperties };

function Cell({
  index,
  row,
  name,
  style,
  dataset,
  view,
  corrections,
  selected,
  place,
  editing,
  setEditing,
  commit,
  begin,
  editable,
}: CellProps) {
  const at = dataset.table.columns.findIndex((c) => c.name === name);
  const column = dataset.table.columns[at]!;
  const variable = dataset.variables[at]!;
  const c = view.names.indexOf(name);
  const active = place?.row === index && place.column === c;
  const text = shownText(column, variable, row, view.labels);
  const gap = isMissing(cell(column, row), variable);
  const numeric = variable.level === "continuous" || variable.level === "ordinal";
  const correction = corrections.find((k) => k.column === name && k.row === row + 1);
  const classes = [
    styles.gridCell,
    numeric && styles.number,
    gap && styles.gap,
    selected === name && styles.chosen,
    active && styles.active,
    correction && styles.corrected,
  ];
  return (
    <div
      role="gridcell"
      id={`cell-${index}-${c}`}
      tabIndex={-1}
      aria-colindex={c + 2}
      aria-readonly={!editable(name)}
      className={classes.filter(Boolean).join(" ")}
      style={style}
      title={correction ? `Corrected; it was “${correction.from}”` : undefined}
      onMouseDown={(e) => {
        if (active && editing) return;
        e.preventDefault();
        e.currentTarget.closest<HTMLElement>("[role=grid]")?.focus();
        if (editing) commit(editing.text, 0, 0);
        view.setActive({ row: index, column: c });
      }}
      onDoubleClick={begin}
    >
      {active && editing ? (
        <CellEditor
          name={name}
          text={editing.text}
          change={(next) => setEditing({ text: next })}
          commit={commit}
          cancel={() => setEditing(null)}
        />
      ) : (
        <>
          {text === "" ? "·" : text}
          {numeric && !gap && !view.labels && <Padding text={text} places={places(column)} />}
        </>
      )}
    </div>
  );
}

interface EditorProps {
  name: string;
  text: string;
  change: (text: string) => void;
  commit: (text: string, down: number, right: number) => void;
  cancel: () => void;
}

function CellEditor({ name, text, change, commit, cancel }: EditorProps) {
  return (
    <TextInput
      bare
      className={styles.cellEditor!}
      // The cell was opened to be typed into.
      // eslint-disable-next-line jsx-a11y/no-autofocus
      autoFocus
      aria-label={`New value of ${name}`}
      value={text}
      onChange={(e) => change(e.target.value)}
      onBlur={(e) => e.currentTarget.isConnected && commit(text, 0, 0)}
      onKeyDown={(e) => {
        if (e.key === "Enter") commit(text, 1, 0);
        else if (e.key === "Tab") {
          e.preventDefault();
          commit(text, 0, e.shiftKey ? -1 : 1);
        } else if (e.key === "Escape") {
          const grid = e.currentTarget.closest<HTMLElement>("[role=grid]");
          cancel();
          grid?.focus();
        }
        e.stopPropagation();
      }}
    />
  );
}

const placesOf = new WeakMap<TextColumn, number>();

/**
 * The most decimals that a cell of the column has, at most four; the first two thousand texts tell.
 */
function places(column: TextColumn): number {
  let found = placesOf.get(column);
  if (found === undefined) {
    found = column.dictionary
      .slice(0, 2000)
      .reduce(
        (most, text) => Math.max(most, Math.min(4, /[.,](\d+)$/.exec(text)?.[1]?.length ?? 0)),
        0,
      );
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
    <span className={styles.padding} aria-hidden>
      {(own === 0 ? "." : "") + "0".repeat(lacking)}
    </span>
  );
}
