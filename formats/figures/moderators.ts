import type { Evidence } from "../../core";
import type { Box, Point } from "./shapes";

/** A moderator's line to the step it acts on, ending in a fulcrum. */
export interface ModeratorLine {
  moderator: string;
  from: string;
  to: string;
  d: string;
  tip: Point;
  /** Direction from the step back to the moderator, in radians. */
  angle: number;
}

interface Step {
  from: string;
  to: string;
  curve: Point[];
  label: Point;
}

const MARGIN = 16;

/**
 * Cards for moderators that are no part of a path, in a row beneath, each as near as can be to what
 * it acts on.
 */
export function moderatorBoxes(
  evidence: Pick<Evidence, "paths">,
  steps: Step[],
  boxes: Box[],
  size: { width: number; height: number },
  width: number,
): Box[] {
  const names = [...new Set(evidence.paths.flatMap((p) => p.moderators))].filter(
    (name) => !boxes.some((b) => b.name === name),
  );
  const bottom = Math.max(...boxes.map((b) => b.y + b.height));
  const wanted = names.map((name) => {
    const own = steps.filter((s) =>
      evidence.paths.some((p) => p.from === s.from && p.to === s.to && p.moderators.includes(name)),
    );
    const x =
      own.reduce((sum, s) => sum + s.curve[Math.floor(s.curve.length / 2)]!.x, 0) /
      Math.max(1, own.length);
    return { name, x: x - size.width / 2 };
  });
  wanted.sort((a, b) => a.x - b.x);
  let left = MARGIN;
  return wanted.map(({ name, x }, i) => {
    const at = Math.min(
      Math.max(left, x),
      width - MARGIN - (wanted.length - i) * (size.width + MARGIN) + MARGIN,
    );
    left = at + size.width + MARGIN;
    return { name, x: at, y: bottom + 84, ...size };
  });
}

/** A straight line from each moderator's card to its step, beside the step's label. */
export function moderatorLines(
  evidence: Pick<Evidence, "paths">,
  steps: Step[],
  boxes: Box[],
): ModeratorLine[] {
  return evidence.paths.flatMap((path) => {
    const step = steps.find((s) => s.from === path.from && s.to === path.to)!;
    return path.moderators.flatMap((moderator, i): ModeratorLine[] => {
      const box = boxes.find((b) => b.name === moderator);
      if (!box) return [];
      const start = { x: box.x + box.width / 2, y: box.y };
      const tip = freePoint(step, start, i);
      const from = tip.y > box.y + box.height / 2 ? { ...start, y: box.y + box.height } : start;
      const angle = Math.atan2(from.y - tip.y, from.x - tip.x);
      return [
        {
          moderator,
          from: path.from,
          to: path.to,
          d: `M${from.x.toFixed(1)} ${from.y.toFixed(1)}L${tip.x.toFixed(1)} ${tip.y.toFixed(1)}`,
          tip,
          angle,
        },
      ];
    });
  });
}

/**
 * The point of a step that is near the moderator and clear of the step's label; several moderators
 * stand apart.
 */
function freePoint({ curve, label }: Step, start: Point, order: number): Point {
  const middle = curve.slice(9, -9);
  const inner = middle.filter((p) => Math.abs(p.x - label.x) > 56 || Math.abs(p.y - label.y) > 26);
  const ranked = [...(inner.length > 0 ? inner : middle)].sort(
    (a, b) => Math.hypot(a.x - start.x, a.y - start.y) - Math.hypot(b.x - start.x, b.y - start.y),
  );
  return ranked[Math.min(ranked.length - 1, order * 4)]!;
}
