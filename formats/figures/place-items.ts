import type { Box } from "./shapes";

export const ITEM_WIDTH = 47;
export const ITEM_HEIGHT = 20;
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
    const total = row.length * ITEM_WIDTH + (row.length - 1) * gap;
    const cardTop = box.y + (box.height - CARD) / 2;
    return row.map((item, k): PlacedItem => ({
      item,
      x: box.x + box.width / 2 - total / 2 + k * (ITEM_WIDTH + gap),
      y: above ? box.y : box.y + box.height - ITEM_HEIGHT,
      width: ITEM_WIDTH,
      height: ITEM_HEIGHT,
      from: {
        x: box.x + box.width / 2 + (k - (row.length - 1) / 2) * 18,
        y: above ? cardTop : cardTop + CARD,
      },
      above,
    }));
  });
}
