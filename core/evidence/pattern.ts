import { directOf, pathEffect, type Claimed } from "../effects";
import type { Prepared } from "../prepare";
import type { Hypothesis } from "../theory";
import { jointTest } from "./claim-test";
import type { BootstrapAll, EffectList } from "./effects";
import { excludes, isOpen, readInterval } from "./reading";
import type {
  ClaimTest,
  HypothesisEvidence,
  MediationPattern,
  ShownInterval,
  Verdict,
} from "./types";
import { plain } from "../wording/numbers";

type Pattern = NonNullable<HypothesisEvidence["pattern"]>;

/**
 * Direct and indirect effect together, in the classical words and in newer ones (Zhao, Lynch & Chen
 * 2010). The indirect effect counts by the claim's own decision, the direct one by its two-sided
 * interval. With several routes the specific effects decide the words, since effects of opposite
 * sign cancel in their sum.
 * @returns null where the sentence claims no mediation, or leaves no direct path to compare with
 */
export function mediationPattern(
  prepared: Prepared,
  list: EffectList,
  boot: BootstrapAll | null,
  hypothesis: Hypothesis,
  claimed: Claimed,
  test: ClaimTest | null,
  verdict: Verdict,
): Pattern | null {
  if (hypothesis.chains.length === 0 || !test || verdict === "pending") return null;
  if (verdict === "unsettled")
    return {
      kind: "open",
      words:
        "Which kind of mediation this is stays open until the interval is settled; more bootstrap samples are needed.",
    };
  const opposing = opposingRoutes(prepared, list, hypothesis, claimed);
  if (opposing) return opposing;
  const direct = directEffect(prepared, list, boot, hypothesis);
  if (!direct) return null;
  if (direct.open)
    return {
      kind: "open",
      words:
        "Which kind of mediation this is stays open: the limit of the direct effect is not settled yet; more bootstrap samples are needed.",
    };
  const indirectClear = test.joint
    ? test.joint.p < 1 - test.level
    : (excludes(test, test.nullValue) ?? false);
  const signs =
    test.joint || test.estimate === null || direct.estimate === null
      ? 0
      : test.estimate * direct.estimate;
  const kind = patternKind(indirectClear, direct.clear, signs);
  return { kind, words: PATTERN_WORDS[kind] };
}

function patternKind(indirect: boolean, direct: boolean, signs: number): MediationPattern {
  if (indirect && direct) return signs > 0 ? "complementary" : signs < 0 ? "competitive" : "both";
  if (indirect) return "indirect_only";
  return direct ? "direct_only" : "no_effect";
}

const PATTERN_WORDS: Record<MediationPattern, string> = {
  complementary: "Indirect and direct effect, same sign: partial (complementary) mediation.",
  competitive:
    "Indirect and direct effect of opposite signs, both clear: competitive (inconsistent) mediation, a form of suppression, not an error.",
  both: "Both an indirect and a direct effect: partial mediation; their signs depend on which groups are compared.",
  indirect_only:
    "An indirect effect, while the interval of the direct one contains zero: indirect-only, classically called full mediation.",
  direct_only:
    "A direct effect, while the interval of the indirect one contains zero: no mediation shown.",
  no_effect: "The intervals of the indirect and of the direct effect both contain zero.",
  opposing_routes: "",
  open: "",
};

interface Route {
  words: string;
  estimate: number;
  shown: ShownInterval;
}

/** Two named routes whose own intervals exclude zero on opposite sides. */
function opposingRoutes(
  prepared: Prepared,
  list: EffectList,
  hypothesis: Hypothesis,
  claimed: Claimed,
): Pattern | null {
  if (hypothesis.chains.length < 2 || claimed.quantities.length !== 1) return null;
  const pair = prepared.context.pairs.find(
    (p) => p.fromVariable === hypothesis.from.name && p.to === hypothesis.to.name,
  );
  if (!pair || hypothesis.from.compared) return null;
  const routes = hypothesis.chains.flatMap((chain): Route[] => {
    const names = chain.map((r) => r.name);
    const source = list.sources.get(
      pathEffect(prepared.context, pair, [hypothesis.from.name, ...names, hypothesis.to.name]).id,
    );
    if (!source || source.estimate === null) return [];
    return [
      {
        words: names.join(", then "),
        estimate: source.estimate,
        shown: readInterval(source, prepared.study.settings, 0),
      },
    ];
  });
  const clear = routes.filter((r) => excludes(r.shown, 0));
  const [up, down] = [clear.filter((r) => r.estimate > 0), clear.filter((r) => r.estimate < 0)];
  if (up.length === 0 || down.length === 0) return null;
  const named = [...up, ...down].map((r) => `through ${r.words} ${plain(r.estimate)}`).join(", ");
  return {
    kind: "opposing_routes",
    words: `Routes of opposite sign, each clear by itself (${named}), cancel in the total: there is mediation along each, whatever their sum.`,
  };
}

interface Direct {
  estimate: number | null;
  clear: boolean;
  open: boolean;
}

/**
 * The direct effect of the same predictor, or of the same comparison of its levels; null where the
 * theory has none.
 */
function directEffect(
  prepared: Prepared,
  list: EffectList,
  boot: BootstrapAll | null,
  hypothesis: Hypothesis,
): Direct | null {
  const { context, study } = prepared;
  const direct = directOf(context, hypothesis);
  if (!direct) return null;
  if (direct.quantities.length > 1) {
    const joint = jointTest(prepared, boot, direct.quantities);
    return joint && { estimate: null, clear: joint.p < 1 - study.settings.level, open: false };
  }
  const source = list.sources.get(direct.quantities[0]!.id)!;
  const shown = readInterval(source, study.settings, 0);
  return {
    estimate: source.estimate,
    clear: excludes(shown, 0) ?? false,
    open: isOpen(shown.lower, shown.mcseLower, 0) || isOpen(shown.upper, shown.mcseUpper, 0),
  };
}
