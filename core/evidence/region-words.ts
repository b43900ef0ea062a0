import type { JohnsonNeyman, Region } from "../inference";
import type { Crossing, FiellerSet, ModerationEvidence } from "./moderation-types";
import { excludes } from "./reading";
import type { Evidence } from "./types";
import { errorsName } from "./wording";
import type { Band, RegionEvidence } from "./region-types";
import type { IntervalKind } from "../study";
import { percent, plain } from "../wording/numbers";

/** How regions allow for being looked at everywhere. */
export type RegionRule = "pointwise" | "simultaneous" | "falseDiscovery";

const RULE_WORDS: Record<RegionRule, string> = {
  pointwise: "pointwise, not corrected for looking at every value",
  simultaneous: "corrected for all values together",
  falseDiscovery: "corrected by the false discovery rate",
};

/** The slope that regions are told of. */
export type RegionSlope = Pick<ModerationEvidence, "focal" | "focalLabel" | "focalVariable"> & {
  /** The outcome, on the scale of the linear predictor. */
  outcome: string;
};

/** A difference between groups is no change per unit: nobody has more of a group. */
const isContrast = ({
  focal,
  focalVariable,
}: Pick<RegionSlope, "focal" | "focalVariable">): boolean => focal !== focalVariable;

/** What a region says of the effect, in a few words. */
export function regionWords(
  { significant, sign }: Pick<Region, "significant" | "sign">,
  slope: RegionSlope,
): string {
  if (!significant) return "not significant";
  const { focalLabel, outcome } = slope;
  const direction = sign > 0 ? "more" : "less";
  return isContrast(slope)
    ? `${direction} ${outcome} (${focalLabel})`
    : `more ${focalLabel}, ${direction} ${outcome}`;
}

/**
 * Where a slope differs from zero, in a sentence that can stand in a paper, with how the regions
 * were found. An interval that contains zero is called that; it never says that there is no effect.
 * Where the change of the slope along the moderator is not shown, its regions are no finding, and
 * the sentence says so instead.
 * @param sample cases, and what they are called in the plural
 * @param how the regions were found; `shown` false where the interval of the change contains zero
 */
export function regionSentence(
  jn: JohnsonNeyman,
  slope: RegionSlope,
  over: string,
  sample: { n: number; unit: string },
  how: { rule: RegionRule; errors: string; level: number; shown: boolean | null },
): string {
  const { focalLabel, outcome } = slope;
  const what = isContrast(slope)
    ? `the difference in ${outcome} (${focalLabel})`
    : `the slope of ${focalLabel} on ${outcome}`;
  const basis = ` Regions at ${percent(how.level)} %, ${RULE_WORDS[how.rule]}${how.errors === "classical" ? "" : `; ${errorsName(how.errors)} errors`}.`;
  const [min, max] = jn.range;
  if (how.shown === false)
    return `That ${what} changes with ${over} is not shown: the interval of the change contains zero, so where it lies apart from zero along ${over} is no finding.`;
  const begin = `${what[0]!.toUpperCase()}${what.slice(1)}`;
  const sure = jn.regions.filter((r) => r.significant);
  if (sure.length === 0)
    return `${begin} has an interval that contains zero at every value of ${over} between ${plain(min, 2)} and ${plain(max, 2)}.${basis}`;
  const parts = sure.map((r) => {
    const where =
      r.from === min && r.to === max
        ? `at every value of ${over} that was observed`
        : r.to === max
          ? `where ${over} is at least ${plain(r.from, 2)}`
          : r.from === min
            ? `where ${over} is at most ${plain(r.to, 2)}`
            : `where ${over} is between ${plain(r.from, 2)} and ${plain(r.to, 2)}`;
    return `${r.sign > 0 ? "positive" : "negative"} ${where} (${Math.round(r.percent)} % of the ${sample.n} ${sample.unit || "cases"})`;
  });
  const rest =
    jn.percentSignificant < 99.95 && sure.length < jn.regions.length
      ? " Elsewhere its interval contains zero."
      : "";
  return `${begin} is ${parts.join(", and ")}.${rest}${basis}`;
}

/**
 * Is it shown that a slope changes along a moderator: does the interval of their product exclude
 * zero? Null where the equation has no single such product.
 */
export function changeShown(
  { effects }: Pick<Evidence, "effects">,
  { focal, outcome }: Pick<ModerationEvidence, "focal" | "outcome">,
  column: string,
): boolean | null {
  const products = [`${focal}:${column}`, `${column}:${focal}`];
  const found = effects.find(
    (e) => e.kind === "interaction" && e.to === outcome && products.includes(e.from ?? ""),
  );
  return found?.shown ? excludes(found.shown, 0) : null;
}

/**
 * The value of a moderator at which a slope is zero, and the values that Fieller's method leaves
 * possible, in a sentence.
 * @param show raw values in the units of the screen
 */
export function zeroSlopeSentence(
  { at, insideRange }: Pick<Crossing, "at" | "insideRange">,
  { kind, lower, upper }: FiellerSet,
  over: string,
  level: number,
  show: (value: number) => number = (value) => value,
): string {
  const written = (value: number | null): string => plain(value === null ? null : show(value), 2);
  const confidence = `${percent(level)} %`;
  const doubt = {
    interval: `${confidence} CI ${written(lower)} to ${written(upper)} (Fieller)`,
    outside: `${confidence}: any value below ${written(lower)} or above ${written(upper)} (Fieller), as the interaction itself may be zero`,
    everywhere: `${confidence}: any value, as the interaction itself may be zero`,
  }[kind];
  return `The slope is zero at ${over} = ${written(at)}${insideRange ? "" : ", outside the observed values"}; ${doubt}.`;
}

/** Which band of a conditional indirect effect goes with the interval that the settings ask for. */
export const bandKind = (interval: IntervalKind): "percentile" | "bc" | "bca" =>
  interval === "bc" || interval === "percentile" ? interval : "bca";

/**
 * Where the bootstrap band of a conditional indirect effect contains zero, in a sentence; where the
 * effect itself is zero, too.
 */
export function zeroIndirectSentence(
  { grid, estimate, over }: RegionEvidence,
  { lower, upper }: Band,
): string {
  const inside = grid.map(
    (_, i) => lower[i] != null && upper[i] != null && lower[i]! <= 0 && upper[i]! >= 0,
  );
  const first = inside.indexOf(true);
  const zeros = grid.flatMap((w, i) => {
    const [a, b] = [estimate[i - 1], estimate[i]!];
    return a !== undefined && a * b < 0 ? [grid[i - 1]! + ((w - grid[i - 1]!) * a) / (a - b)] : [];
  });
  const crossing =
    zeros.length > 0
      ? `The indirect effect is zero at ${over} = ${zeros.map((z) => plain(z, 2)).join(" and ")}. `
      : "";
  if (first < 0) return `${crossing}At no observed value of ${over} does its band contain zero.`;
  if (inside.every(Boolean))
    return `${crossing}At every observed value of ${over} its band contains zero.`;
  const runs = inside.flatMap((yes, i) =>
    yes && !inside[i - 1]
      ? [
          [
            grid[i]!,
            grid[inside.indexOf(false, i) < 0 ? grid.length - 1 : inside.indexOf(false, i) - 1]!,
          ],
        ]
      : [],
  );
  return `${crossing}Its band contains zero for ${over} from ${runs.map(([a, b]) => `${plain(a, 2)} to ${plain(b, 2)}`).join(" and from ")}.`;
}
