import { plain, type StructureSection } from "../../../core";
import styles from "./diagram.module.css";
import { placeItems } from "../../../formats/figures";
import type { Box, Point } from "../../../formats/figures";

type Place = Box & { above?: boolean };

/** Covariances that are drawn: between cards, and between items where they are shown. */
export function Covariances({
  boxes,
  unfolded,
  section,
}: {
  boxes: readonly Box[];
  unfolded: readonly { name: string; items: string[] }[];
  section: StructureSection;
}) {
  const places = new Map<string, Place>(boxes.map((b) => [b.name, b]));
  for (const { name, items } of unfolded) {
    const card = places.get(name);
    if (card)
      for (const item of placeItems(card, items))
        places.set(item.item, { ...item, name: item.item });
  }
  return section.arrows
    .filter((a) => a.role === "covariance" && a.free && a.group === section.groups[0])
    .flatMap(({ from, to, arrow, full }) => {
      const [a, b] = [places.get(from), places.get(to)];
      if (!a || !b) return [];
      const { path, middle } = arc(a, b);
      return [
        <g key={arrow} className={styles.covariance}>
          <path d={path} />
          <text x={middle.x} y={middle.y + 4} textAnchor="middle">
            {plain(full.estimate, 2)}
            <title>{`${from} with ${to}, correlation (of what is left)`}</title>
          </text>
        </g>,
      ];
    });
}

/**
 * A bow beside two cards of one column, beneath two of one row; from beneath one to the side of
 * another that is lower.
 */
function arc(a: Place, b: Place): { path: string; middle: Point } {
  const [above, below] = a.y <= b.y ? [a, b] : [b, a];
  const sameColumn = Math.abs(a.x - b.x) < Math.max(a.width, b.width) / 2;
  if (sameColumn && below.y - above.y > above.height / 2) {
    const [start, end] = [
      { x: above.x, y: above.y + above.height / 2 },
      { x: below.x, y: below.y + below.height / 2 },
    ];
    const reach = Math.min(start.x, end.x) - 18 - Math.min(46, (end.y - start.y) / 8);
    return {
      path: `M${start.x} ${start.y}Q${reach} ${(start.y + end.y) / 2} ${end.x} ${end.y}`,
      middle: { x: (Math.min(start.x, end.x) + reach) / 2, y: (start.y + end.y) / 2 },
    };
  }
  const [left, right] = a.x <= b.x ? [a, b] : [b, a];
  // Items above their card go together above it.
  if (left.above && right.above) {
    const top = Math.min(left.y, right.y) - Math.min(50, 14 + (right.x - left.x) / 8);
    const [x1, x2] = [left.x + left.width / 2, right.x + right.width / 2];
    return {
      path: `M${x1} ${left.y}Q${(x1 + x2) / 2} ${top} ${x2} ${right.y}`,
      middle: { x: (x1 + x2) / 2, y: (Math.min(left.y, right.y) + top) / 2 },
    };
  }
  if (below.y - above.y > above.height) return toTheSide(above, below);
  const start = { x: left.x + left.width / 2, y: left.y + left.height };
  const end = { x: right.x + right.width / 2, y: right.y + right.height };
  const depth = Math.max(start.y, end.y) + Math.min(60, 14 + (end.x - start.x) / 8);
  return {
    path: `M${start.x} ${start.y}Q${(start.x + end.x) / 2} ${depth} ${end.x} ${end.y}`,
    middle: { x: (start.x + end.x) / 2, y: (Math.max(start.y, end.y) + depth) / 2 },
  };
}

/** From beneath one card to the nearer side of one that stands lower, beside it. */
function toTheSide(above: Place, below: Place): { path: string; middle: Point } {
  const start = { x: above.x + above.width / 2, y: above.y + above.height };
  const end = {
    x: start.x < below.x + below.width / 2 ? below.x : below.x + below.width,
    y: below.y + below.height / 2,
  };
  return {
    path: `M${start.x} ${start.y}Q${start.x} ${end.y} ${end.x} ${end.y}`,
    middle: { x: 0.75 * start.x + 0.25 * end.x, y: 0.25 * start.y + 0.75 * end.y },
  };
}
