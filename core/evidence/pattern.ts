import { directOf, pathEffect, totalId, type Claimed } from "../effects";
import type { Prepared } from "../preparation";
import type { Hypothesis } from "../theory";
import { jointTest } from "./claim-test";
import type { BootstrapAll, EffectList } from "./effects";
import { heldReason } from "./held";
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
  { test, verdict, adjusted }: Decided,
): Pattern | null {
  if (hypothesis.chains.length === 0 || !test) return null;
  if (verdict === "pending" || verdict === "not_testable") return null;
  if (verdict === "unsettled")
    return {
      kind: "open",
      words:
        "Which kind of mediation this is stays open until the verdict is settled; more bootstrap samples are needed.",
    };
  const alpha = 1 - test.level;
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
  if (sparse(boot))
    return {
      kind: "open",
      words:
        "Which kind of mediation this is cannot be told: with so few cases, or clusters, some bootstrap samples could not even be fitted.",
    };
  const found = test.joint ? test.joint.p < alpha : (excludes(test, test.nullValue) ?? false);
  const corrected = found && adjusted !== null && adjusted.p >= alpha;
  const indirectClear = found && !corrected;
  const signs =
    test.joint || test.estimate === null || direct.estimate === null
      ? 0
      : test.estimate * direct.estimate;
  const kind = patternKind(indirectClear, direct.clear, signs);
  return {
    kind,
    words: corrected ? CORRECTED_WORDS[direct.clear ? "direct" : "neither"] : PATTERN_WORDS[kind],
  };
}

/** What was decided of the claim itself, after any correction for the number of claims. */
interface Decided {
  test: ClaimTest | null;
  verdict: Verdict;
  adjusted: { p: number } | null;
}

/** Least squares fail in a resample only where it has hardly more different rows than coefficients. */
const sparse = (boot: BootstrapAll | null): boolean =>
  boot !== null && boot.run.improper === null && boot.run.failed > 0.01 * boot.run.done;

/** Where the interval alone would have counted, and the correction for the number of claims has it not. */
const CORRECTED_WORDS = {
  direct:
    "A direct effect; the indirect one does not stand once corrected for the number of hypotheses (Holm): no mediation shown.",
  neither:
    "Neither is shown: the interval of the direct effect contains zero, and the indirect effect does not stand once corrected for the number of hypotheses (Holm).",
};

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
  const zeroIn = (id: string): boolean | null => {
    const source = list.sources.get(id);
    return source ? excludes(readInterval(source, prepared.study.settings, 0), 0) === false : null;
  };
  const sum = zeroIn(claimed.quantities[0]!.id);
  const end = !sum
    ? ": there is mediation along each, and their sum tells of neither."
    : (zeroIn(totalId(pair.from, pair.to)) ?? true)
      ? ", cancel in the total, whose interval contains zero: there is mediation along each, whatever their sum."
      : ", leave a sum whose interval contains zero: there is mediation along each.";
  return {
    kind: "opposing_routes",
    words: `Routes of opposite sign, each clear by itself (${named})${end}`,
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
  // What is held at a number is no finding to set beside another.
  if (!direct || direct.quantities.some((q) => heldReason(prepared, q) !== null)) return null;
  if (direct.quantities.length > 1) {
    const joint = jointTest(prepared, boot, direct.quantities);
    const alpha = 1 - study.settings.level;
    return (
      joint && {
        estimate: null,
        clear: joint.p < alpha,
        open: isOpen(joint.p, joint.mcse, alpha),
      }
    );
  }
  const source = list.sources.get(direct.quantities[0]!.id)!;
  const shown = readInterval(source, study.settings, 0);
  return {
    estimate: source.estimate,
    clear: excludes(shown, 0) ?? false,
    open: isOpen(shown.lower, shown.mcseLower, 0) || isOpen(shown.upper, shown.mcseUpper, 0),
  };
}
