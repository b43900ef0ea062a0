import { plain, type Evidence } from "../../../core";
import styles from "./diagram.module.css";
import {
  ITEM_HEIGHT,
  ITEM_WIDTH,
  itemNumber,
  placeItems,
  type Box,
} from "../../../formats/figures";

/** The items of a construct around its card, with their loadings or weights. */
export function Items({
  box,
  items,
  evidence,
  wording,
}: {
  box: Box;
  items: readonly string[];
  evidence: Evidence;
  /** What an item says, where that is known. */
  wording: (item: string) => string | undefined;
}) {
  return placeItems(box, items).map(({ item, x, y, from, above }) => {
    const { value, words } = itemNumber(evidence, box.name, item);
    const end = { x: x + ITEM_WIDTH / 2, y: above ? y + ITEM_HEIGHT : y };
    const middle = { x: (from.x + end.x) / 2, y: (from.y + end.y) / 2 + 4 };
    const short = item.length > 7 ? `${item.slice(0, 6)}…` : item;
    return (
      <g key={item} className={styles.item}>
        <line x1={from.x} y1={from.y} x2={end.x} y2={end.y} />
        <rect x={x} y={y} width={ITEM_WIDTH} height={ITEM_HEIGHT} />
        <text x={x + ITEM_WIDTH / 2} y={y + 14} textAnchor="middle">
          {short}
          <title>{[item, wording(item)].filter(Boolean).join(": ")}</title>
        </text>
        <text className={styles.loading} x={middle.x} y={middle.y} textAnchor="middle">
          {plain(value, 2)}
          <title>{`${words} of ${item}`}</title>
        </text>
      </g>
    );
  });
}
