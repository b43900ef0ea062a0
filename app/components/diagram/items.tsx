import { plain, type Evidence } from "../../../core";
import styles from "./diagram.module.css";
import { itemNumber } from "./measured";
import type { Box } from "./shapes";

const WIDTH = 47;
const HEIGHT = 20;
const CARD = 52;

/** Where an item stands, and the line from the card to it. */
export interface PlacedItem {
  item: string;
  x: number;
  y: number;
  width: number;
  height: number;
  /** End of the line at the card. */
  from: { x: number; y: number };
  above: boolean;
}

/** Items of an unfolded card: the first half above it, the others below. */
export function placeItems(box: Box, items: readonly string[]): PlacedItem[] {
  const half = Math.ceil(items.length / 2);
  return [items.slice(0, half), items.slice(half)].flatMap((row, side) => {
    const above = side === 0;
    const gap = 4;
    const total = row.length * WIDTH + (row.length - 1) * gap;
    const cardTop = box.y + (box.height - CARD) / 2;
    return row.map((item, k): PlacedItem => ({
      item,
      x: box.x + box.width / 2 - total / 2 + k * (WIDTH + gap),
      y: above ? box.y : box.y + box.height - HEIGHT,
      width: WIDTH,
      height: HEIGHT,
      from: {
        x: box.x + box.width / 2 + (k - (row.length - 1) / 2) * 18,
        y: above ? cardTop : cardTop + CARD,
      },
      above,
    }));
  });
}

/** The items of a construct around its card, with their loadings or weights. */
export function Items({
  box,
  items,
  evidence,
}: {
  box: Box;
  items: readonly string[];
  evidence: Evidence;
}) {
  return placeItems(box, items).map(({ item, x, y, from, above }) => {
    const { value, words } = itemNumber(evidence, box.name, item);
    const end = { x: x + WIDTH / 2, y: above ? y + HEIGHT : y };
    const middle = { x: (from.x + end.x) / 2, y: (from.y + end.y) / 2 + 4 };
    const short = item.length > 7 ? `${item.slice(0, 6)}…` : item;
    return (
      <g key={item} className={styles.item}>
        <line x1={from.x} y1={from.y} x2={end.x} y2={end.y} />
        <rect x={x} y={y} width={WIDTH} height={HEIGHT} />
        <text x={x + WIDTH / 2} y={y + 14} textAnchor="middle">
          {short}
          <title>{item}</title>
        </text>
        <text className={styles.loading} x={middle.x} y={middle.y} textAnchor="middle">
          {plain(value, 2)}
          <title>{`${words} of ${item}`}</title>
        </text>
      </g>
    );
  });
}
