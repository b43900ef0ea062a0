import ButtonBase from "@mui/material/ButtonBase";
import type { VirtualItem } from "@tanstack/react-virtual";
import { percent, type ColumnSummary, type Dataset, type Variable } from "../../../core";
import { COLUMN_WIDTH, HEAD_HEIGHT, NUMBER_WIDTH } from "./grid-sizes";
import type { GridView } from "./grid-view";
import { Sparkbars } from "./sparkbars";
import styles from "./data-grid.module.css";

interface Props {
  dataset: Dataset;
  view: GridView;
  summaries: ColumnSummary[];
  selected: string | null;
  select: (name: string | null) => void;
  frozen: string | null;
  moving: string[];
  width: number;
  left: number;
  items: VirtualItem[];
}

/** A card on top of every column: its name, level, shape and gaps. */
export function GridHead({
  dataset,
  view,
  summaries,
  selected,
  select,
  frozen,
  moving,
  width,
  left,
  items,
}: Props) {
  const card = (name: string) => (
    <ColumnCard
      variable={dataset.variables.find((v) => v.name === name)!}
      origin={dataset.origins.get(name)!}
      summary={summaries.find((s) => s.name === name)}
      selected={selected === name}
      select={() => select(selected === name ? null : name)}
      sorted={
        view.sort?.name === name ? (view.sort.descending ? "descending" : "ascending") : "none"
      }
      sort={() => view.setSort(nextSort(view.sort, name))}
    />
  );
  const sorted = (name: string): "ascending" | "descending" | undefined =>
    view.sort?.name === name ? (view.sort.descending ? "descending" : "ascending") : undefined;
  return (
    <div
      role="row"
      aria-rowindex={1}
      className={styles.gridHead}
      style={{ height: HEAD_HEIGHT, width }}
    >
      <div
        className={`${styles.gridFixed} ${styles.head}`}
        style={{ width: left, height: HEAD_HEIGHT }}
      >
        <div
          role="columnheader"
          className={`${styles.gridCorner} quiet`}
          style={{ width: NUMBER_WIDTH }}
        >
          row
        </div>
        {frozen && (
          <div
            role="columnheader"
            aria-sort={sorted(frozen)}
            style={{ width: COLUMN_WIDTH, height: HEAD_HEIGHT, position: "relative" }}
          >
            {card(frozen)}
          </div>
        )}
      </div>
      {items.map((item) => {
        const name = moving[item.index]!;
        return (
          <div
            key={name}
            role="columnheader"
            aria-colindex={view.names.indexOf(name) + 2}
            aria-sort={sorted(name)}
            className={styles.gridCardCell}
            style={{ left: item.start, width: COLUMN_WIDTH, height: HEAD_HEIGHT }}
          >
            {card(name)}
          </div>
        );
      })}
    </div>
  );
}

/** Ascending, then descending, then the order of the file. */
function nextSort(sort: GridView["sort"], name: string): GridView["sort"] {
  if (sort?.name !== name) return { name, descending: false };
  return sort.descending ? null : { name, descending: true };
}

interface CardProps {
  variable: Variable;
  origin: string;
  summary: ColumnSummary | undefined;
  selected: boolean;
  select: () => void;
  sorted: "ascending" | "descending" | "none";
  sort: () => void;
}

const SORT_MARKS = { ascending: "↑", descending: "↓", none: "↕" };

function ColumnCard({ variable, origin, summary, selected, select, sorted, sort }: CardProps) {
  const share = summary && summary.rows > 0 ? summary.missing / summary.rows : 0;
  const flagged = summary && (summary.notNumeric !== null || summary.constant);
  return (
    <>
      <ButtonBase
        className={`${styles.columnCard} ${selected ? styles.selected : ""} ${styles[origin] ?? ""}`}
        aria-pressed={selected}
        onClick={select}
      >
        <span className={styles.columnName} title={variable.label ?? variable.name}>
          {variable.name}
        </span>
        <span className={styles.columnLevel}>
          {origin === "raw"
            ? variable.level
            : origin === "measure"
              ? "scale score"
              : `derived, ${variable.level}`}
        </span>
        <span className={styles.columnShape}>
          {summary && <Sparkbars summary={summary} width={COLUMN_WIDTH - 22} height={32} />}
        </span>
        <span className={`${styles.columnMissing} ${flagged ? styles.flag : ""}`}>
          {flagged
            ? "◆ needs a look"
            : share > 0
              ? `${share < 0.001 ? "< 0.1" : percent(Number(share.toFixed(share < 0.1 ? 3 : 2)))} % missing`
              : "complete"}
        </span>
      </ButtonBase>
      <ButtonBase
        className={`${styles.columnSort} ${styles[sorted] ?? ""}`}
        aria-label={`Sort by ${variable.name}`}
        title={sorted === "none" ? "Sort" : `Sorted, ${sorted}`}
        onClick={sort}
      >
        {SORT_MARKS[sorted]}
      </ButtonBase>
    </>
  );
}
