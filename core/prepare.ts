import { findColumn, listwiseSample, pick, typedColumn, type Sample, type Table, type TypedColumn } from "./data";
import { allQuantities, compileExpression, effectContext, type EffectContext, type Quantity } from "./effects";
import {
  buildDesign,
  covariances,
  fitEquation,
  parameterLayout,
  parameterVector,
  refitProblem,
  type CovarianceSet,
  type Design,
  type EquationFit,
  type ParameterLayout,
} from "./estimators/least-squares";
import { groupedScheme, type ResamplingProblem } from "./inference";
import { StudyProblem } from "./problems";
import { MAX_REPLICATIONS, type Settings, type StudyDefinition } from "./study";
import { compileTheory, nearestName, parseTheory, type CompiledTheory, type Complaint } from "./theory";

/** A study taken as far as the estimates: everything that does not need resampling. */
export interface Prepared {
  study: StudyDefinition;
  theory: CompiledTheory;
  sample: Sample;
  typed: Map<string, TypedColumn>;
  design: Design;
  layout: ParameterLayout;
  fits: EquationFit[];
  covariances: CovarianceSet;
  theta: Float64Array;
  context: EffectContext;
  quantities: Quantity[];
  estimates: Float64Array;
  resampling: ResamplingProblem;
}

/**
 * study -> theory -> sample -> fits -> parameter vector -> quantities.
 * @param tolerant leave out sentences that cannot be read (while typing) instead of refusing the study
 * @throws StudyProblem for anything that stops the analysis
 */
export function prepare(study: StudyDefinition, table: Table, { tolerant = false } = {}): Prepared {
  checkSettings(study.settings);
  const names = table.columns.map((c) => c.name);
  const { statements, complaints } = parseTheory(study.theory, names);
  if (complaints.length > 0 && !tolerant) refuse(complaints);
  const theory = compileTheory(statements);
  const typed = typedColumns(study, table, theory);
  const sample = listwiseSample([...typed.values()], table.rows);
  const variables = new Map(study.variables.map((v) => [v.name, v]));
  const design = buildDesign(theory.equations, typed, variables, sample);
  const fits = design.equations.map(fitEquation);
  const layout = parameterLayout(design);
  const theta = parameterVector(layout, design, fits);
  const context = effectContext(theory, design, layout);
  const quantities = allQuantities(context);
  return {
    study,
    theory,
    sample,
    typed,
    design,
    layout,
    fits,
    covariances: covariances(fits),
    theta,
    context,
    quantities,
    estimates: Float64Array.from(quantities, (q) => compileExpression(q.expression)(theta, 0)),
    resampling: { refit: refitProblem(design, layout), scheme: schemeOf(study.settings, typed, sample), seed: study.settings.seed },
  };
}

function typedColumns(study: StudyDefinition, table: Table, theory: CompiledTheory): Map<string, TypedColumn> {
  const { strata, cluster } = study.settings;
  const used = new Set(theory.equations.flatMap((e) => [e.outcome, ...e.predictors, ...e.covariates]));
  const typed = new Map<string, TypedColumn>();
  for (const name of [...used, ...[strata, cluster].filter((c) => c !== null)]) {
    const column = findColumn(table, name);
    const variable = study.variables.find((v) => v.name === name);
    if (!column || !variable) {
      const near = nearestName(
        name,
        table.columns.map((c) => c.name),
      );
      throw new StudyProblem("unknown_variable", `The data have no column “${name}”.${near ? ` Did you mean “${near}”?` : ""}`, {
        variables: [name],
      });
    }
    // A grouping column is only compared for equality, so its level does not matter.
    const grouping = !used.has(name);
    if (variable.level === "identifier" && !grouping) {
      throw new StudyProblem(
        "wrong_level",
        `“${name}” is an identifier, so it cannot take part in an equation. Change its level on the Data screen, or choose another variable.`,
        { variables: [name] },
      );
    }
    typed.set(name, typedColumn(column, grouping ? { ...variable, level: "categorical" } : variable));
  }
  return typed;
}

function schemeOf(settings: Settings, typed: Map<string, TypedColumn>, sample: Sample): ResamplingProblem["scheme"] {
  const { strata, cluster } = settings;
  if (cluster !== null) return groupedScheme("clusters", pick(typed.get(cluster)!.values, sample.rows));
  if (strata !== null) return groupedScheme("strata", pick(typed.get(strata)!.values, sample.rows));
  return { kind: "rows" };
}

function refuse(complaints: Complaint[]): never {
  const lines = complaints.map((c) => `Line ${c.line}, column ${c.column}: ${c.message}`);
  const first = complaints[0]!;
  const code = first.unknown === undefined ? "notation" : "unknown_variable";
  const variables = complaints.flatMap((c) => (c.unknown === undefined ? [] : [c.unknown]));
  throw new StudyProblem(code, lines.join("\n"), { line: first.line, column: first.column, variables });
}

/** @throws StudyProblem `invalid_setting` naming the setting and what it may be */
export function checkSettings(settings: Settings): void {
  const fail = (message: string): never => {
    throw new StudyProblem("invalid_setting", message);
  };
  const { level, tail, replications, seed, strata, cluster, monteCarloDraws } = settings;
  if (!(level > 0 && level < 1)) fail(`The confidence level is ${level}; it must lie between 0 and 1, as in 0.95.`);
  if (tail === "one" && level <= 0.5) fail(`A one-tailed test needs a confidence level above 0.5, not ${level}.`);
  if (!Number.isInteger(replications) || replications < 0 || replications > MAX_REPLICATIONS) {
    fail(`The number of resamples is ${replications}; it must be a whole number from 0 to ${MAX_REPLICATIONS}.`);
  }
  if (!Number.isSafeInteger(seed) || seed < 0) fail(`The seed is ${seed}; it must be a whole number from 0 to 9007199254740991.`);
  if (!Number.isInteger(monteCarloDraws) || monteCarloDraws < 1)
    fail(`Monte Carlo draws: ${monteCarloDraws}; it must be a whole number above 0.`);
  if (strata !== null && cluster !== null) fail("Resampling within strata and by cluster at once is not available; choose one.");
}
