import { renameInTheory, writeStatement, type Measure } from "../../../core";
import { ref, replaceLine } from "../theory/edit-text";

/** The theory with a measure changed in place. */
export const rewriteMeasure = (theory: string, measure: Measure): string =>
  replaceLine(theory, measure.line, writeStatement(measure));

export const removeMeasure = (theory: string, measure: Measure): string =>
  replaceLine(theory, measure.line, null);

/** Measures stand above the hypotheses that use them, in the order they were made. */
export function addMeasure(
  theory: string,
  measures: readonly Measure[],
  name: string,
  items: readonly string[],
): string {
  const measure: Measure = {
    kind: "measure",
    line: 0,
    name: ref(name),
    form: "averages",
    items: items.map((item) => ({ ref: ref(item), reversed: false })),
    scale: null,
    answered: null,
  };
  const lines = theory.split("\n");
  const after = Math.max(0, ...measures.map((m) => m.line));
  const at = theory.trim() === "" ? [] : lines;
  return [...at.slice(0, after), writeStatement(measure), ...at.slice(after)].join("\n");
}

/** A name that no column and no measure has yet. */
export function freeName(wanted: string, taken: readonly string[]): string {
  if (!taken.includes(wanted)) return wanted;
  const first = `${wanted}_scale`;
  if (!taken.includes(first)) return first;
  for (let k = 2; ; k++) if (!taken.includes(`${first}_${k}`)) return `${first}_${k}`;
}

export const withItem = (measure: Measure, item: string): Measure =>
  measure.items.some((i) => i.ref.name === item)
    ? measure
    : { ...measure, items: [...measure.items, { ref: ref(item), reversed: false }] };

/** What the item settled - direction, scaling - is settled without it. */
export function withoutItem(measure: Measure, item: string): Measure {
  const items = measure.items.filter((i) => i.ref.name !== item);
  const kept = { ...(measure.signedBy?.name === item ? signed(measure, "") : measure), items };
  const { scaledBy } = kept;
  if (typeof scaledBy === "object" && scaledBy.name === item) delete kept.scaledBy;
  return kept;
}

/** A composite whose direction one of its items tells; most of them do for an empty name. */
export function signed(measure: Measure, item: string): Measure {
  const found = measure.items.find((i) => i.ref.name === item)?.ref;
  const changed = { ...measure };
  if (found) changed.signedBy = found;
  else delete changed.signedBy;
  return changed;
}

/** Turns an item round; the scale has to be known for that, and the observed answers are its first guess. */
export const turnItem = (
  measure: Measure,
  item: string,
  observed: [number, number] | null,
): Measure => ({
  ...measure,
  items: measure.items.map((i) => (i.ref.name === item ? { ...i, reversed: !i.reversed } : i)),
  scale: measure.scale ?? observed,
});

export const renameMeasure = (theory: string, measure: Measure, name: string): string =>
  renameInTheory(theory, measure.name.name, name);
