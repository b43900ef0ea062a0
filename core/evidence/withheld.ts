import { directId, totalId, type EffectPair, type Quantity } from "../effects";
import { deltaTest } from "../inference";
import { compileExpression, firstFixed, gradient, parametersOf, type Expression } from "../model";
import type { Prepared } from "../preparation";
import { thinnest } from "./lone-clusters";
import { excludes } from "./reading";
import { chosenJoint } from "./sources";
import { heldReason } from "./held";
import { perfectReason } from "./perfect-fit";
import { WITHHELD } from "../wording";
import type { EffectEvidence, ShownInterval } from "./types";

/** Finds an effect by its id. */
type Finder = (id: string) => EffectEvidence | undefined;

/**
 * Why a number must not be reported, in a sentence; null where it may. The number itself stays in
 * the evidence. Sizes of mediation: Preacher & Kelley (2011, Psychol Methods 16).
 */
export function withheldReason(
  prepared: Prepared,
  quantity: Quantity,
  shown: ShownInterval,
  estimate: number | null,
  find: Finder,
): string | null {
  const pair = prepared.context.pairs.find((p) => p.from === quantity.from && p.to === quantity.to);
  return (
    ofNothing(quantity, estimate) ??
    ofLoneCluster(prepared, quantity, pair) ??
    heldReason(prepared, quantity) ??
    perfectReason(prepared, quantity) ??
    ofBinary(quantity, pair) ??
    ofRatio(prepared, quantity, find) ??
    ofVariance(quantity, shown, estimate) ??
    ofInterval(shown, estimate)
  );
}

/** What is no number cannot be shown, and what no data can change cannot be tested. */
function ofNothing({ kind, expression }: Quantity, estimate: number | null): string | null {
  if (kind !== "own" && kind !== "contrast") return null;
  if (estimate === null)
    return "It has no value here: something is divided by zero, taken the root or logarithm of outside its range, or grows beyond what a computer holds.";
  if (parametersOf(expression).size === 0)
    return `It is ${estimate} whatever the data say, so there is nothing to test.`;
  return null;
}

/** What rests on one cluster has no error, however many people it has. */
function ofLoneCluster(
  prepared: Prepared,
  { compared }: Quantity,
  pair: EffectPair | undefined,
): string | null {
  const name = compared?.variable ?? pair?.fromVariable;
  if (prepared.resampling.scheme.kind !== "clusters" || name === undefined) return null;
  const thin = thinnest(prepared, [
    { name, compared: compared ?? levelsCompared(prepared, name, pair?.from) },
  ]);
  return thin && !thin.testable ? thin.words : null;
}

/** The two levels that a code column compares; undefined where it weighs more of them. */
function levelsCompared(
  { fit }: Prepared,
  variable: string,
  key: string | undefined,
): { upper: string; lower: string } | undefined {
  const coding = fit.codings.find((c) => c.variable === variable && c.coding === "indicator");
  const column = coding?.columns.find((c) => c.key === key);
  if (!coding || !column) return undefined;
  const upper = coding.levels[column.codes.findIndex((code) => code === 1)];
  const lower = coding.levels.find((_, at) => coding.columns.every((c) => c.codes[at] === 0));
  return upper === undefined || lower === undefined ? undefined : { upper, lower };
}

function ofBinary({ kind, from }: Quantity, pair: EffectPair | undefined): string | null {
  if (!pair?.binary) return null;
  if (kind === "completely_standardised")
    return `“${from}” has two values, so a standard deviation of it means nothing; read the effect in SDs of the outcome alone.`;
  if (kind === "explained_variance")
    return `“${from}” has two values, so shares of explained variance depend on how many cases each has; read the effect in SDs of the outcome.`;
  return null;
}

function ofRatio(
  prepared: Prepared,
  { kind, from, to, expression }: Quantity,
  find: Finder,
): string | null {
  if (kind === "own") return ofOwnRatio(prepared, expression);
  if (kind !== "proportion_mediated" && kind !== "ratio_to_direct") return null;
  const [direct, total] = [find(directId(from!, to!)), find(totalId(from!, to!))];
  const below = kind === "proportion_mediated" ? total : direct;
  const what = kind === "proportion_mediated" ? "total" : "direct";
  if (below?.shown && excludes(below.shown, 0) !== true) return WITHHELD.zero(what);
  if (
    direct?.estimate != null &&
    total?.estimate != null &&
    (total.estimate - direct.estimate) * direct.estimate < 0
  )
    return WITHHELD.opposite;
  return null;
}

/**
 * A ratio that the researcher defined has no meaning either where what it divides by may be zero.
 */
function ofOwnRatio(prepared: Prepared, expression: Expression): string | null {
  const { theta, fit, study } = prepared;
  const v = chosenJoint(prepared);
  const doubtful = denominators(expression).some((e) => {
    const test = deltaTest(
      compileExpression(e)(theta, 0),
      gradient(e, theta),
      v,
      study.settings.level,
      firstFixed(fit.parameters),
    );
    return test !== null && test.lower <= 0 && test.upper >= 0;
  });
  return doubtful
    ? "What it divides by may be zero (its interval contains 0), so the ratio has no meaning."
    : null;
}

function denominators(e: Expression): Expression[] {
  const inner = ["a" in e ? denominators(e.a) : [], "b" in e ? denominators(e.b) : []].flat();
  return e.op === "divide" && parametersOf(e.b).size > 0 ? [e.b, ...inner] : inner;
}

function ofVariance(
  { kind }: Quantity,
  { upper }: ShownInterval,
  estimate: number | null,
): string | null {
  if (kind !== "explained_variance" || estimate === null) return null;
  if (estimate <= 1 && (upper ?? 0) <= 1) return null;
  return "It reaches beyond 1, which no share of explained variance can; predictors that suppress each other make it so.";
}

function ofInterval({ lower, upper }: ShownInterval, estimate: number | null): string | null {
  if (lower === null || upper === null || estimate === null) return null;
  if (lower <= estimate && estimate <= upper) return null;
  return WITHHELD.interval;
}
