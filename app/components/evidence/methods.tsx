import {
  errorsName,
  INTERVAL_WORDS,
  intervalName,
  plain,
  pValue,
  type EffectEvidence,
  type Evidence,
} from "../../../core";
import { Disclosure } from "../ui/disclosure";
import { NumberTable } from "../ui/number-table";

const BOOTSTRAPS = [
  ["bca", "bca"],
  ["bc", "bc"],
  ["percentile", "percentile"],
  ["bootstrapT", "bootstrap_t"],
  ["basic", "basic"],
  ["normal", "normal"],
] as const;

/** Every interval method for the one effect, with the Monte Carlo error of each limit. */
export function Methods({ effect, evidence }: { effect: EffectEvidence; evidence: Evidence }) {
  const { settings } = evidence;
  const delta = effect.delta[settings.crossEquations][evidence.errors];
  const boot = effect.bootstrap;
  const twoPath = effect.twoPath;
  const rows: [string, number | null | undefined, number | null | undefined, string, string][] = [];
  if (boot) {
    for (const [key, name] of BOOTSTRAPS) {
      const i = boot[key];
      if (!i && key === "bootstrapT") continue;
      rows.push([
        `${INTERVAL_WORDS[name]!}${name in evidence.withheldIntervals ? " (not offered here)" : ""}`,
        i?.lower,
        i?.upper,
        i ? pValue(i.pTwoSided, i.pIsBound) : "not available",
        i ? plain(Math.max(i.mcseLower, i.mcseUpper), 4) : "",
      ]);
    }
  }
  const drawn = effect.monteCarlo;
  if (drawn)
    rows.push([
      "Monte Carlo",
      drawn.lower,
      drawn.upper,
      pValue(drawn.pTwoSided, drawn.pIsBound),
      plain(Math.max(drawn.mcseLower, drawn.mcseUpper), 4),
    ]);
  const errors = errorsName(evidence.errors);
  // A single coefficient has its t test; z is for products and functions across equations.
  if (effect.shown?.reference === "t")
    rows.push([
      `${intervalName(effect.shown)}, ${errors}`,
      effect.shown.lower,
      effect.shown.upper,
      pValue(effect.shown.p),
      "",
    ]);
  else if (delta && effect.twoPath)
    rows.push([`delta method (z), ${errors}`, delta.lower, delta.upper, pValue(delta.p), ""]);
  const joint = effect.jointSignificance?.[evidence.errors];
  return (
    <Disclosure summary="Other interval methods and tests">
      <NumberTable
        title={`Interval methods, ${effect.label}`}
        columns={["method", "lower", "upper", "p", "Monte Carlo SE of the limit"]}
        rows={rows.map(([name, lower, upper, p, mcse]) => ({
          key: name,
          cells: [
            name,
            { shown: plain(lower, 4), value: lower ?? null },
            { shown: plain(upper, 4), value: upper ?? null },
            p,
            mcse,
          ],
        }))}
      />
      {twoPath && settings.cluster === null && (
        <p className="quiet">
          Sobel z = {plain(twoPath.sobel.z, 2)} (p {pValue(twoPath.sobel.p)}), Aroian z ={" "}
          {plain(twoPath.aroian.z, 2)}, Goodman z = {plain(twoPath.goodman?.z, 2)}; classical
          errors.
        </p>
      )}
      {joint && (
        <p className="quiet">
          Joint significance of the steps: largest p {pValue(joint.p)},{" "}
          {joint.significant ? "every step differs from zero" : "not every step differs from zero"}.
        </p>
      )}
    </Disclosure>
  );
}
