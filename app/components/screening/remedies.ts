import { parseTheory, writeStatement, type Remedy, type StudyDefinition } from "../../../core";
import { withFilter } from "../data/filters";
import { replaceLine } from "../theory/edit-text";

/** The change of a study that a remedy stands for. */
export function remedyPatch(
  remedy: Remedy,
  definition: StudyDefinition,
  columns: readonly string[],
): Partial<StudyDefinition> {
  switch (remedy.kind) {
    case "exclude":
      return {
        filters: withFilter(definition.filters, remedy.filter, { kind: "rows", rows: remedy.rows }),
      };
    case "missing_codes":
      return {
        variables: definition.variables.map((v) =>
          v.name === remedy.variable
            ? { ...v, missing: [...new Set([...(v.missing ?? []), ...remedy.codes])] }
            : v,
        ),
      };
    case "derive":
      return {
        derived: [
          ...definition.derived.filter((d) => d.name !== remedy.name),
          { name: remedy.name, recipe: remedy.recipe },
        ],
      };
    case "reverse": {
      const { statements } = parseTheory(definition.theory, columns);
      const measure = statements.find(
        (s) => s.kind === "measure" && s.name.name === remedy.measure,
      );
      if (measure?.kind !== "measure") return {};
      const items = measure.items.map((i) =>
        i.ref.name === remedy.item ? { ...i, reversed: !i.reversed } : i,
      );
      return {
        theory: replaceLine(definition.theory, measure.line, writeStatement({ ...measure, items })),
      };
    }
  }
}
