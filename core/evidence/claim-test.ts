import type { Claim, Claimed, Quantity } from "../effects";
import { jointBootstrapTest, jointDeltaTest, type JointTest } from "../inference";
import { compileExpression, gradient } from "../model";
import type { Prepared } from "../preparation";
import type { BootstrapAll, EffectList } from "./effects";
import { isBootstrap } from "../inference";
import { readInterval, type Side } from "./reading";
import { chosenJoint } from "./sources";
import type { ClaimTest } from "./types";
import { errorsName } from "./wording";

/**
 * The direction that the words of a sentence claim; a moderation's is relative to the sign of the
 * effect it is about.
 */
export const statedDirection = ({ verb }: Claim): Side =>
  (({ raises: 1, lowers: -1, affects: 0, strengthens: 1, weakens: -1, alters: 0 }) as const)[verb];

/**
 * The test of one claim, from its own limits. Directional claims are tested in one tail where the
 * settings ask for it; claims without a direction and joint tests always in both.
 * @param direction of the quantity itself, 0 for either
 */
export function claimTest(
  prepared: Prepared,
  list: EffectList,
  boot: BootstrapAll | null,
  claimed: Claimed,
  direction: Side,
): ClaimTest | null {
  const { settings } = prepared.study;
  const [only, ...others] = claimed.quantities;
  if (!only) return null;
  const together = others.length > 0;
  const joint = together ? jointTest(prepared, boot, claimed.quantities) : null;
  const tail = settings.tail === "one" && direction !== 0 && !claimed.joint ? "one" : "two";
  const base = { nullValue: 0, direction, tail, joint } as const;
  if (!together) {
    const source = list.sources.get(only.id)!;
    return {
      ...base,
      ...readInterval(source, settings, tail === "one" ? direction : 0),
      estimate: source.estimate,
    };
  }
  return {
    ...base,
    estimate: null,
    method: settings.interval,
    reference: joint?.reference === "bootstrap" ? "bootstrap" : "z",
    df: null,
    se: null,
    lower: null,
    upper: null,
    p: joint?.p ?? null,
    pIsBound: false,
    level: settings.level,
    provisional: isBootstrap(settings.interval) && joint?.reference === "chi2",
    mcseLower: 0,
    mcseUpper: 0,
    beyondLower: null,
    beyondUpper: null,
  };
}

/**
 * Are all of them zero? By the Wald F where they are linear functions of one equation's
 * coefficients, else against the resamples, and by the delta method where there are none.
 */
export function jointTest(
  prepared: Prepared,
  boot: BootstrapAll | null,
  quantities: Quantity[],
): JointTest | null {
  const { theta, fit, errors, study } = prepared;
  const test = fit.fTest?.(
    quantities.map((q) => q.expression),
    errors,
  );
  const named = errors === "classical" ? {} : { errors: errorsName(errors) };
  if (test) {
    const { F: statistic, df1, df2, p } = test;
    return { reference: "F", statistic, df1, df2, p, mcse: 0, ...named };
  }
  const estimates = quantities.map((q) => compileExpression(q.expression)(theta, 0));
  if (boot && isBootstrap(study.settings.interval)) {
    const columns = quantities.map(
      (q) => boot.values.columns[prepared.quantities.findIndex((known) => known.id === q.id)]!,
    );
    return jointBootstrapTest(estimates, columns);
  }
  const wald = jointDeltaTest(
    estimates,
    quantities.map((q) => gradient(q.expression, theta)),
    chosenJoint(prepared),
  );
  return wald && { ...wald, ...named };
}
