import { StudyProblem } from "../../problems";
import type { IntervalKind, Settings } from "../../study";
import type { CompiledTheory, Measure, MeasureForm } from "../../theory";
import type { Engine, ModelData, Suitability } from "../engine";
import { CompositeFit } from "./composite-fit";
import { CompositeKernel, type CompositeProblem } from "./kernel";
import { OPTIONS, optionsOf } from "./options";
import { nodesOf } from "./theory-model";
import { UNSUITED } from "./wording";

/**
 * Partial least squares: constructs that combine their items, or reflect a common factor with a
 * correction for reliability, and the paths among them, in SDs of scores. Every error and interval
 * is resampled.
 */
export const composites: Engine<CompositeProblem> = {
  id: "composites",
  label: "partial least squares",
  options: OPTIONS,
  forms: ["combines", "reflects"],
  lines: ["groups"],
  errors: ["classical"],
  settings: settingsFor,
  withheldIntervals,
  tried: [],
  keepsIncomplete: (settings) => optionsOf(settings).missing === "means",
  variants,
  suits: suitability,
  fit: (theory, data, settings) => new CompositeFit(theory, data, settings),
  kernel: (problem) => new CompositeKernel(problem),
};

/**
 * What rests on a covariance of the coefficients does not exist here: nothing but resampling has
 * any.
 */
function settingsFor(settings: Settings, theory: CompiledTheory): Settings {
  const resampled = settings.replications > 0;
  return {
    ...settings,
    errors: "classical",
    crossEquations: "joint",
    centring: "none",
    interval: resampled ? settings.interval : "delta",
    // Groups keep their sizes in every resample.
    strata:
      settings.strata ?? (settings.cluster === null ? (theory.groups?.by.name ?? null) : null),
  };
}

/**
 * Weights that are estimated lean towards whatever makes paths strong, and more so in a resample:
 * the replicates lie further from zero than the truth. Intervals that take their place as it is, or
 * mirror it, find effects in noise (docs/calibration.md).
 */
function withheldIntervals(measures: readonly Measure[]): Partial<Record<IntervalKind, string>> {
  const none =
    "Constructs have no covariance of their coefficients to draw from or to studentise by: their errors are resampled.";
  const estimated = measures.some(
    ({ items, form, weighting }) =>
      items.length > 1 && (form === "reflects" || weighting !== "equal"),
  );
  const noise =
    "With estimated weights it finds effects in noise: resampled paths lie further from zero than the true ones, and only bias-corrected intervals allow for that.";
  return {
    monte_carlo: none,
    bootstrap_t: none,
    ...(estimated ? { percentile: noise, basic: noise, normal: noise, delta: noise } : {}),
  };
}

/** Would another way of weighting, or of treating empty cells, say the same? */
function variants(
  settings: Settings,
  dropped: number,
  forms: readonly MeasureForm[],
): { name: string; options: Settings["options"] }[] {
  const { scheme, correction, missing } = optionsOf(settings);
  const list = (["path", "factor", "centroid"] as const)
    .filter((s) => s !== scheme)
    .map((s): { name: string; options: Settings["options"] } => ({
      name: `inner weighting: ${s}`,
      options: { scheme: s },
    }));
  if (forms.includes("reflects"))
    list.push(
      correction === "reflective"
        ? { name: "common factors as composites, not corrected", options: { correction: "none" } }
        : {
            name: "common factors corrected for reliability",
            options: { correction: "reflective" },
          },
    );
  if (missing === "complete" && dropped > 0)
    list.push({ name: "empty cells filled with means", options: { missing: "means" } });
  return list;
}

function suitability(theory: CompiledTheory, data: ModelData): Suitability {
  const no = (reason: string): Suitability => ({ suits: false, reason });
  const { clusters, momentsOnly, measures, variables } = data;
  if (momentsOnly) throw new StudyProblem("rows_needed", { what: UNSUITED.moments });
  if (theory.paths.length === 0) return no(UNSUITED.paths);
  if (clusters) return no(UNSUITED.clusters);
  const products = theory.equations.flatMap((e) => e.products);
  if (products.some((names) => names.length > 2)) return no(UNSUITED.joint);
  if (products.some(([x, w]) => x === w)) return no(UNSUITED.squares);
  if ([theory.holds, theory.frees, theory.covariances].some((lines) => lines.length > 0))
    return no(UNSUITED.constraints);
  const names = new Set(measures.map((m) => m.name.name));
  const nodes = nodesOf(theory);
  const second = measures.find(
    (m) => nodes.includes(m.name.name) && m.items.some((item) => names.has(item.ref.name)),
  );
  if (second) return no(UNSUITED.secondOrder(second.name.name));
  const words = measures
    .flatMap((m) => m.items.map((item) => item.ref.name))
    .find((name) => variables.get(name)?.level === "categorical");
  if (words !== undefined) return no(UNSUITED.items(words));
  const { groups } = theory;
  if (groups && (groups.equal.length > 0 || groups.free.length > 0)) return no(UNSUITED.equal);
  if (groups) {
    const by = groups.by.name;
    const acts = theory.paths.some((p) => p.from === by || p.to === by);
    if (acts || theory.equations.some((e) => e.covariates.includes(by)))
      return no(UNSUITED.grouped(by));
  }
  const outcome = theory.equations.find((e) => variables.get(e.outcome)?.level === "categorical");
  return outcome ? no(UNSUITED.outcome(outcome.outcome)) : { suits: true };
}
