import type { Claim } from "../effects";
import type { Prepared } from "../preparation";
import type { NameRef } from "../theory";
import { listed } from "../wording";
import { plain } from "../wording/numbers";
import { effectiveClusters } from "./cluster-leverage";

/** From here on a side of a comparison has clusters enough not to be spoken of. */
const SPOKEN_OF = 5;

/** A side of what a claim compares, and the clusters that hold it. */
interface Side {
  variable: string;
  /** How the side is called; a value, or a level. */
  level: string;
  clusters: number;
}

/** What clusters on the thinner side of its comparison mean for a claim. */
export interface ThinSide {
  /** One cluster alone on a side: it shows no spread, and nothing can be tested. */
  testable: boolean;
  /** For the reason of the verdict. */
  words: string;
}

/**
 * How many clusters hold each side of what a claim compares. A comparison rests on clusters that
 * hold each of its sides; one alone shows no spread, so that no error, interval or test exists,
 * however many people it has (MacKinnon & Webb 2018, Econometrics J 21: with one treated cluster
 * tests reject far too often).
 * Of a predictor with many values the effective number of clusters counts.
 * @returns null without clusters, and where every side has five
 */
export const thinSide = (prepared: Prepared, claim: Claim): ThinSide | null =>
  thinnest(
    prepared,
    claim.kind === "moderation" ? [claim.from, ...claim.moderators] : [claim.from],
  ) ?? fewInEffect(prepared, claim);

/** A predictor with many values, of which few clusters hold nearly all that tells of its effect. */
function fewInEffect(prepared: Prepared, claim: Claim): ThinSide | null {
  const name = prepared.study.settings.cluster;
  const firsts =
    claim.kind === "moderation"
      ? [claim.chain[0]?.name ?? claim.to.name]
      : claim.chains.length === 0
        ? [claim.to.name]
        : claim.chains.map((chain) => chain[0]?.name ?? claim.to.name);
  const counts = firsts.flatMap((to) => effectiveClusters(prepared, claim.from.name, to) ?? []);
  const least = Math.min(...counts);
  if (!(least < SPOKEN_OF)) return null;
  const share = `What tells of the effect of ${claim.from.name} lies in ${plain(least, 1)} clusters of “${name}” in effect`;
  return least < 2
    ? {
        testable: false,
        words: `${share}, nearly all of it in one, and one cluster shows no spread: there is no error, interval or test of it.`,
      }
    : {
        testable: true,
        words: `${share}: the test leans on its small-sample correction (CR2, Satterthwaite), and a few other clusters could turn it.`,
      };
}

/** A variable, and the two levels of it that are compared where they are named. */
type Compared = Pick<NameRef, "name" | "compared">;

/** The same for variables whose effects stand in a table. */
export function thinnest(
  { resampling, sample, typed, study }: Prepared,
  compared: readonly Compared[],
): ThinSide | null {
  const { scheme } = resampling;
  const name = study.settings.cluster;
  if (scheme.kind !== "clusters" || name === null) return null;
  const sides = compared.flatMap((ref) => sidesOf(ref));
  const least = Math.min(...sides.map((side) => side.clusters));
  if (!(least < SPOKEN_OF)) return null;
  const thin = sides.filter((side) => side.clusters === least);
  const called = listed(thin.map(({ variable, level }) => `${variable} “${level}”`));
  const held =
    thin.length === 1 ? `of “${name}” holds ${called}` : `of “${name}” each holds ${called}`;
  return least <= 1
    ? {
        testable: false,
        words: `A single cluster ${held}, and one cluster shows no spread: whatever else sets it apart cannot be told from this effect, so there is no error, interval or test of it.`,
      }
    : {
        testable: true,
        words: `Only ${least} clusters of “${name}” ${thin.length === 1 ? "" : "each "}hold ${called}: the test leans on its small-sample correction (CR2, Satterthwaite), and a few other clusters could turn it.`,
      };

  /** The sides of a variable: two named levels, each level of a category, two values of a number. */
  function sidesOf({ name: variable, compared: pair }: Compared): Side[] {
    const column = typed.get(variable);
    if (!column || scheme.kind !== "clusters") return [];
    const holders = new Map<number, Set<number>>();
    scheme.members.forEach((rows, g) => {
      for (const row of rows) {
        const value = column.values[sample.rows[row]!]!;
        holders.set(value, (holders.get(value) ?? new Set()).add(g));
      }
    });
    const { levels } = column;
    if (!levels && holders.size > 2) return [];
    return [...holders].flatMap(([value, clusters]): Side[] => {
      const level = levels ? levels[value]! : String(value);
      if (pair && level !== pair.upper && level !== pair.lower) return [];
      return [{ variable, level, clusters: clusters.size }];
    });
  }
}
