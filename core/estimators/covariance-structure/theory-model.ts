import { pick } from "../../data";
import { mean, standardDeviation } from "../../numerics/moments";
import type { CompiledTheory, GroupPart } from "../../theory";
import type { ModelData } from "../engine";
import { buildModel, type BuiltModel } from "./build-model";
import { nodesOf, type ModelContext } from "./model-parts";
import type { FittedModel } from "./fit-model";
import type { StructureOptions } from "./options";
import type { CasePattern } from "./sample-moments";
import type { StructureSample } from "./specification";
import { groupingOf, type Grouping } from "../grouping";
import { orderedVariables } from "./ordered/which";
import { CodeColumns, structureSample } from "./theory-data";

/** A theory made into a model with its data, and how names of the one are found in the other. */
export class TheoryModel {
  /**
   * Variables of the theory whose implied SDs are reported: nodes and code columns, in their order.
   */
  readonly scaled: string[];

  constructor(
    readonly theory: CompiledTheory,
    readonly options: StructureOptions,
    readonly built: BuiltModel,
    readonly sample: StructureSample,
    readonly codes: CodeColumns,
    readonly grouping: Grouping,
    readonly context: ModelContext,
  ) {
    this.scaled = nodesOf(theory).flatMap((name) => codes.of(name)?.map((c) => c.key) ?? [name]);
  }

  isLatent(name: string): boolean {
    return this.built.spec.latent.includes(name);
  }

  /** Where a variable stands among those of the model. */
  place(name: string): number {
    const { observed, latent } = this.built.spec;
    return [...observed, ...latent].indexOf(this.nodeOf(name));
  }

  /**
   * What a column is called in the model: a product of two observed variables is the column of the
   * product.
   */
  nodeOf(key: string): string {
    const product = this.built.products.find((p) => p.key === key);
    return product && !this.isLatent(key) ? product.items[0]!.name : key;
  }

  /** The variable of the theory that a column belongs to. */
  variableOf(key: string): string {
    return (
      nodesOf(this.theory).find((name) => this.codes.of(name)?.some((c) => c.key === key)) ?? key
    );
  }

  /** Rows of the sample that belong to a group. */
  rowsOf(group: number): Int32Array {
    const rows: number[] = [];
    this.grouping.of.forEach((g, row) => {
      if (g === group) rows.push(row);
    });
    return Int32Array.from(rows);
  }

  /** Centred data of a fit, row by row in the order of the sample. */
  rowMajor({ spec, sample }: FittedModel): Float64Array {
    const p = spec.observed.length;
    const values = new Float64Array(this.grouping.of.length * p).fill(NaN);
    this.sample.groups.forEach((columns, g) => {
      const rows = this.rowsOf(g);
      columns.forEach((column, i) => {
        const centre = sample.centres[g]![i]!;
        rows.forEach((row, k) => (values[row * p + i] = column[k]! - centre));
      });
    });
    return values;
  }

  /** The patterns of every group, with rows in the order of the sample. */
  patternsOfRows({ sample }: FittedModel): CasePattern[][] {
    return sample.groups.map((group, g) => {
      const rows = this.rowsOf(g);
      // Cases without any value were left out before patterns were made.
      const kept = rows.filter((_, k) =>
        this.sample.groups[g]!.some((column) => !Number.isNaN(column[k]!)),
      );
      return group.patterns.map(({ indices, rows: own }) => ({
        indices,
        rows: own.map((k) => kept[k]!),
      }));
    });
  }
}

/**
 * The model of a theory on the rows of a sample.
 * @throws StudyProblem where groups or constraints do not fit together
 */
export function theoryModel(
  stated: CompiledTheory,
  data: ModelData,
  options: StructureOptions,
): TheoryModel {
  const theory = withGroups(stated, data);
  const grouping = groupingOf(theory, data);
  const codes = new CodeColumns(data.typed, data.variables, data.sample);
  const context: ModelContext = {
    options: {
      ...options,
      means:
        ((options.means || holdsIntercepts(theory)) && !meansUnknown(data)) ||
        (options.missing === "everybody" && hasGaps(data)),
    },
    factors: data.measures,
    columnsOf: (name) => codes.of(name)?.map((c) => c.key) ?? [name],
    groups: grouping.names,
    equal: new Set<GroupPart>(theory.groups?.equal ?? []),
    freed: theory.groups?.free ?? [],
    differs: (from, to) =>
      theory.moderated.some(
        (s) => s.from === from && s.to === to && s.moderators.includes(grouping.variable ?? ""),
      ),
    variance: (column, g) => varianceOf(column, g, data, grouping),
  };
  const made = buildModel(theory, context);
  const ordered = orderedVariables(theory, made, data, options.answers);
  const built =
    ordered.length === 0 ? made : { ...made, spec: { ...made.spec, ordered, means: true } };
  const sample = structureSample(built, data, codes, grouping);
  return new TheoryModel(theory, options, built, sample, codes, grouping, context);
}

/** What the model of a theory depends on, to build another of the same data. */
export const modelContext = ({ context }: TheoryModel): ModelContext => context;

/** What is said of intercepts can only hold where means are part of the model. */
const holdsIntercepts = ({ holds, frees }: CompiledTheory): boolean =>
  [...holds, ...frees].some(({ arrows }) =>
    arrows.some((ref) => "of" in ref && ref.kind === "intercept"),
  );

/** A matrix without means leaves them all at zero. */
const meansUnknown = ({ typed, sample, momentsOnly }: ModelData): boolean =>
  momentsOnly &&
  [...typed.values()].every(({ values }) => {
    const own = pick(values, sample.rows);
    return Math.abs(mean(own)) < ROUNDING * standardDeviation(own);
  });

/** SDs that are all one: correlations came without them. */
export const unitVariances = ({ typed, sample, momentsOnly }: ModelData): boolean =>
  momentsOnly &&
  [...typed.values()].every(
    ({ values }) => Math.abs(standardDeviation(pick(values, sample.rows)) - 1) < ROUNDING,
  );

const ROUNDING = 1e-9;

const hasGaps = ({ typed, sample }: ModelData): boolean =>
  [...typed.values()].some(({ values }) => sample.rows.some((row) => Number.isNaN(values[row]!)));

/**
 * Groups by the moderator where a path among latent variables is said to differ between the levels
 * of a column.
 */
export function withGroups(theory: CompiledTheory, { variables }: ModelData): CompiledTheory {
  if (theory.groups) return theory;
  const names = groupingModerators(theory, variables);
  if (names.length === 0) return theory;
  const [name] = names;
  const place = { name: name!, line: 0, column: 0, length: 0 };
  return {
    ...theory,
    groups: { kind: "groups", line: 0, by: place, equal: ["loadings", "paths"], free: [] },
  };
}

/** Moderators that are categorical or binary: their paths are estimated by groups. */
export const groupingModerators = (
  { moderated }: CompiledTheory,
  variables: ModelData["variables"],
): string[] => [
  ...new Set(
    moderated
      .flatMap((s) => s.moderators)
      .filter((name) => ["categorical", "binary"].includes(variables.get(name)?.level ?? "")),
  ),
];

function varianceOf(column: string, g: number, data: ModelData, grouping: Grouping): number {
  const typed = data.typed.get(column);
  if (!typed) return NaN;
  const values = pick(typed.values, data.sample.rows).filter(
    (value, row) => grouping.of[row] === g && !Number.isNaN(value),
  );
  let sum = 0;
  for (const value of values) sum += value;
  const centre = sum / values.length;
  let squares = 0;
  for (const value of values) squares += (value - centre) ** 2;
  return squares / values.length;
}
