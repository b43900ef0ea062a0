import { renameInTheory, writeStatement, type Measure, type MeasureForm } from "../../../core";
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
  form: MeasureForm = "averages",
): string {
  const measure: Measure = {
    kind: "measure",
    line: 0,
    name: ref(name),
    form,
    items: items.map((item) => ({ ref: ref(item), reversed: false })),
    scale: null,
    answered: null,
  };
  const lines = theory.split("\n");
  const after = Math.max(0, ...measures.map((m) => m.line));
  const at = theory.trim() === "" ? [] : lines;
  return [...at.slice(0, after), writeStatement(measure), ...at.slice(after)].join("\n");
}

/**
 * The theory with these measures: an item leaves the measure in which it stood, a measure that is
 * left without items goes, and one that keeps its name keeps its place.
 */
export function measuresMade(
  theory: string,
  measures: readonly Measure[],
  made: readonly { name: string; items: readonly { item: string; reversed: boolean }[] }[],
  form: MeasureForm,
  rangeOf: (items: string[]) => [number, number] | null,
): string {
  const moved = new Set(made.flatMap((m) => m.items.map((i) => i.item)));
  const written = (one: (typeof made)[number]): Measure => {
    const scale = one.items.some((i) => i.reversed) ? rangeOf(one.items.map((i) => i.item)) : null;
    return {
      kind: "measure",
      line: 0,
      name: ref(one.name),
      form,
      items: one.items.map(({ item, reversed }) => ({ ref: ref(item), reversed })),
      scale,
      answered: null,
    };
  };
  const lines = theory.trim() === "" ? [] : theory.split("\n");
  const kept = new Map<number, string | null>();
  const placed = new Set<string>();
  for (const measure of measures) {
    const left = measure.items.map((i) => i.ref.name).filter((item) => moved.has(item));
    const again = made.find((one) => one.name === measure.name.name);
    if (again) placed.add(again.name);
    if (again) kept.set(measure.line, writeStatement(written(again)));
    else if (left.length === measure.items.length) kept.set(measure.line, null);
    else if (left.length > 0)
      kept.set(measure.line, writeStatement(left.reduce(withoutItem, measure)));
  }
  const after = Math.max(0, ...measures.map((m) => m.line));
  const asKept = (line: string, at: number): string[] => {
    const now = kept.get(at + 1);
    return now === undefined ? [line] : now === null ? [] : [now];
  };
  const added = made
    .filter((one) => !placed.has(one.name))
    .map((one) => writeStatement(written(one)));
  return [
    ...lines.slice(0, after).flatMap(asKept),
    ...added,
    ...lines.slice(after).flatMap((line, at) => asKept(line, at + after)),
  ].join("\n");
}

/** A name that no column and no measure has yet. */
export function freeName(wanted: string, taken: readonly string[]): string {
  if (!taken.includes(wanted)) return wanted;
  const first = `${wanted}_scale`;
  if (!taken.includes(first)) return first;
  for (let k = 2; ; k++) if (!taken.includes(`${first}_${k}`)) return `${first}_${k}`;
}

/**
 * A measure made otherwise; what only its former kind knows - weights, direction, scaling - does
 * not come along.
 */
export function formed(measure: Measure, form: MeasureForm): Measure {
  const { weighting, signedBy, reliability, scaledBy, ...kept } = measure;
  const made: Measure = { ...kept, form };
  if (form === "combines" && weighting !== undefined) made.weighting = weighting;
  if ((form === "combines" || form === "reflects") && signedBy) made.signedBy = signedBy;
  if (form === "reflects" && reliability !== undefined) made.reliability = reliability;
  if (form === "reflects" && scaledBy !== undefined) made.scaledBy = scaledBy;
  return made;
}

/** The measure with one more item; a known reliability is that of a single item, and goes. */
export function withItem(measure: Measure, item: string): Measure {
  if (measure.items.some((i) => i.ref.name === item)) return measure;
  const items = [...measure.items, { ref: ref(item), reversed: false }];
  return { ...reliable(measure, null), items };
}

/**
 * A factor whose scale comes from an item, from a variance of one, or, for an empty name, from what
 * the settings say.
 */
export function scaled(measure: Measure, by: string): Measure {
  const changed = reliable(measure, null);
  delete changed.scaledBy;
  if (by !== "") changed.scaledBy = by === VARIANCE ? "variance" : ref(by);
  return changed;
}

/** Stands for a variance of one among the names of items; no item has an empty word in its name. */
export const VARIANCE = " variance";

/**
 * A factor of one item whose reliability is known: above 0 and up to 1; none where it is taken as
 * free of error.
 */
export function reliable(measure: Measure, reliability: number | null): Measure {
  const changed = { ...measure };
  if (reliability === null) delete changed.reliability;
  else changed.reliability = reliability;
  return changed;
}

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

/**
 * Factors that are no items of another factor, so that they may become some of one of second order.
 */
export const freeFactors = (measures: readonly Measure[]): string[] => {
  const used = new Set(
    measures.flatMap((m) => (m.form === "reflects" ? m.items.map((i) => i.ref.name) : [])),
  );
  return measures.flatMap((m) =>
    m.form === "reflects" && !used.has(m.name.name) ? [m.name.name] : [],
  );
};

/**
 * What may become an item of a measure: columns that are free; for a factor also other factors,
 * which do not have it as an item themselves (a factor of second order).
 */
export function itemsFor(
  measure: Measure,
  measures: readonly Measure[],
  free: readonly string[],
): string[] {
  if (measure.form !== "reflects") return [...free];
  const named = (m: Measure): string[] => m.items.map((i) => i.ref.name);
  const within = (name: string): string[] => {
    const own = measures.find((m) => m.name.name === name);
    return own ? [name, ...named(own).flatMap(within)] : [name];
  };
  const factors = freeFactors(measures).filter(
    (name) => name !== measure.name.name && !within(name).includes(measure.name.name),
  );
  return [...free, ...factors];
}

/**
 * Turns an item round; the scale has to be known for that, and the observed answers are its first
 * guess.
 */
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
