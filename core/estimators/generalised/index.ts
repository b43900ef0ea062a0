import { StudyProblem } from "../../problems";
import type { Settings } from "../../study";
import { pathsBetween, type CompiledTheory, type Moderation } from "../../theory";
import type { Engine, ModelData, Suitability } from "../engine";
import { betweenOf } from "./causal-model";
import { ResponseKernel, type ResponseProblem } from "./kernel";
import { OPTIONS } from "./options";
import { ResponsesFit } from "./response-fit";
import { UNSUITED } from "./wording";

/**
 * Generalised linear models of responses that are no straight lines - yes or no, counts - and
 * effects of treatments as differences of what would have been.
 */
export const generalised: Engine<ResponseProblem> = {
  id: "generalised",
  label: "generalised linear models",
  options: OPTIONS,
  responses: ["linear", "logistic", "probit", "poisson", "negative_binomial"],
  errors: ["classical", "HC0"],
  settings: settingsFor,
  suits: suitability,
  fit: (theory, data, settings) => new ResponsesFit(theory, data, settings),
  kernel: (problem) => new ResponseKernel(problem),
};

const MOST_DRAWS = 5000;

/** Intervals that need errors within a resample do not exist here, nor does centring. */
function settingsFor(settings: Settings): Settings {
  return {
    ...settings,
    errors: settings.errors.startsWith("HC") ? "HC0" : "classical",
    interval: settings.interval === "bootstrap_t" ? "bca" : settings.interval,
    crossEquations: "joint",
    centring: "none",
    // A draw takes all means anew, as a resample does.
    monteCarloDraws: Math.min(settings.monteCarloDraws, MOST_DRAWS),
  };
}

function suitability(theory: CompiledTheory, data: ModelData): Suitability {
  const no = (reason: string): Suitability => ({ suits: false, reason });
  if (data.momentsOnly) throw new StudyProblem("rows_needed", { what: UNSUITED.moments });
  if (data.clusters) return no(UNSUITED.clusters);
  if (theory.groups) return no(UNSUITED.groups);
  if ([theory.holds, theory.frees, theory.covariances].some((lines) => lines.length > 0))
    return no(UNSUITED.constraints);
  const untold = theory.moderations.find((m) => m.chain.length > 0 && !isNatural(theory, m));
  if (untold) return no(UNSUITED.chain(untold.label));
  if (theory.moderated.some((m) => m.moderators.includes(m.from))) return no(UNSUITED.square);
  const level = (name: string) => data.variables.get(name)?.level;
  const straight = (outcome: string): boolean => {
    const said = theory.models.find((m) => m.of.name === outcome)?.family;
    return said === "linear" || (said === undefined && level(outcome) !== "binary");
  };
  if (theory.equations.every((e) => straight(e.outcome))) return { suits: true };
  const counted = theory.models.find(
    (m) =>
      m.family === "negative_binomial" &&
      theory.roles.mediators.includes(m.of.name) &&
      theory.paths.some((p) => p.from === m.of.name && !straight(p.to)),
  );
  if (counted) return no(UNSUITED.counted(counted.of.name));
  for (const outcome of theory.roles.outcomes)
    for (const from of theory.roles.predictors)
      if (!isBlock(theory, betweenOf(theory, from, outcome), outcome, straight))
        return no(UNSUITED.several(outcome));
  return { suits: true };
}

/**
 * Does a sentence say that a whole natural indirect effect is moderated: from a predictor through
 * the one mediator there is?
 */
function isNatural({ roles, paths }: CompiledTheory, { from, chain, to }: Moderation): boolean {
  return (
    chain.length === 1 &&
    roles.predictors.includes(from.name) &&
    roles.outcomes.includes(to.name) &&
    pathsBetween(paths, from.name, to.name).every((nodes) =>
      nodes.slice(1, -1).every((node) => node === chain[0]!.name),
    )
  );
}

/**
 * One mediator at most, or several that are straight lines, two of them in one product only of an
 * outcome that is one too.
 */
function isBlock(
  theory: CompiledTheory,
  between: readonly string[],
  outcome: string,
  straight: (outcome: string) => boolean,
): boolean {
  if (between.length < 2) return true;
  const crossed = theory.moderated.some(
    (m) =>
      (between.includes(m.to) || (m.to === outcome && !straight(outcome))) &&
      between.includes(m.from) &&
      m.moderators.some((w) => between.includes(w)),
  );
  return between.every(straight) && !crossed;
}
