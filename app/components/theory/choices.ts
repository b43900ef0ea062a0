import type { Dataset, Measure, Statement } from "../../../core";

/** What the slots of the composer offer. */
export interface Choices {
  /** Measures of the theory first, whatever they are made as; then the columns of the data. */
  variables: string[];
  /**
   * Columns that may tell groups apart: categories first, then answers in steps that belong to no
   * measure.
   */
  groupings: string[];
  /** What tells variables apart in a list, by name. */
  details: Map<string, string>;
}

/** What a measure is, after “is”: “a common factor of”. */
const FORM_WORDS: Record<Measure["form"], string> = {
  averages: "the mean of",
  sums: "the sum of",
  reflects: "a common factor of",
  combines: "a composite of",
};

const itemsOf = ({ items }: Measure): string =>
  `${items.length} ${items.length === 1 ? "item" : "items"}`;

/** What a measure is made as and of: “a common factor of 4 items, 1 reversed”. */
export function measureWords(measure: Measure): string {
  const reversed = measure.items.filter((i) => i.reversed).length;
  return `${FORM_WORDS[measure.form]} ${itemsOf(measure)}${reversed > 0 ? `, ${reversed} reversed` : ""}`;
}

/**
 * What the sentences of a theory can be about. Factors and composites have no column of their own,
 * so a measure is known by its sentence.
 * @param held what the columns hold, by name: it takes a look at every cell, and does not change as
 *   a sentence is typed
 */
export function choicesOf(
  dataset: Dataset,
  statements: readonly Statement[],
  held: ReadonlyMap<string, string>,
): Choices {
  const measures = statements.filter((s) => s.kind === "measure");
  const details = new Map(held);
  for (const measure of measures)
    if (!details.has(measure.name.name)) details.set(measure.name.name, measureWords(measure));
  const columns = dataset.table.columns.flatMap(({ name }, j) =>
    dataset.variables[j]!.level === "identifier" || dataset.origins.get(name) === "measure"
      ? []
      : [name],
  );
  const items = new Set(measures.flatMap((m) => m.items.map((item) => item.ref.name)));
  const levelOf = new Map(dataset.variables.map((v) => [v.name, v.level]));
  return {
    variables: [...new Set([...measures.map((m) => m.name.name), ...columns])],
    groupings: [
      ...columns.filter((name) => ["binary", "categorical"].includes(levelOf.get(name)!)),
      ...columns.filter((name) => levelOf.get(name) === "ordinal" && !items.has(name)),
    ],
    details,
  };
}
