import {
  findColumn,
  listwiseSample,
  pick,
  typedColumn,
  type Sample,
  type Table,
  type TypedColumn,
} from "./data";
import { buildDataset, type Dataset } from "./dataset";
import { allQuantities, effectContext, type EffectContext, type Quantity } from "./effects";
import {
  engineOf,
  kernelOf,
  withOptions,
  type Engine,
  type Fit,
  type KernelData,
} from "./estimators";
import { groupedScheme, type ResamplingPlan, type Scheme } from "./inference";
import { compileExpression } from "./model";
import { StudyProblem } from "./problems";
import {
  chosenCovariance,
  MAX_REPLICATIONS,
  type CovarianceKind,
  type Settings,
  type StudyDefinition,
} from "./study";
import {
  compileTheory,
  nearestName,
  type CompiledTheory,
  type Complaint,
  type Measure,
} from "./theory";

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
  engine: Engine;
  fit: Fit;
  /** The covariance that tests rest on. */
  errors: CovarianceKind;
  theta: Float64Array;
  context: EffectContext;
  quantities: Quantity[];
  estimates: Float64Array;
  resampling: ResamplingProblem;
}

/**
 * study -> theory -> sample -> fit -> parameter vector -> quantities.
 * @param raw the data as they were imported
 * @param tolerant leave out sentences that cannot be read (while typing) instead of refusing the study
 * @param dataset the dataset of this study, where the caller has made it already
 * @throws StudyProblem for anything that stops the analysis
 */
export function prepare(
  stated: StudyDefinition,
  raw: Table,
  { tolerant = false, dataset = buildDataset(stated, raw) } = {},
): Prepared {
  checkSettings(stated.settings);
  const engine = engineOf(stated.settings.engine);
  const { complaints, statements } = dataset.theory;
  if (complaints.length > 0 && !tolerant) refuse(complaints);
  const wanted = { ...stated.settings, options: withOptions(engine, stated.settings.options) };
  const settings = raw.moments ? momentSettings(wanted) : wanted;
  const study = { ...stated, variables: dataset.variables, settings };
  const theory = compileTheory(statements);
  if (raw.moments) {
    refuseProducts(theory);
    refuseRowWork(stated);
  }
  const typed = typedColumns(study, dataset, theory);
  const sample = listwiseSample([...typed.values()], dataset);
  const variables = new Map(study.variables.map((v) => [v.name, v]));
  const scheme = schemeOf(settings, typed, sample);
  const clusters = scheme.kind === "clusters" ? scheme.members : null;
  const data = { typed, variables, sample, clusters, momentsOnly: raw.moments !== undefined };
  const suitability = engine.suits(theory, data);
  if (!suitability.suits) throw new StudyProblem("not_available", suitability.reason);
  const fit = engine.fit(theory, data, settings);
  const context = effectContext(theory, fit, typed, study);
  const quantities = allQuantities(context, fit.families);
  // Averages of moderators join the parameters as quantities ask for them, so the vector is made last.
  const theta = fit.vector();
  const kernel = { engine: engine.id, data: fit.kernelData() };
  if (settings.interval === "bootstrap_t" && !kernelOf(kernel).covariance)
    throw new StudyProblem(
      "invalid_setting",
      `Bootstrap-t intervals need standard errors in every resample, which ${engine.label} does not know. Choose BCa, percentile or another interval.`,
    );
  return {
    study,
    dataset,
    theory,
    sample,
    typed,
    engine,
    fit,
    errors: chosenCovariance(settings),
    theta,
    context,
    quantities,
    estimates: Float64Array.from(quantities, (q) => compileExpression(q.expression)(theta, 0)),
    resampling: {
      kernel,
      scheme,
      seed: settings.seed,
      studentised: studentised(settings, [...quantities, ...fit.coefficients]),
    },
  };
}

function studentised(
  { interval, errors: kind, crossEquations }: Settings,
  quantities: Quantity[],
): ResamplingPlan["studentised"] {
  return interval === "bootstrap_t"
    ? { rule: { kind, crossEquations }, functions: quantities.map((q) => q.expression) }
    : null;
}

function typedColumns(
  study: StudyDefinition,
  dataset: Dataset,
  theory: CompiledTheory,
): Map<string, TypedColumn> {
  const { table } = dataset;
  const { strata, cluster } = study.settings;
  const used = new Set(
    theory.equations.flatMap((e) => [e.outcome, ...e.predictors, ...e.moderators, ...e.covariates]),
  );
  const typed = new Map<string, TypedColumn>();
  for (const name of [...used, ...[strata, cluster].filter((c) => c !== null)]) {
    const column = findColumn(table, name);
    const variable = study.variables.find((v) => v.name === name);
    if (!column || !variable) {
      const measure = dataset.measures.find(
        (m) => m.name.name === name && (m.form === "reflects" || m.form === "combines"),
      );
      if (measure) throw notYetEstimated(measure);
      const problem = dataset.problems.find((p) => p.name === name);
      if (problem)
        throw new StudyProblem("not_available", `“${name}” could not be made. ${problem.message}`, {
          variables: [name],
        });
      const near = nearestName(
        name,
        table.columns.map((c) => c.name),
      );
      throw new StudyProblem(
        "unknown_variable",
        `The data have no column “${name}”.${near ? ` Did you mean “${near}”?` : ""}`,
        {
          variables: [name],
        },
      );
    }
    // A grouping column is only compared for equality, so its level does not matter.
    const grouping = !used.has(name);
    if (variable.level === "identifier" && !grouping) {
      throw new StudyProblem(
        "wrong_level",
        `“${name}” is an identifier, so it cannot take part in an equation. Change its level, or choose another variable.`,
        { variables: [name] },
      );
    }
    typed.set(
      name,
      typedColumn(column, grouping ? { ...variable, level: "categorical" } : variable),
    );
  }
  return typed;
}

/** Recipes that are linear in one column, whose moments follow from the matrix. */
const LINEAR_RECIPES = new Set(["reverse", "rescale", "centre", "standardise"]);

/** Filters, corrections and most recipes look at single rows, which a covariance matrix does not have. */
function refuseRowWork({ filters, corrections, derived }: StudyDefinition): void {
  const refuse = (what: string, variables: string[]): never => {
    throw new StudyProblem(
      "needs_rows",
      `${what} needs the rows of the data, but only means and covariances are known here. Bring the rows, or take it out.`,
      { variables },
    );
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
    "needs_rows",
    `The product of ${terms.map((t) => `“${t}”`).join(" and ")} cannot be estimated from means and covariances alone: it needs the rows of the data. Bring the rows, or take ${moderations.map((m) => m.label).join(", ")} out.`,
    { variables: terms, ...(moderations[0] ? { line: moderations[0].line } : {}) },
  );
}

/** Factors and composites are stored and checked as batteries; estimating them is not part of this engine. */
export const notYetEstimated = ({ name, form, line }: Measure): StudyProblem =>
  new StudyProblem(
    "not_available",
    `“${name.name}” is a ${form === "reflects" ? "common factor" : "composite"}, which is not estimated yet. Let it average its items to use it in a hypothesis now.`,
    { variables: [name.name], line },
  );

/** Without rows nothing can be resampled, and errors that need residuals of rows do not exist. */
function momentSettings(settings: Settings): Settings {
  const interval = settings.interval === "monte_carlo" ? "monte_carlo" : "delta";
  return {
    ...settings,
    replications: 0,
    errors: "classical",
    interval,
    strata: null,
    cluster: null,
  };
}

function schemeOf(settings: Settings, typed: Map<string, TypedColumn>, sample: Sample): Scheme {
  const { strata, cluster } = settings;
  if (cluster !== null)
    return groupedScheme("clusters", pick(typed.get(cluster)!.values, sample.rows));
  if (strata !== null) return groupedScheme("strata", pick(typed.get(strata)!.values, sample.rows));
  return { kind: "rows" };
}

function refuse(complaints: Complaint[]): never {
  const lines = complaints.map((c) => `Line ${c.line}, column ${c.column}: ${c.message}`);
  const first = complaints[0]!;
  const code = first.unknown === undefined ? "notation" : "unknown_variable";
  const variables = complaints.flatMap((c) => (c.unknown === undefined ? [] : [c.unknown]));
  throw new StudyProblem(code, lines.join("\n"), {
    line: first.line,
    column: first.column,
    variables,
  });
}

/** @throws StudyProblem `invalid_setting` naming the setting and what it may be */
export function checkSettings(settings: Settings): void {
  const fail = (message: string): never => {
    throw new StudyProblem("invalid_setting", message);
  };
  const { level, tail, replications, seed, strata, cluster, monteCarloDraws, interval, probes } =
    settings;
  if (!(level > 0 && level < 1))
    fail(`The confidence level is ${level}; it must lie between 0 and 1, as in 0.95.`);
  if (tail === "one" && level <= 0.5)
    fail(`A one-tailed test needs a confidence level above 0.5, not ${level}.`);
  if (!Number.isInteger(replications) || replications < 0 || replications > MAX_REPLICATIONS) {
    fail(
      `The number of resamples is ${replications}; it must be a whole number from 0 to ${MAX_REPLICATIONS}.`,
    );
  }
  if (!Number.isSafeInteger(seed) || seed < 0)
    fail(`The seed is ${seed}; it must be a whole number from 0 to 9007199254740991.`);
  if (!Number.isInteger(monteCarloDraws) || monteCarloDraws < 1)
    fail(`Monte Carlo draws: ${monteCarloDraws}; it must be a whole number above 0.`);
  if (cluster !== null && interval === "bootstrap_t")
    fail(
      "Bootstrap-t intervals need standard errors in every resample, which do not exist for clusters here. Choose BCa, percentile or another interval.",
    );
  for (const [name, list] of Object.entries(probes)) {
    for (const choice of list) {
      if (typeof choice !== "string" || !choice.endsWith("%")) continue;
      const share = Number.parseFloat(choice);
      if (!(share > 0 && share < 100))
        fail(
          `A probe of “${name}” is the percentile “${choice}”; it must lie between 0 and 100 %, as in “20 %”.`,
        );
    }
  }
  if (strata !== null && cluster !== null)
    fail("Resampling within strata and by cluster at once is not available; choose one.");
}
