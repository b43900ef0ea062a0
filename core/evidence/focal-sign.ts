import type { Claimed } from "../effects";
import { compileExpression } from "../model";
import { extent } from "../numerics/moments";
import type { Prepared } from "../preparation";
import { nodesOf, type Hypothesis, type Moderation } from "../theory";
import { statedDirection } from "./claim-test";
import type { EffectList } from "./effects";
import { excludes, isOpen, readInterval, type Side } from "./reading";
import type { ShownInterval } from "./types";
import { plain } from "../wording/numbers";

/** Which way “away from zero” is, and what the reader has to be told about it. */
export interface FocalSign {
  sign: 1 | -1;
  /** Where it comes from. */
  basis: "stated" | "estimated" | "none";
  note: string | null;
  /**
   * Where another seed could move the limit that decides about the sign across zero: that, in a
   * sentence.
   */
  open: string | null;
}

/**
 * The sign of the effect that a moderation strengthens or weakens: as another hypothesis states it;
 * else as the average effect shows it, where its interval excludes zero; else there is none, and
 * away from zero is read as upwards.
 */
export function focalSign(
  prepared: Prepared,
  list: EffectList,
  moderation: Moderation,
  claimed: Claimed,
): FocalSign {
  const found = focalOf(prepared, list, claimed);
  const stated = new Set(
    prepared.theory.hypotheses
      .filter((h) => isAbout(h, moderation))
      .map(statedDirection)
      .filter((d) => d !== 0),
  );
  if (stated.size === 1) {
    const [sign] = [...stated] as [1 | -1];
    return { sign, basis: "stated", note: statedNote(sign, found, moderation), open: null };
  }
  const open = found && openSign(found.shown, moderation);
  if (found && excludes(found.shown, 0)) {
    const sign = found.estimate > 0 ? 1 : -1;
    const note =
      sign < 0
        ? `The effect itself is negative on average (${plain(found.estimate)}): ${meaning(moderation)}.`
        : null;
    return { sign, basis: "estimated", note, open };
  }
  return {
    sign: 1,
    basis: "none",
    note: `The effect itself has no clear sign, so “${moderation.verb}” is read as “becomes more ${moderation.verb === "weakens" ? "negative" : "positive"}”; a hypothesis that states its sign would settle that.`,
    open,
  };
}

/** What the data say of the effect that is moderated. */
interface Focal {
  estimate: number;
  shown: ShownInterval;
}

function focalOf({ study }: Prepared, list: EffectList, { focal }: Claimed): Focal | null {
  const source = focal.length === 1 ? list.sources.get(focal[0]!.id) : undefined;
  if (!source || source.estimate === null) return null;
  return { estimate: source.estimate, shown: readInterval(source, study.settings, 0) };
}

/** A stated sign is what “weaker” is judged by, also where the data contradict it: then that is said. */
function statedNote(sign: 1 | -1, found: Focal | null, moderation: Moderation): string | null {
  const stated = sign > 0 ? "positive" : "negative";
  if (found && excludes(found.shown, 0) && sign * found.estimate < 0)
    return `The effect itself is stated to be ${stated}, but the data show it ${sign > 0 ? "negative" : "positive"} (${plain(found.estimate)}); “${moderation.verb}” is judged by what is stated.`;
  return sign < 0 ? `The effect itself is stated to be negative: ${meaning(moderation)}.` : null;
}

function openSign(
  { lower, upper, mcseLower, mcseUpper }: ShownInterval,
  { verb }: Moderation,
): string | null {
  if (!isOpen(lower, mcseLower, 0) && !isOpen(upper, mcseUpper, 0)) return null;
  return `Whether the effect itself is positive, negative or neither hangs on a limit so near zero that another seed could move it across, and with it what “${verb}” means: more bootstrap samples, or a hypothesis that states its sign, would settle that.`;
}

/** What the verb says of a negative effect. */
const meaning = ({ verb }: Moderation): string =>
  verb === "weakens" ? "weaker means less negative" : "stronger means more negative";

/**
 * Is a hypothesis about the effect that a moderation is about: the same path, the same comparison?
 */
function isAbout({ from, to, chains }: Hypothesis, moderation: Moderation): boolean {
  const nodes = nodesOf(moderation);
  const chain =
    chains.length === 0 ? [] : chains.length === 1 ? chains[0]!.map((r) => r.name) : null;
  return (
    chain !== null &&
    from.name === nodes[0] &&
    to.name === nodes.at(-1) &&
    chain.join("\u0000") === nodes.slice(1, -1).join("\u0000") &&
    from.compared?.upper === moderation.from.compared?.upper &&
    from.compared?.lower === moderation.from.compared?.lower
  );
}

/** Where an effect crosses zero along its moderator, within the values observed. */
export interface ZeroCrossing {
  at: number;
  below: number;
  above: number;
}

/**
 * The zeros of the effect along its one numeric moderator, with how many cases lie to each side.
 */
export function zeroCrossings(prepared: Prepared, { along }: Claimed): ZeroCrossing[] {
  if (!along || along.moderator.kind !== "numeric") return [];
  const values = along.moderator.columns[0]!.values;
  const centre = prepared.context.centre(along.key);
  const [c0 = 0, c1 = 0, c2 = 0] = along.coefficients.map((e) =>
    compileExpression(e)(prepared.theta, 0),
  );
  const [min, max] = extent(values);
  return realRoots(c0, c1, c2)
    .map((root) => root + centre)
    .filter((at) => at > min && at < max)
    .map((at) => {
      const below = values.reduce((count, v) => count + (v < at ? 1 : 0), 0);
      return { at, below, above: values.length - below };
    });
}

/** Roots of c0 + c1 w + c2 w2, ascending, by the form that loses no digits. */
function realRoots(c0: number, c1: number, c2: number): number[] {
  if (c2 === 0) return c1 === 0 ? [] : [-c0 / c1];
  const discriminant = c1 * c1 - 4 * c2 * c0;
  if (!(discriminant > 0)) return [];
  const q = -(c1 + (c1 < 0 ? -1 : 1) * Math.sqrt(discriminant)) / 2;
  return (q === 0 ? [0] : [q / c2, c0 / q]).sort((a, b) => a - b);
}

/**
 * What happens where the effect crosses zero, in a sentence; empty where it does not, or where the
 * change along the moderator is not shown: lines that may as well be parallel cross somewhere.
 */
export function crossingWords(
  prepared: Prepared,
  moderation: Moderation,
  claimed: Claimed,
  { sign }: FocalSign,
  change: number | null,
  shown: boolean,
): string {
  if (!shown) return "";
  const crossings = zeroCrossings(prepared, claimed);
  const w = moderation.moderators[0]!.name;
  const { unit } = prepared.study;
  if (crossings.length === 0 || change === null) return "";
  if (crossings.length > 1)
    return ` Along ${w} the effect crosses zero at ${crossings.map((c) => plain(c.at, 2)).join(" and at ")}.`;
  const [{ at, below, above }] = crossings as [ZeroCrossing];
  const story =
    sign * change < 0
      ? `weaker up to ${plain(at, 2)}, then reversed`
      : `reversed up to ${plain(at, 2)}, then growing`;
  return ` Within the observed values the effect crosses zero at ${w} = ${plain(at, 2)} (${below} ${unit} below, ${above} above): ${story}.`;
}

/** The direction of the change that a moderation claims. */
export const claimedChange = (moderation: Moderation, { sign }: FocalSign): Side =>
  (statedDirection(moderation) * sign) as Side;
