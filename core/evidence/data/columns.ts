import { numbersOf, pick, type NumberColumn } from "../../data";
import { findVariable, type Dataset } from "../../dataset";
import { inUnitOf, powerOf } from "../../numerics/unit";
import { StudyProblem } from "../../problems";

/** Reads columns of a dataset as numbers at its included rows, once each. */
export class NumberReader {
  private readonly all = new Map<string, Float64Array>();

  constructor(readonly dataset: Dataset) {}

  /** Every row of the file. @throws StudyProblem for a column that is not there or holds names */
  everyRow(name: string): Float64Array {
    let values = this.all.get(name);
    if (!values) {
      const found = findVariable(this.dataset, name);
      if (!found)
        throw new StudyProblem(
          "no_column",
          { name },
          {
            variables: [name],
          },
        );
      values = numbersOf(found.column, found.variable);
      this.all.set(name, values);
    }
    return values;
  }

  included(name: string): NumberColumn {
    return { name, values: pick(this.everyRow(name), this.dataset.included) };
  }

  /** For what does not depend on the unit: in a unit in which the numbers can be squared. */
  comparable(name: string): NumberColumn {
    const { values } = this.included(name);
    return { name, values: inUnitOf(values, powerOf(values)) };
  }

  /** The row of the file, from 1, of a position among the included rows. */
  fileRow(position: number): number {
    return this.dataset.included[position]! + 1;
  }
}
