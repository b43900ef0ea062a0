import { StudyProblem } from "../../problems";
import { MODEL_ERRORS, type ErrorKind, type Settings } from "../../study";
import type { CompiledTheory, MeasureForm } from "../../theory";
import type { Engine, ModelData, Suitability } from "../engine";
import { StructureKernel, type StructureProblem } from "./kernel";
import { OrderedKernel } from "./ordered/ordered-kernel";
import type { OrderedProblem } from "./ordered/problem";
import { OPTIONS, optionsOf } from "./options";
import { StructureFit } from "./structure-fit";
import { groupingModerators } from "./theory-model";
import { answersOf, saysOrdered } from "./ordered/choice";
import { UNSUITED } from "./wording";

/**
 * Models of means and covariances: paths among latent variables, measured by their items, and
 * observed ones, by normal-theory maximum likelihood, with complete or incomplete cases, or by
 * weighted moments; in one group or several.
 */
export const covarianceStructure: Engine<StructureProblem | OrderedProblem> = {
  id: "covariance_structure",
  label: "maximum likelihood",
  options: OPTIONS,
  forms: ["reflects"],
  responses: ["linear", "ordered"],
  lines: ["hold", "free", "covary", "groups"],
  errors: MODEL_ERRORS,
  settings: settingsFor,
  variants,
  errorsOfMoments,
  keepsIncomplete: (settings) => optionsOf(settings).missing === "everybody",
  suits: (theory, data) => suitability(theory, data),
  fit(theory, data, settings) {
    if (data.momentsOnly && optionsOf(settings).bollenStine > 0)
      throw new StudyProblem("needs_raw_data", { what: "The Bollen-Stine test" });
    return new StructureFit(theory, data, settings);
  },
  kernel: (problem) =>
    "ordered" in problem ? new OrderedKernel(problem) : new StructureKernel(problem),
};

function errorsOfMoments(errors: ErrorKind): ErrorKind {
  if (errors.startsWith("robust"))
    throw new StudyProblem("needs_raw_data", { what: "A robust standard error" });
  return errors;
}

/** What a reader may ask: would another estimator, or everybody's answers, say the same? */
function variants(
  settings: Settings,
  dropped: number,
  forms: readonly MeasureForm[],
  theory: CompiledTheory,
): { name: string; options: Settings["options"]; slow?: boolean }[] {
  const { estimator, missing, answers } = optionsOf(settings);
  if (saysOrdered(theory, answers))
    return [{ name: WAYS.numbers, options: { answers: "numbers", estimator: "ml" } }];
  const list: ReturnType<typeof variants> = [];
  if (estimator !== "ml") list.push({ name: WAYS.ml, options: { estimator: "ml" } });
  if (missing === "complete" && dropped > 0)
    list.push({ name: WAYS.everybody, options: { estimator: "ml", missing: "everybody" } });
  if (missing === "everybody") list.push({ name: WAYS.complete, options: { missing: "complete" } });
  else
    for (const each of ["gls", "dwls"] as const)
      if (each !== estimator) list.push({ name: WAYS[each], options: { estimator: each } });
  if (forms.includes("reflects") && theory.moderated.length === 0 && !theory.groups)
    list.push({ name: WAYS.ordered, options: { answers: "ordered" }, slow: true });
  return list;
}

const WAYS = {
  ordered: "answers as ordered, of items with 2 to 7 levels (normal tendencies behind them)",
  numbers: "answers as numbers, by maximum likelihood (equal steps, normal items)",
  ml: "maximum likelihood (assumes normal items)",
  gls: "generalised least squares (assumes normal items, weighs by the sample's covariances)",
  dwls: "diagonally weighted least squares (no normality; fourth moments need a fair sample)",
  everybody: "everybody kept (full information; missing depends only on what was answered)",
  complete: "complete cases only (missing has nothing to do with the answers)",
};

function settingsFor(
  settings: Settings,
  theory: CompiledTheory,
  variables: ModelData["variables"],
): Settings {
  // Groups keep their sizes in every resample.
  const groups = theory.groups?.by.name ?? groupingModerators(theory, variables)[0] ?? null;
  const { interactions } = optionsOf(settings);
  const full = interactions === "full_information" && theory.moderated.length > 0;
  const next: Settings = {
    ...settings,
    errors: saysOrdered(theory, answersOf(settings)) ? "robust" : errorsFor(settings, full),
    crossEquations: "joint",
    centring: "none",
    strata: settings.strata ?? (settings.cluster === null ? groups : null),
  };
  if (!full) return next;
  // A fit takes seconds, so resampling it would take hours; errors come from the information.
  const interval = settings.interval === "monte_carlo" ? "monte_carlo" : "delta";
  return { ...next, replications: 0, interval };
}

/**
 * What was chosen, where this estimator has it; robust where some robust errors were chosen; else
 * what the estimator rests on.
 */
function errorsFor(settings: Settings, full: boolean): ErrorKind {
  const { estimator, missing } = optionsOf(settings);
  const robust = settings.errors.startsWith("HC") || settings.errors === "robust";
  if (full) return robust ? "robust" : "observed";
  const known: Record<typeof estimator, ErrorKind[]> = {
    ml:
      missing === "everybody"
        ? ["observed", "expected", "robust"]
        : ["expected", "observed", "robust", "robust_expected"],
    gls: ["naive", "robust"],
    adf: ["naive", "robust"],
    uls: ["robust", "normal_theory"],
    dwls: ["robust"],
  };
  const list = known[estimator];
  if (list.includes(settings.errors)) return settings.errors;
  return robust ? "robust" : list[0]!;
}

function suitability(theory: CompiledTheory, data: ModelData): Suitability {
  const no = (reason: string): Suitability => ({ suits: false, reason });
  const { variables, clusters, momentsOnly } = data;
  if (clusters) return no(UNSUITED.clusters);
  const products = theory.equations.flatMap((e) => e.products);
  if (products.some((names) => names.length > 2)) return no(UNSUITED.joint);
  if (products.some(([x, w]) => x === w)) return no(UNSUITED.squares);
  const grouping = groupingModerators(theory, variables);
  const by = theory.groups?.by.name;
  const others = grouping.filter((name) => name !== by);
  if (grouping.length > 1 || (by !== undefined && others.length > 0))
    return no(UNSUITED.severalGroups([...new Set([...(by ? [by] : []), ...grouping])]));
  const group = by ?? grouping[0];
  if (group !== undefined) {
    const acts = theory.paths.some((p) => p.from === group || p.to === group);
    if (acts || theory.equations.some((e) => e.covariates.includes(group)))
      return no(UNSUITED.grouped(group));
  }
  const ungrouped = products.filter((names) => !names.includes(group ?? ""));
  if (ungrouped.length > 0 && momentsOnly) return no(UNSUITED.products);
  const outcome = theory.equations.find((e) => variables.get(e.outcome)?.level === "categorical");
  return outcome ? no(UNSUITED.outcome(outcome.outcome)) : { suits: true };
}
