import { useEffect, useState } from "react";
import type { Evidence, ModerationEvidence } from "../../../core";
import { useStudy } from "../../analysis/use-study";
import { withData } from "../data/use-summaries";

/** The people behind a moderated slope: values of the equation's columns and of the outcome. */
export interface Points {
  y: Float64Array;
  columns: Record<string, Float64Array>;
}

export function usePoints(
  moderation: ModerationEvidence | null,
  evidence: Evidence,
): Points | null {
  const context = useStudy();
  const [points, setPoints] = useState<{ of: string; found: Points | null } | null>(null);
  const keys = moderation
    ? [moderation.focal, ...moderation.moderators.flatMap((m) => m.columns)]
    : [];
  const of = JSON.stringify([moderation?.id, evidence.sample, keys]);
  useEffect(() => {
    if (!moderation) return;
    let current = true;
    void (async () => {
      const found = await (
        await withData(context)
      ).points(context.definition, moderation.outcome, keys);
      if (current) setPoints({ of, found });
    })();
    return () => {
      current = false;
    };
    // The text names everything that the points depend on.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [of]);
  return points?.of === of ? points.found : null;
}
