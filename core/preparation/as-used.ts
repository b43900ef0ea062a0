import type { Variable } from "../data";
import type { Engine } from "../estimators";
import { INTERVALS, type IntervalKind, type Settings } from "../study";
import type { CompiledTheory } from "../theory";

/** What a study states, as it is used: where engine, theory or data leave no choice. */

/**
 * What a sentence models as a count is a number, however its column was guessed: two values that
 * occur, 0 and 3 or −1 and 2, are no yes and no.
 */
export const asDeclared = (
  variables: readonly Variable[],
  { models }: CompiledTheory,
): Variable[] =>
  variables.map((v) =>
    v.level === "binary" && models.some((m) => m.of.name === v.name && COUNTS.has(m.family))
      ? { ...v, level: "continuous" }
      : v,
  );

const COUNTS: ReadonlySet<string> = new Set(["poisson", "negative_binomial"]);

/** The settings with the first interval that is offered, where the chosen one is not. */
export const withOffered = (
  settings: Settings,
  withheld: Partial<Record<IntervalKind, string>>,
): Settings =>
  settings.interval in withheld && settings.replications > 0
    ? { ...settings, interval: INTERVALS.find((kind) => !(kind in withheld))! }
    : settings;

/**
 * The options of a study; where its theory calls for another engine than the one chosen, those that
 * this one knows.
 */
export function optionsFor(
  { id, options }: Engine,
  { engine, options: chosen }: Settings,
): Settings["options"] {
  if (id === engine) return chosen;
  const known = new Set(options.map((o) => o.name));
  return Object.fromEntries(Object.entries(chosen).filter(([name]) => known.has(name)));
}

/** Without rows nothing can be resampled, and errors that need residuals of rows do not exist. */
export function momentSettings(settings: Settings, { errorsOfMoments }: Engine): Settings {
  const interval = settings.interval === "monte_carlo" ? "monte_carlo" : "delta";
  return {
    ...settings,
    replications: 0,
    errors: errorsOfMoments?.(settings.errors) ?? "classical",
    interval,
    strata: null,
    cluster: null,
  };
}
