import type { Table, TextColumn, Variable } from "../data";
import { zQuantile } from "../numerics/distributions";
import { RandomStream, streamIndex } from "../numerics/random";
import { StudyProblem } from "../problems";
import { DEFAULT_SETTINGS, type StudyDefinition } from "../study";
import { compileTheory, parseTheory, type CompiledTheory, type Measure } from "../theory";
import { mentioned, nodesOfTheory } from "./arrows";
import { factorOf } from "./correlations";
import { itemScores, plannedItems, type PlannedItems } from "./items";
import { NORMAL, SKEWED } from "./marginal";
import { sizeOf, type StudyPlan } from "../study";
import { plannedColumn, type PlannedColumn } from "./variables";
import { whiten } from "./whiten";

/** People in the sample that scales everything: linear theories come out exact, products to about half a percent. */
const PILOT = 40_000;
/** How strongly answers are missing for what they are said to depend on: the correlation of the scores behind. */
const MISSING_BY = 0.6;
/** Below this a residual variance is no variance. */
const LEAST_RESIDUAL = 1e-9;

/** One outcome, as it is made. */
interface Maker {
  outcome: string;
  terms: { from: string[]; size: number }[];
  column: PlannedColumn | null;
  residual: number;
  /** Of the outcome once it is cut into steps, where its scores are not quite normal. */
  mean: number;
  sd: number;
}

/** The variables of a theory as a plan expects them: people can be drawn from it. */
export class Population {
  readonly theory: CompiledTheory;
  /** The study as it would be analysed, its data made up. */
  readonly study: StudyDefinition;
  /** In SDs: what of each outcome's variance the theory explains. */
  readonly explained = new Map<string, number>();
  private readonly exogenous: { name: string; column: PlannedColumn | null }[];
  private readonly makers: Maker[];
  private readonly items: PlannedItems[];
  private known: ((a: string, b: string) => number) | null = null;
  /** Lower triangles: normal scores of predictors and of residuals from independent ones. */
  private readonly ofPredictors: Float64Array;
  private readonly ofResiduals: Float64Array;

  /** @throws StudyProblem where no population is like this, with the reason */
  constructor(
    definition: StudyDefinition,
    private readonly plan: StudyPlan,
  ) {
    const variables = declared(definition);
    const { complaints, statements } = parseTheory(
      definition.theory,
      variables.map((v) => v.name),
    );
    if (complaints.length > 0) {
      const { line, column } = complaints[0]!;
      throw new StudyProblem("unreadable", { complaints }, { line, column });
    }
    this.theory = compileTheory(statements);
    this.study = madeUp(definition, variables);
    const measures = statements.filter((s) => s.kind === "measure");
    const byName = new Map(variables.map((v) => [v.name, v]));
    const scales = new Map(measures.flatMap((m) => m.items.map((i) => [i.ref.name, m.scale])));
    const columnOf = (name: string): PlannedColumn =>
      plannedColumn(byName.get(name)!, plan, scales.get(name) ?? null);
    this.items = measures.map((m) =>
      plannedItems(
        refuseHigher(m, measures),
        m.items.map((i) => columnOf(i.ref.name)),
        plan,
      ),
    );
    const constructs = new Set(measures.map((m) => m.name.name));
    const nodes = nodesOfTheory(this.theory);
    const items = new Set(measures.flatMap((m) => m.items.map((i) => i.ref.name)));
    const idle = [...new Set([...constructs, ...mentioned(this.theory, items)])].filter(
      (c) => !nodes.exogenous.includes(c) && !nodes.endogenous.includes(c),
    );
    const node = (name: string): { name: string; column: PlannedColumn | null } => ({
      name,
      column: constructs.has(name) ? null : columnOf(name),
    });
    this.exogenous = [...nodes.exogenous, ...idle].map(node);
    this.makers = this.theory.equations.map((equation) => ({
      outcome: equation.outcome,
      terms: [
        ...[...equation.predictors, ...equation.moderators, ...equation.covariates].map((n) => [n]),
        ...equation.products,
      ].flatMap((from) => {
        const size = sizeOf(plan, { from, to: equation.outcome });
        return size === null || size === 0 ? [] : [{ from, size }];
      }),
      column: node(equation.outcome).column,
      residual: 1,
      mean: 0,
      sd: 1,
    }));
    this.ofPredictors = factorOf(
      this.exogenous.map(({ name, column }) => ({ name, marginal: column?.marginal ?? NORMAL })),
      plan,
    );
    this.ofResiduals = factorOf(
      this.makers.map(({ outcome }) => ({ name: outcome, marginal: NORMAL })),
      plan,
    );
    this.calibrate();
  }

  /** Columns of standard normal numbers that one sample takes. */
  private get width(): number {
    const items = this.items.reduce((sum, { columns }) => sum + columns.length, 0);
    return this.exogenous.length + this.makers.length + items;
  }

  /** A random sample. @param seed with the sample's index it determines every cell */
  sample(rows: number, seed: number, index: number): Table {
    const stream = new RandomStream(seed, streamIndex("simulation", index));
    return this.table(this.draw(stream, rows), stream);
  }

  /** A sample whose scores have the moments of the population, complete: what an analysis finds in it is what it estimates. */
  ideal(rows: number): Table {
    const base = this.draw(new RandomStream(1, streamIndex("simulation", 0)), rows);
    whiten(base);
    return this.table(base, null);
  }

  /** Correlations of the variables of the theory; exact for linear theories of normal variables. */
  correlations(): (a: string, b: string) => number {
    this.known ??= correlationsOf(this.values(this.pilot(), false).standard);
    return this.known;
  }

  /** Is every variable normal, and every arrow a straight line? */
  get isNormal(): boolean {
    const plain = (c: PlannedColumn | null): boolean => c !== null && c.marginal === NORMAL;
    return (
      this.exogenous.every(({ column }) => plain(column)) &&
      this.makers.every((m) => plain(m.column) && !m.column!.skewed) &&
      this.theory.equations.every((e) => e.products.length === 0) &&
      this.plan.missing.share === 0
    );
  }

  /** Straight lines among observed variables and scores: an engine without iterations estimates it. */
  get isEstimatedAtOnce(): boolean {
    return (
      this.items.every(({ measure: { form } }) => form === "averages" || form === "sums") &&
      this.theory.models.length === 0 &&
      this.study.variables.every(
        (v) => v.level !== "binary" || !this.makers.some((m) => m.outcome === v.name),
      )
    );
  }

  private draw(stream: RandomStream, rows: number, width = this.width): Float64Array[] {
    return Array.from({ length: width }, () => {
      const column = new Float64Array(rows);
      for (let i = 0; i < rows; i++) column[i] = stream.normal();
      return column;
    });
  }

  /** Scores of the variables alone: their items scale nothing. */
  private pilot(): Float64Array[] {
    const width = this.exogenous.length + this.makers.length;
    const base = this.draw(new RandomStream(1, streamIndex("simulation", 1)), PILOT, width);
    whiten(base);
    return base;
  }

  /** Finds residual variances, and the mean and SD of outcomes in steps, from the first outcome to the last. */
  private calibrate(): void {
    this.values(this.pilot(), true);
  }

  private values(
    base: Float64Array[],
    calibrating: boolean,
  ): { standard: Map<string, Float64Array>; scores: Map<string, Float64Array> } {
    const rows = base[0]?.length ?? 0;
    const standard = new Map<string, Float64Array>();
    const scores = new Map<string, Float64Array>();
    const mixed = mixtures(base, 0, this.exogenous.length, this.ofPredictors);
    this.exogenous.forEach(({ name, column }, j) => {
      const value = column ? mixed[j]!.map(column.marginal.standard) : mixed[j]!;
      standard.set(name, value);
      scores.set(name, column?.marginal === SKEWED ? value : mixed[j]!);
    });
    const residuals = mixtures(base, this.exogenous.length, this.makers.length, this.ofResiduals);
    this.makers.forEach((maker, j) => {
      const explained = linear(maker.terms, standard, rows);
      if (calibrating) this.scale(maker, explained);
      const skewed = maker.column?.marginal === SKEWED;
      const noise = skewed ? residuals[j]!.map(SKEWED.standard) : residuals[j]!;
      const score = explained.map((v, i) => v + maker.residual * noise[i]!);
      scores.set(maker.outcome, score);
      const steps = maker.column !== null && maker.column.marginal !== NORMAL && !skewed;
      if (!steps) {
        standard.set(maker.outcome, score);
        return;
      }
      const cut = score.map(maker.column!.marginal.standard);
      if (calibrating) [maker.mean, maker.sd] = momentsOf(cut);
      standard.set(
        maker.outcome,
        cut.map((v) => (v - maker.mean) / maker.sd),
      );
    });
    return { standard, scores };
  }

  private scale(maker: Maker, explained: Float64Array): void {
    const [, sd] = momentsOf(explained);
    const share = sd * sd;
    this.explained.set(maker.outcome, share);
    if (!(1 - share > LEAST_RESIDUAL))
      throw new StudyProblem(
        "impossible_paths",
        { outcome: maker.outcome, share, from: maker.terms.map((t) => t.from.join(" × ")) },
        { variables: [maker.outcome] },
      );
    maker.residual = Math.sqrt(1 - share);
  }

  private table(base: Float64Array[], gaps: RandomStream | null): Table {
    const rows = base[0]?.length ?? 0;
    const { standard, scores } = this.values(base, false);
    const columns: TextColumn[] = [];
    const outcomes = new Set(this.makers.map((m) => m.outcome));
    const add = (column: PlannedColumn, score: Float64Array, outcome: boolean): void => {
      columns.push(cells(column, score, outcome ? this.gaps(standard, gaps, rows) : null));
    };
    for (const { name, column } of this.exogenous)
      if (column) add(column, scores.get(name)!, false);
    for (const { outcome, column } of this.makers)
      if (column) add(column, scores.get(outcome)!, true);
    let at = this.exogenous.length + this.makers.length;
    for (const items of this.items) {
      const { name } = items.measure.name;
      const errors = base.slice(at, at + items.columns.length);
      at += items.columns.length;
      itemScores(items, standard.get(name)!, errors).forEach((score, j) =>
        add(items.columns[j]!, score, outcomes.has(name)),
      );
    }
    return { rows, columns };
  }

  /** Which cells of an outcome are empty: at random, or more of them where another variable is high. */
  private gaps(
    standard: ReadonlyMap<string, Float64Array>,
    stream: RandomStream | null,
    rows: number,
  ): Uint8Array | null {
    const { share, on } = this.plan.missing;
    if (!stream || share <= 0) return null;
    const beyond = zQuantile(1 - share);
    const by = on === null ? undefined : standard.get(on);
    const own = Math.sqrt(1 - MISSING_BY * MISSING_BY);
    return Uint8Array.from({ length: rows }, (_, i) => {
      const z = stream.normal();
      return (by ? MISSING_BY * by[i]! + own * z : z) > beyond ? 1 : 0;
    });
  }
}

/** Variables that are there to be made: declared ones, and those that recipes would make. */
const declared = ({ variables, derived }: StudyDefinition): Variable[] => [
  ...variables.map(({ column, missing, decimal, ...rest }): Variable => {
    void [column, missing, decimal];
    return rest;
  }),
  ...derived
    .filter((d) => !variables.some((v) => v.name === d.name))
    .map(({ name }): Variable => ({ name, level: "continuous" })),
];

/** The study without what only its own data have. */
function madeUp(definition: StudyDefinition, variables: Variable[]): StudyDefinition {
  const { strata, cluster } = definition.settings;
  if (strata !== null || cluster !== null)
    throw new StudyProblem("plan_of_clusters", { column: (cluster ?? strata)! });
  const { title, question, unit, theory, settings } = definition;
  return {
    title,
    question,
    unit,
    theory,
    variables,
    derived: [],
    corrections: [],
    filters: [],
    screening: [],
    log: [],
    settings: { ...DEFAULT_SETTINGS, ...settings },
  };
}

function refuseHigher(measure: Measure, all: readonly Measure[]): Measure {
  const names = new Set(all.map((m) => m.name.name));
  if (measure.items.some((i) => names.has(i.ref.name)))
    throw new StudyProblem("plan_of_factors", { name: measure.name.name });
  return measure;
}

/** Correlated columns from independent ones. @param factor lower triangle, row by row */
function mixtures(
  base: Float64Array[],
  from: number,
  count: number,
  factor: Float64Array,
): Float64Array[] {
  return Array.from({ length: count }, (_, a) => {
    const out = new Float64Array(base[from]?.length ?? 0);
    for (let b = 0; b <= a; b++) {
      const weight = factor[a * count + b]!;
      if (weight === 0) continue;
      const column = base[from + b]!;
      for (let i = 0; i < out.length; i++) out[i] = out[i]! + weight * column[i]!;
    }
    return out;
  });
}

function linear(
  terms: Maker["terms"],
  standard: ReadonlyMap<string, Float64Array>,
  rows: number,
): Float64Array {
  const out = new Float64Array(rows);
  for (const { from, size } of terms) {
    const [first, ...others] = from.map((name) => standard.get(name)!);
    for (let i = 0; i < rows; i++) {
      let value = size * first![i]!;
      for (const other of others) value *= other[i]!;
      out[i] = out[i]! + value;
    }
  }
  return out;
}

/** Mean products of z-scores, each made once. */
function correlationsOf(
  standard: ReadonlyMap<string, Float64Array>,
): (a: string, b: string) => number {
  const names = [...standard.keys()];
  const columns = [...standard.values()];
  const table = columns.map((x) =>
    columns.map((y) => x.reduce((sum, v, i) => sum + v * y[i]!, 0) / x.length),
  );
  return (a, b) => table[names.indexOf(a)]![names.indexOf(b)]!;
}

/** Mean and SD, divisor the number of values. */
function momentsOf(values: Float64Array): [mean: number, sd: number] {
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
  const squares = values.reduce((sum, v) => sum + (v - mean) ** 2, 0);
  return [mean, Math.sqrt(squares / values.length)];
}

/** A column of cells; what is missing is empty. */
function cells(
  { name, marginal, texts }: PlannedColumn,
  score: Float64Array,
  gaps: Uint8Array | null,
): TextColumn {
  const codes = new Int32Array(score.length);
  if (texts) {
    for (let i = 0; i < codes.length; i++)
      codes[i] = gaps?.[i] ? texts.length : marginal.code(score[i]!);
    return { name, dictionary: [...texts, ""], codes };
  }
  const steps = marginal !== NORMAL && marginal !== SKEWED;
  const dictionary = Array.from(score, (z, i) => {
    if (gaps?.[i]) return "";
    return String(steps ? marginal.code(z) : z);
  });
  return { name, dictionary, codes: codes.map((_, i) => i) };
}
