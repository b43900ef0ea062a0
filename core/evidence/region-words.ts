import type { JohnsonNeyman, Region } from "../inference";
import type { Crossing, FiellerSet } from "./moderation-types";
import type { Band, RegionEvidence } from "./region-types";
import type { IntervalKind } from "../study";
import { percent, plain } from "../wording/numbers";

/** What a region says of the effect, in a few words. */
export function regionWords(
  { significant, sign }: Pick<Region, "significant" | "sign">,
  focal: string,
  outcome: string,
): string {
  if (!significant) return "not significant";
  return sign > 0 ? `more ${focal}, more ${outcome}` : `more ${focal}, less ${outcome}`;
}

/**
 * Where a slope differs from zero, in a sentence that can stand in a paper. An interval that
 * contains zero shows no evidence; it never says that there is no effect.
 * @param people the unit of analysis, in the plural
 */
export function regionSentence(
  jn: JohnsonNeyman,
  focal: string,
  outcome: string,
  over: string,
  n: number,
  people: string,
): string {
  const sure = jn.regions.filter((r) => r.significant);
  const [min, max] = jn.range;
  if (sure.length === 0)
    return `At no value of ${over} between ${plain(min, 2)} and ${plain(max, 2)} is there evidence that ${focal} and ${outcome} go together.`;
  const parts = sure.map((r) => {
    const where =
      r.from === min && r.to === max
        ? `at every value of ${over} that was observed`
        : r.to === max
          ? `where ${over} is at least ${plain(r.from, 2)}`
          : r.from === min
            ? `where ${over} is at most ${plain(r.to, 2)}`
            : `where ${over} is between ${plain(r.from, 2)} and ${plain(r.to, 2)}`;
    return `${r.sign > 0 ? "more" : "less"} ${outcome} ${where} (${Math.round(r.percent)} % of the ${n} ${people})`;
  });
  const rest =
    jn.percentSignificant < 99.95 && sure.length < jn.regions.length
      ? " Elsewhere the interval of the slope contains zero."
      : "";
  return `With more ${focal} comes ${parts.join(", and ")}.${rest}`;
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
