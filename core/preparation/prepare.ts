import {
  findColumn,
  inOrdinaryUnit,
  anySample,
  listwiseSample,
  pick,
  typedColumn,
  type Sample,
  type Table,
  type TypedColumn,
} from "../data";
import { asDeclared, momentSettings, optionsFor, withOffered } from "./as-used";
import { buildDataset, type Dataset } from "../dataset";
import { allQuantities, effectContext, type EffectContext, type Quantity } from "../effects";
import {
  engineFor,
  kernelOf,
  optionColumns,
  withOptions,
  type Engine,
  type Fit,
  type KernelData,
  type StructureLine,
} from "../estimators";
import { groupedScheme, type ResamplingPlan, type Scheme } from "../inference";
import { compileExpression } from "../model";
import { StudyProblem } from "../problems";
import {
  chosenCovariance,
  MAX_DRAWS,
  MAX_REPLICATIONS,
  type CovarianceKind,
  type Settings,
  type StudyDefinition,
  type IntervalKind,
} from "../study";
import {
  compileTheory,
  nearestName,
  type CompiledTheory,
  type Complaint,
  type Measure,
  type ResponseModelId,
} from "../theory";

/** What workers need to make replicates: plain data. */
export interface ResamplingProblem extends ResamplingPlan {
  kernel: KernelData;
}

/** A study taken as far as the estimates: everything that does not need resampling. */
export interface Prepared {
  /** With the variables of the dataset, and the settings that can be used with these data. */
  study: StudyDefinition;
  dataset: Dataset;
  theory: CompiledTheory;
  sample: Sample;
  typed: Map<string, TypedColumn>;
  /** Measures that are variables of the theory themselves. */
  measures: Measure[];
  engine: Engine;
  fit: Fit;
  /** The covariance that tests rest on. */
  errors: CovarianceKind;
  /** Intervals that are not offered here, each with the reason. */
  withheldIntervals: Partial<Record<IntervalKind, string>>;
  /** The interval that was asked for; where it is not offered, another stands in the settings. */
  stated: IntervalKind;
  theta: Float64Array;
  context: EffectContext;
  quantities: Quantity[];
  estimates: Float64Array;
  resampling: ResamplingProblem;
}

/**
 * study -> theory -> sample -> fit -> parameter vector -> quantities.
 * @param raw the data as they were imported
 * @param tolerant leave out sentences that cannot be read (while typing) instead of refusing the
 *   study
 * @param dataset the dataset of this study, where the caller has made it already
 * @throws StudyProblem for anything that stops the analysis
 */
export function prepare(
  stated: StudyDefinition,
  raw: Table,
  { tolerant = false, dataset = buildDataset(stated, raw) } = {},
): Prepared {
  checkSettings(stated.settings);
  const { complaints, statements, leftOut } = dataset.theory;
  if (complaints.length > 0 && !tolerant) refuse(complaints);
  const theory = compileTheory(statements, leftOut);
  const measures = latentMeasures(theory, dataset);
  const engine = engineFor(
    stated.settings.engine,
    measures.map((m) => m.form),
    responsesOf(theory, measures, dataset),
    structureLines(theory),
  );
  const own = optionsFor(engine, stated.settings);
  const declared = asDeclared(dataset.variables, theory);
  const described = new Map(declared.map((v) => [v.name, v]));
  const withheldIntervals = engine.withheldIntervals?.(measures) ?? {};
  const offered = withOffered(stated.settings, withheldIntervals);
  const chosen = { ...offered, options: withOptions(engine, own) };
  const wanted = engine.settings?.(chosen, theory, described) ?? chosen;
  const drawn = raw.moments ? momentSettings(wanted, engine) : wanted;
  const { resamples } = stated;
  const settings =
    resamples && drawn.replications > 0 ? { ...drawn, replications: resamples.length } : drawn;
  const study = { ...stated, variables: declared, settings };
  if (raw.moments) {
    refuseProducts(theory);
    refuseRowWork(stated);
  }
  const typed = typedColumns(
    study,
    dataset,
    theory,
    measures,
    optionColumns(engine, chosen.options),
  );
  const keeps = engine.keepsIncomplete?.(settings) ?? false;
  const sample = (keeps ? anySample : listwiseSample)([...typed.values()], dataset);
  const variables = new Map(study.variables.map((v) => [v.name, v]));
  const scheme = schemeOf(settings, typed, sample);
  const given = resamples ? givenRows(resamples, sample) : null;
  const givenPermutations = stated.permutations ? givenRows(stated.permutations, sample) : null;
  const data = {
    typed,
    variables,
    sample,
    clusters: scheme.kind === "clusters" ? scheme.members : null,
    measures,
    momentsOnly: raw.moments !== undefined,
    given,
    givenPermutations,
  };
  const suitability = engine.suits(theory, data);
  if (!suitability.suits) throw new StudyProblem("engine_unsuited", { reason: suitability.reason });
  const fit = engine.fit(theory, data, settings);
  const context = effectContext(theory, fit, typed, study);
  const quantities = allQuantities(context, fit.families);
  // Averages of moderators join the parameters as quantities ask for them, so the vector is made
  // last.
  const theta = fit.vector();
  const kernel = { engine: engine.id, data: fit.kernelData() };
  if (settings.interval === "bootstrap_t" && !kernelOf(kernel).covariance)
    throw new StudyProblem("bootstrap_t_unknown", { engine: engine.label });
  return {
    study,
    dataset,
    theory,
    sample,
    typed,
    measures,
    engine,
    fit,
    errors: chosenCovariance(settings),
    withheldIntervals,
    stated: stated.settings.interval,
    theta,
    context,
    quantities,
    estimates: Float64Array.from(quantities, (q) => compileExpression(q.expression)(theta, 0)),
    resampling: {
      kernel,
      scheme,
      seed: settings.seed,
      given,
      studentised: studentised(settings, [...quantities, ...fit.coefficients]),
    },
  };
}

/** Rows of the data as positions in the sample; rows that are not in it are passed over. */
function givenRows(resamples: readonly number[][], { rows }: Sample): Int32Array[] {
  const places = new Map(Array.from(rows, (row, at) => [row, at]));
  return resamples.map((list) => Int32Array.from(list.flatMap((row) => places.get(row) ?? [])));
}

function studentised(
  { interval, errors: kind, crossEquations }: Settings,
  quantities: Quantity[],
): ResamplingPlan["studentised"] {
  return interval === "bootstrap_t"
    ? { rule: { kind, crossEquations }, functions: quantities.map((q) => q.expression) }
    : null;
}

/** What a theory says beside its sentences and measures, which not every engine reads. */
const structureLines = ({ holds, frees, covariances, groups }: CompiledTheory): StructureLine[] => [
  ...(holds.length > 0 ? (["hold"] as const) : []),
  ...(frees.length > 0 ? (["free"] as const) : []),
  ...(covariances.length > 0 ? (["covary"] as const) : []),
  ...(groups ? (["groups"] as const) : []),
];

/** Every variable of the equations. */
const nodesIn = ({ equations }: CompiledTheory): string[] =>
  equations.flatMap((e) => [e.outcome, ...e.predictors, ...e.moderators, ...e.covariates]);

/**
 * The measures without scores that are variables of the theory: factors and composites, which
 * engines estimate from their items, with the factors that such factors are measured by. Without
 * any path all factors are a model of measurement.
 */
function latentMeasures(theory: CompiledTheory, dataset: Dataset): Measure[] {
  const latent = dataset.measures.filter((m) => m.form === "reflects" || m.form === "combines");
  const wanted = new Set(
    theory.paths.length > 0
      ? [
          ...nodesIn(theory),
          ...theory.covariances.flatMap((c) => c.pairs.flatMap((p) => [p.a.name, p.b.name])),
        ]
      : latent.map((m) => m.name.name),
  );
  for (let before = -1; before !== wanted.size;) {
    before = wanted.size;
    for (const m of latent)
      if (wanted.has(m.name.name)) for (const item of m.items) wanted.add(item.ref.name);
  }
  return latent.filter((m) => wanted.has(m.name.name));
}

/** How responses are modelled: as it is said, else by their level where they are columns. */
function responsesOf(
  theory: CompiledTheory,
  measures: readonly Measure[],
  { variables }: Dataset,
): ResponseModelId[] {
  const level = new Map(variables.map((v) => [v.name, v.level]));
  return theory.equations.flatMap(({ outcome }): ResponseModelId[] => {
    const said = theory.models.find((m) => m.of.name === outcome);
    if (said) return [said.family];
    return measures.length === 0 && level.get(outcome) === "binary" ? ["logistic"] : [];
  });
}

function typedColumns(
  study: StudyDefinition,
  dataset: Dataset,
  theory: CompiledTheory,
  measures: readonly Measure[],
  /** Columns that are only compared for equality. */
  further: readonly string[],
): Map<string, TypedColumn> {
  const { table } = dataset;
  const { strata, cluster } = study.settings;
  const factors = new Set(measures.map((m) => m.name.name));
  const used = new Set(
    [
      ...nodesIn(theory),
      ...measures.flatMap((m) => m.items.map((item) => item.ref.name)),
      ...(theory.groups ? [theory.groups.by.name] : []),
      ...theory.models.flatMap((m) => (m.exposure ? [m.exposure.name] : [])),
    ].filter((name) => !factors.has(name)),
  );
  const typed = new Map<string, TypedColumn>();
  for (const name of [...used, ...further, ...[strata, cluster].filter((c) => c !== null)]) {
    const column = findColumn(table, name);
    const variable = study.variables.find((v) => v.name === name);
    if (!column || !variable) {
      const problem = dataset.problems.find((p) => p.name === name);
      if (problem)
        throw new StudyProblem(
          "not_made",
          { name, reason: problem.message },
          {
            variables: [name],
          },
        );
      const near = nearestName(
        name,
        table.columns.map((c) => c.name),
      );
      throw new StudyProblem(
        "no_column",
        { name, near },
        {
          variables: [name],
        },
      );
    }
    // A grouping column is only compared for equality, so its level does not matter.
    const grouping = !used.has(name);
    if (variable.level === "identifier" && !grouping) {
      throw new StudyProblem("identifier", { name }, { variables: [name] });
    }
    typed.set(
      name,
      inOrdinaryUnit(
        typedColumn(column, grouping ? { ...variable, level: "categorical" } : variable),
      ),
    );
  }
  return typed;
}

/** Recipes that are linear in one column, whose moments follow from the matrix. */
const LINEAR_RECIPES = new Set(["reverse", "rescale", "centre", "standardise"]);

/**
 * Filters, corrections and most recipes look at single rows, which a covariance matrix does not
 * have.
 */
function refuseRowWork({ filters, corrections, derived }: StudyDefinition): void {
  const refuse = (what: string, variables: string[]): never => {
    throw new StudyProblem("rows_needed", { what }, { variables });
  };
  const filter = filters.find((f) => f.active);
  if (filter) refuse(`The filter “${filter.name}”`, []);
  if (corrections[0])
    refuse(`The correction of a cell of “${corrections[0].column}”`, [corrections[0].column]);
  const made = derived.find((d) => !LINEAR_RECIPES.has(d.recipe.kind));
  if (made) refuse(`The derived variable “${made.name}”`, [made.name]);
}

/** Products of variables have third moments, which a covariance matrix does not hold. */
function refuseProducts({ moderated, moderations }: CompiledTheory): void {
  const [first] = moderated;
  if (!first) return;
  const terms = [first.from, ...first.moderators];
  throw new StudyProblem(
    "product_needs_rows",
    { names: terms, sentences: moderations.map((m) => m.label) },
    { variables: terms, ...(moderations[0] ? { line: moderations[0].line } : {}) },
  );
}

function schemeOf(settings: Settings, typed: Map<string, TypedColumn>, sample: Sample): Scheme {
  const { strata, cluster } = settings;
  if (cluster !== null)
    return groupedScheme("clusters", pick(typed.get(cluster)!.values, sample.rows));
  if (strata !== null) return groupedScheme("strata", pick(typed.get(strata)!.values, sample.rows));
  return { kind: "rows" };
}

function refuse(complaints: Complaint[]): never {
  const { line, column, unknown } = complaints[0]!;
  const variables = complaints.flatMap((c) => (c.unknown === undefined ? [] : [c.unknown]));
  throw new StudyProblem(
    unknown === undefined ? "unreadable" : "unknown_names",
    { complaints },
    { line, column, variables },
  );
}

/** @throws StudyProblem `invalid_setting` naming the setting and what it may be */
export function checkSettings(settings: Settings): void {
  const { level, tail, replications, seed, strata, cluster, monteCarloDraws, interval, probes } =
    settings;
  if (!(level > 0 && level < 1)) throw new StudyProblem("level_outside", { level });
  if (tail === "one" && level <= 0.5) throw new StudyProblem("level_one_tailed", { level });
  if (!Number.isInteger(replications) || replications < 0 || replications > MAX_REPLICATIONS)
    throw new StudyProblem("replications", { replications, most: MAX_REPLICATIONS });
  if (!Number.isSafeInteger(seed) || seed < 0) throw new StudyProblem("seed", { seed });
  if (!Number.isInteger(monteCarloDraws) || monteCarloDraws < 1 || monteCarloDraws > MAX_DRAWS)
    throw new StudyProblem("monte_carlo_draws", { draws: monteCarloDraws, most: MAX_DRAWS });
  if (cluster !== null && interval === "bootstrap_t")
    throw new StudyProblem("bootstrap_t_of_clusters", {});
  for (const [name, list] of Object.entries(probes)) {
    for (const choice of list) {
      if (typeof choice !== "string" || !choice.endsWith("%")) continue;
      const share = Number.parseFloat(choice);
      if (!(share > 0 && share < 100)) throw new StudyProblem("probe_percentile", { name, choice });
    }
  }
  if (strata !== null && cluster !== null) throw new StudyProblem("strata_and_clusters", {});
}
