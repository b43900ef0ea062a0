import {
  changeShown,
  inUnits,
  regionSentence,
  scaleWords,
  type ModerationEvidence,
} from "../../evidence";
import { heading, paragraphs, sentence, type Part, type ReportContext } from "../context";
import { conditionalIds, effectsTable } from "./effects";

/**
 * Indices first, conditional effects next, then where along a moderator slopes differ from zero.
 */
export const conditional: Part = (context) => {
  const { evidence, style } = context;
  const ids = conditionalIds(evidence);
  const own = evidence.effects.filter((e) => inUnits(e, style.units) && ids.has(e.id));
  const indices = own.filter((e) => e.kind === "index" || e.kind === "conditional_index");
  const others = own.filter((e) => !indices.includes(e));
  const slopes = evidence.moderations.filter((m) => m.path && m.slopes.length > 0);
  if (own.length === 0 && slopes.length === 0) return [];
  return [
    heading("Conditional effects"),
    ...(indices.length > 0
      ? [effectsTable("indices", "Indices of moderated mediation", indices, context)]
      : []),
    ...(others.length > 0
      ? [effectsTable("conditional", "Conditional effects", others, context)]
      : []),
    ...paragraphs([...new Set(slopes.flatMap((m) => regionsOf(m, context)))]),
  ];
};

/** Where along its moderator a slope differs from zero, in the words of the strip. */
function regionsOf(moderation: ModerationEvidence, { evidence }: ReportContext): string[] {
  return moderation.johnsonNeyman.flatMap((set) => {
    const tests = set.tests[evidence.errors];
    if (!tests) return [];
    const { outcome, model, moderators } = moderation;
    const column = moderators.find((m) => m.name === set.over)!.columns[0]!;
    const { sample, unit, errors, settings } = evidence;
    const words = regionSentence(
      tests.pointwise,
      { ...moderation, outcome: scaleWords(model.link, outcome).predictor },
      set.over,
      { n: sample.n, unit },
      {
        rule: "pointwise",
        errors,
        level: settings.level,
        shown: moderators.length === 1 ? changeShown(evidence, moderation, column) : null,
      },
    );
    return [set.words === "" ? words : `${sentence(set.words)}: ${words}`];
  });
}
