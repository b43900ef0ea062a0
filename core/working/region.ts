import {
  effectAt,
  percent,
  plain,
  type Evidence,
  type JohnsonNeymanSet,
  type ModerationEvidence,
} from "../evidence";
import type { Working, WorkingStep } from "./types";

/**
 * Where the boundaries of a region come from: there the slope is just so many standard errors from
 * zero.
 * @param place values of other moderators in the columns of the model, where some are held
 */
export function regionWorking(
  moderation: ModerationEvidence,
  set: JohnsonNeymanSet,
  place: readonly (readonly [string, number])[],
  evidence: Evidence,
): Working | null {
  const found = set.tests[evidence.errors]?.pointwise;
  const column = moderation.moderators.find((m) => m.name === set.over)?.columns[0];
  if (!found || column === undefined) return null;
  const { level } = evidence.settings;
  const boundaries = found.rootsAll.map((root): WorkingStep => {
    const slope = effectAt(
      moderation.model,
      moderation.focal,
      new Map([...place, [column, root] as const]),
    );
    const inside = found.rootsInRange.includes(root);
    return {
      what: `Boundary${inside ? "" : ", beyond the data"}`,
      formula: "|slope| = t × SE(slope)",
      numbers: `at ${set.over} = ${plain(root)} the slope is ${plain(slope.estimate)} = ${slope.estimate < 0 ? "−" : ""}${plain(found.critical)} × ${plain(slope.se)}`,
      source: null,
    };
  });
  return {
    title: `Region of ${moderation.focalLabel} along ${set.over}`,
    steps: [
      {
        what: "Equation",
        formula: "(b₁ + b₃ w)² = t² (V₁₁ + 2 w V₁₃ + w² V₃₃), solved for w",
        numbers: `t = ${plain(found.critical)}, two-sided at ${percent(level)} %, one value of ${set.over} at a time`,
        source: "Johnson & Fay 1950, Psychometrika 15; Bauer & Curran 2005, Multivar Behav Res 40",
      },
      ...boundaries,
      {
        what: "Share",
        formula: "rows with a value in the regions / rows",
        numbers: `${plain(found.percentSignificant, 1)} % where the slope differs from zero`,
        source: null,
      },
    ],
    rows: `Values of ${set.over} from ${plain(found.range[0])} to ${plain(found.range[1])} in ${evidence.sample.n} ${evidence.unit || "rows"}.`,
  };
}
