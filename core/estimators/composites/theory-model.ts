import { codedColumns, type Column, type UsedCoding } from "../../design";
import { pick } from "../../data";
import { reversed } from "../../measures";
import { StudyProblem } from "../../problems";
import { mean, standardDeviation, twoValues } from "../../numerics/moments";
import type { CompiledTheory, Measure } from "../../theory";
import type { ModelData } from "../engine";
import type { CompositeOptions } from "./options";
import type { CompositeModel, Construct, Product, WeightMode } from "./specification";

/** A variable of the theory as constructs: itself, or one for each of its code columns. */
export interface TheoryNode {
  name: string;
  keys: string[];
}

/**
 * A theory as a composite path model, with the columns it needs and how its names are found again.
 */
export interface TheoryComposite {
  model: CompositeModel;
  /** Indicators on the rows of the sample, turned where they are keyed the other way. */
  columns: Map<string, Float64Array>;
  nodes: TheoryNode[];
  /**
   * Columns that stand for one thing or another (two values, codes of levels): effects are said per
   * step, not per SD.
   */
  coded: Map<string, Column>;
  codings: UsedCoding[];
  /** Empty cells filled with the mean of their column, by column. */
  filled: Map<string, number>;
  /** Some measures are common factors, whether they are corrected or not. */
  correctable: boolean;
  /** Main effects that moderations add. */
  added: [string, string][];
}

/** Every variable that an equation names, in the order of the equations. */
export const nodesOf = ({ equations }: CompiledTheory): string[] => [
  ...new Set(
    equations.flatMap((e) => [...e.predictors, ...e.moderators, ...e.covariates, e.outcome]),
  ),
];

export function theoryComposite(
  theory: CompiledTheory,
  data: ModelData,
  options: CompositeOptions,
  grouping: string | null,
): TheoryComposite {
  const measures = new Map(data.measures.map((m) => [m.name.name, m]));
  const columns = new Map<string, Float64Array>();
  const coded = new Map<string, Column>();
  const codings: UsedCoding[] = [];
  const filled = new Map<string, number>();
  const constructs: Construct[] = [];
  const valuesOf = (name: string, all = data.typed.get(name)!.values): Float64Array => {
    const values = pick(all, data.sample.rows);
    return options.missing === "means" ? withMeans(name, values, filled) : values;
  };
  /** About the limits of its scale, as where items are averaged. */
  const turned = (measure: Measure, name: string): Float64Array => {
    const limits = measure.scale ?? data.variables.get(name)?.range;
    if (!limits)
      throw new StudyProblem(
        "scale_unknown",
        { item: name },
        { variables: [name], line: measure.line },
      );
    return valuesOf(name, reversed(name, data.typed.get(name)!.values, limits));
  };
  const nodes = nodesOf(theory)
    .filter((name) => name !== grouping)
    .map((name): TheoryNode => {
      const measure = measures.get(name);
      if (measure) {
        for (const item of measure.items)
          columns.set(
            item.ref.name,
            item.reversed ? turned(measure, item.ref.name) : valuesOf(item.ref.name),
          );
        constructs.push(constructOf(measure));
        for (const own of onlyItem(measure, columns) ?? []) coded.set(name, own);
        return { name, keys: [name] };
      }
      const typed = data.typed.get(name)!;
      const variable = data.variables.get(name)!;
      const own =
        variable.level === "categorical"
          ? codedColumns(typed, variable, data.sample, codings)
          : twoValued(name, valuesOf(name));
      for (const column of own ?? []) coded.set(column.key, column);
      const keys = own?.map((c) => c.key) ?? [name];
      keys.forEach((key, at) => {
        columns.set(key, own?.[at]?.values ?? valuesOf(name));
        constructs.push(single(key));
      });
      return { name, keys };
    });
  const keysOf = (name: string): string[] => nodes.find((n) => n.name === name)?.keys ?? [];
  const both = (froms: string[], to: string): [string, string][] =>
    froms.flatMap(keysOf).flatMap((from) => keysOf(to).map((key): [string, string] => [from, key]));
  const products = productsOf(theory, keysOf, grouping);
  const indicators = products.length > 0 && options.approach !== "two_stage";
  const added = theory.equations.flatMap((e) => both(e.moderators, e.outcome));
  return {
    model: {
      constructs,
      paths: theory.equations.flatMap((e) =>
        both([...e.predictors, ...e.moderators, ...e.covariates], e.outcome),
      ),
      products,
      scheme: options.scheme,
      approach: options.approach,
      consistent:
        options.correction === "reflective" && constructs.some(correctable) && !indicators,
    },
    correctable: options.correction === "reflective" && constructs.some(correctable),
    columns,
    nodes,
    coded,
    codings,
    filled,
    added,
  };
}

const correctable = ({ corrected, reliability }: Construct): boolean =>
  corrected || reliability !== null;

function constructOf(measure: Measure): Construct {
  const { name, form, items, reliability, weighting, signedBy } = measure;
  const mode: WeightMode = form === "reflects" ? "correlation" : (weighting ?? "correlation");
  return {
    name: name.name,
    mode: items.length === 1 ? "single" : mode,
    indicators: items.map((item) => item.ref.name),
    corrected: form === "reflects" && items.length > 1,
    reliability: items.length === 1 ? (reliability ?? null) : null,
    dominant: signedBy?.name ?? null,
  };
}

const single = (name: string): Construct => ({
  name,
  mode: "single",
  indicators: [name],
  corrected: false,
  reliability: null,
  dominant: null,
});

/** A measure of one column with two values is that column under another name. */
function onlyItem(
  { name, items, reliability }: Measure,
  columns: ReadonlyMap<string, Float64Array>,
): Column[] | null {
  const [item] = items;
  if (items.length !== 1 || (reliability ?? null) !== null) return null;
  return twoValued(name.name, columns.get(item!.ref.name)!);
}

/** A column of two values keeps them: its effect is the difference between the two. */
function twoValued(name: string, values: Float64Array): Column[] | null {
  if (!twoValues(values)) return null;
  return [
    {
      key: name,
      variable: name,
      label: name,
      contrast: null,
      values,
      sd: standardDeviation(values),
      components: null,
    },
  ];
}

/** Turned about the middle of the scale, where that is known. */
function withMeans(name: string, values: Float64Array, filled: Map<string, number>): Float64Array {
  const known = values.filter((v) => !Number.isNaN(v));
  if (known.length === values.length) return values;
  filled.set(name, values.length - known.length);
  const centre = mean(known);
  return values.map((v) => (Number.isNaN(v) ? centre : v));
}

function productsOf(
  { equations }: CompiledTheory,
  keysOf: (name: string) => string[],
  grouping: string | null,
): Product[] {
  return equations.flatMap(({ outcome, products }) =>
    products
      .filter((names) => !names.includes(grouping ?? ""))
      .flatMap((names) => {
        const [x, w] = names as [string, string];
        return keysOf(x).flatMap((a) =>
          keysOf(w).map((b): Product => ({ of: [a, b], to: outcome })),
        );
      }),
  );
}
