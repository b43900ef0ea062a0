import type { Column, UsedCoding } from "../../design";
import { codedColumns } from "../../design";
import { pick, type Sample, type TypedColumn, type Variable } from "../../data";
import type { Measure } from "../../theory";
import type { ModelData } from "../engine";
import type { Grouping } from "../grouping";
import type { BuiltModel } from "./build-model";
import { centreProducts, type ProductPlan } from "./products";
import type { StructureSample } from "./specification";

/** Code columns of the categorical predictors of a theory. */
export class CodeColumns {
  readonly codings: UsedCoding[] = [];
  private readonly made = new Map<string, Column[]>();

  constructor(
    private readonly typed: ReadonlyMap<string, TypedColumn>,
    private readonly variables: ReadonlyMap<string, Variable>,
    private readonly sample: Sample,
  ) {}

  /** The code columns of a variable; null where it is none of a categorical kind. */
  of(name: string): Column[] | null {
    if (this.variables.get(name)?.level !== "categorical" || !this.typed.has(name)) return null;
    let columns = this.made.get(name);
    if (!columns) {
      columns = codedColumns(
        this.typed.get(name)!,
        this.variables.get(name)!,
        this.sample,
        this.codings,
      );
      this.made.set(name, columns);
    }
    return columns;
  }

  values(key: string): Float64Array | null {
    for (const columns of this.made.values()) {
      const found = columns.find((c) => c.key === key);
      if (found) return found.values;
    }
    return null;
  }
}

/**
 * Columns on the rows of the sample: items turned round where they are keyed the other way,
 * products made, groups apart.
 */
export function structureSample(
  built: BuiltModel,
  { typed, sample, momentsOnly }: ModelData,
  codes: CodeColumns,
  grouping: Grouping,
): StructureSample {
  const { observed } = built.spec;
  const turned = turnedItems(built.factors);
  const p = observed.length;
  const rows = sample.rows.length;
  const places = new Map(observed.map((name, at) => [name, at]));
  const all = observed.map((name) => {
    if (!built.dataColumns.includes(name)) return new Float64Array(rows);
    const values = codes.values(name) ?? pick(typed.get(name)!.values, sample.rows);
    // Covariances do not depend on the limits of the scale.
    return turned.has(name) ? values.map((value) => -value) : values;
  });
  const plans = productPlans(built, places);
  const groups = grouping.names.map((_, g) => {
    const members = grouping.of.reduce<number[]>((list, at, row) => {
      if (at === g) list.push(row);
      return list;
    }, []);
    const columns =
      members.length === rows
        ? all.slice(0, p)
        : all.map((column) => Float64Array.from(members, (row) => column[row]!));
    centreProducts(columns, plans);
    return columns;
  });
  return { groups, momentsOnly };
}

/** Where the products of a model stand among its columns. */
export function productPlans(
  built: BuiltModel,
  places: ReadonlyMap<string, number>,
): ProductPlan[] {
  const itemsOf = (name: string): string[] =>
    built.factors.find((m) => m.name.name === name)?.items.map((i) => i.ref.name) ?? [name];
  return built.products.map(({ x, w, items }) => ({
    items: items.map((item) => ({
      x: places.get(item.x)!,
      w: places.get(item.w)!,
      at: places.get(item.name)!,
    })),
    partialled: built.residualCentring
      ? [...itemsOf(x), ...itemsOf(w)].map((name) => places.get(name)!)
      : null,
  }));
}

const turnedItems = (factors: readonly Measure[]): Set<string> =>
  new Set(factors.flatMap((m) => m.items.filter((i) => i.reversed).map((i) => i.ref.name)));
