import type { JohnsonNeyman, Region } from "../inference";
import { plain } from "./wording";

/** What a region says of the effect, in a few words. */
export function regionWords({ significant, sign }: Pick<Region, "significant" | "sign">, focal: string, outcome: string): string {
  if (!significant) return "unclear";
  return sign > 0 ? `more ${focal}, more ${outcome}` : `more ${focal}, less ${outcome}`;
}

/**
 * Where a slope differs from zero, in a sentence that can stand in a paper. An interval that contains zero shows no
 * evidence; it never says that there is no effect.
 * @param people the unit of analysis, in the plural
 */
export function regionSentence(jn: JohnsonNeyman, focal: string, outcome: string, over: string, n: number, people: string): string {
  const sure = jn.regions.filter((r) => r.significant);
  const [min, max] = jn.range;
  if (sure.length === 0)
    return `At no value of ${over} between ${plain(min, 2)} and ${plain(max, 2)} is there evidence that ${focal} and ${outcome} go together.`;
  const parts = sure.map((r) => {
    const where =
      r.from === min && r.to === max
        ? `at every value of ${over} that was observed`
        : r.to === max
          ? `from a ${over} of ${plain(r.from, 2)} on`
          : r.from === min
            ? `up to a ${over} of ${plain(r.to, 2)}`
            : `between a ${over} of ${plain(r.from, 2)} and ${plain(r.to, 2)}`;
    return `${r.sign > 0 ? "more" : "less"} ${outcome} ${where} (${Math.round(r.percent)} % of the ${n} ${people})`;
  });
  const rest =
    jn.percentSignificant < 99.95 && sure.length < jn.regions.length ? " Elsewhere the interval of the slope contains zero." : "";
  return `With more ${focal} comes ${parts.join(", and ")}.${rest}`;
}
