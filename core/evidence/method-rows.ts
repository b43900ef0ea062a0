import { toldP } from "../inference";
import type { EffectEvidence, Evidence } from "./types";
import { errorsName, INTERVAL_WORDS, intervalName } from "./wording";

/** One method's limits for an effect, beside those that the study chose. */
export interface MethodRow {
  method: string;
  /** False: the method is not for effects of this engine, and only shown for comparison. */
  offered: boolean;
  lower: number | null;
  upper: number | null;
  /** Null where the method has no limits here. */
  p: number | null;
  /** The p value is only known to be below this. */
  pIsBound: boolean;
  /** How far another seed would move the limit that moves most; null where nothing is drawn. */
  mcse: number | null;
}

const BOOTSTRAPS = [
  ["bca", "bca"],
  ["bc", "bc"],
  ["percentile", "percentile"],
  ["bootstrapT", "bootstrap_t"],
  ["basic", "basic"],
  ["normal", "normal"],
] as const;

/** Every interval method there is for one effect, the bootstrap's first. */
export function methodRows(effect: EffectEvidence, evidence: Evidence): MethodRow[] {
  return [...resampled(effect, evidence), ...drawn(effect), ...byErrors(effect, evidence)];
}

function resampled({ bootstrap: boot }: EffectEvidence, evidence: Evidence): MethodRow[] {
  if (!boot) return [];
  return BOOTSTRAPS.flatMap(([key, name]) => {
    const found = boot[key];
    if (!found && key === "bootstrapT") return [];
    return {
      method: INTERVAL_WORDS[name]!,
      offered: !(name in evidence.withheldIntervals),
      lower: found?.lower ?? null,
      upper: found?.upper ?? null,
      p: found ? toldP(found, boot.used) : null,
      pIsBound: found?.pIsBound ?? false,
      mcse: found ? Math.max(found.mcseLower, found.mcseUpper) : null,
    };
  });
}

function drawn({ monteCarlo: found }: EffectEvidence): MethodRow[] {
  if (!found) return [];
  const { lower, upper, pIsBound } = found;
  const mcse = Math.max(found.mcseLower, found.mcseUpper);
  const p = toldP(found, found.draws);
  return [{ method: "Monte Carlo", offered: true, lower, upper, p, pIsBound, mcse }];
}

/** A single coefficient has its t test; z is for products and functions across equations. */
function byErrors(effect: EffectEvidence, { errors, settings }: Evidence): MethodRow[] {
  const exact = { offered: true, pIsBound: false, mcse: null };
  const { shown } = effect;
  const named = errorsName(errors);
  if (shown?.reference === "t") {
    const { lower, upper, p } = shown;
    return [{ ...exact, method: `${intervalName(shown)}, ${named}`, lower, upper, p }];
  }
  const delta = effect.delta[settings.crossEquations][errors];
  if (!delta || !effect.twoPath) return [];
  const { lower, upper, p } = delta;
  return [{ ...exact, method: `delta method (z), ${named}`, lower, upper, p }];
}
