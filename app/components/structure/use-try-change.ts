import { useState } from "react";
import { keptRun, type ChangeEvidence } from "../../../core";
import { useAnalysis } from "../../analysis/use-analysis";
import { useTell } from "../../analysis/use-tell";
import type { StudyContext } from "../../analysis/use-study";
import { withItem, withoutItem, rewriteMeasure, removeMeasure } from "../measures/edit-measures";
import { appendLine, freedInTheory } from "../theory/edit-text";

/**
 * Tries the theory with something changed after the fact: the run as it stands is kept, so that
 * both can be put side by side.
 */
export function useTryChange(context: StudyContext) {
  const { definition, dataset, edit } = context;
  const { evidence } = useAnalysis(context.analysis);
  const tell = useTell(context, "runs", "/compare");
  const [tried, setTried] = useState<string | null>(null);
  const attempt = (theory: string, what: string, why: string): void => {
    if (evidence)
      void tell({
        intent: "keep",
        name: `before: ${what}`,
        run: keptRun(evidence, definition),
        evidence,
      });
    edit({ theory }, `change after the fact: ${what}`, why);
    setTried(what);
  };
  const measureOf = (name: string) => dataset.measures.find((m) => m.name.name === name);
  return {
    tried,
    apply: ({ change, words, arrow }: ChangeEvidence): void => {
      if (!change) return;
      if ("line" in change) {
        attempt(appendLine(definition.theory, change.line), change.line, `score test: ${words}`);
        return;
      }
      if ("free" in change) {
        const theory = freedInTheory(definition, change.free);
        if (theory !== null)
          attempt(theory, `${arrow} of its own in each group`, `score test: ${words}`);
        return;
      }
      const measure = measureOf(change.measure);
      if (!measure) return;
      const theory = rewriteMeasure(definition.theory, withItem(measure, change.item));
      attempt(
        theory,
        `${change.item} also measures ${change.measure} (${arrow})`,
        `score test: ${words}`,
      );
    },
    leaveOut: (name: string, item: string): void => {
      const measure = measureOf(name);
      if (!measure) return;
      const theory =
        measure.items.length > 1
          ? rewriteMeasure(definition.theory, withoutItem(measure, item))
          : removeMeasure(definition.theory, measure);
      attempt(theory, `${item} out of ${name}`, "measurement");
    },
  };
}
