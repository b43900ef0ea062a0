import Button from "@mui/material/Button";
import Box from "@mui/material/Box";
import { useEffect, useState } from "react";
import type { SettingMend, StudyDefinition } from "../../../core";
import { useAnalysis } from "../../analysis/use-analysis";
import type { AnalysisState } from "../../analysis/analysis";
import type { StudyContext } from "../../analysis/use-study";
import { withData } from "../data/use-summaries";

const problemOf = ({ problem }: AnalysisState) => problem;

/** Settings that a refusal comes from, each with a button that sets it otherwise. */
export function SettingMends({ context }: { context: StudyContext }) {
  const { definition, analysis, edit } = context;
  const problem = useAnalysis(analysis, problemOf);
  const [found, setFound] = useState<{ of: StudyDefinition; mends: SettingMend[] } | null>(null);
  const refused = problem?.condition !== undefined && problem.code !== "nothing_to_estimate";
  useEffect(() => {
    if (!refused) return;
    let current = true;
    void (async () => {
      const mends = await (await withData(context)).mends(definition);
      if (current) setFound({ of: definition, mends });
    })().catch(() => undefined);
    return () => {
      current = false;
    };
    // A refusal is of the definition and its problem.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [refused, problem, definition]);
  if (!refused || found?.of !== definition || found.mends.length === 0) return null;
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 0.75 }}>
      {found.mends.map(({ words, settings }) => (
        <Button key={words} size="small" onClick={() => edit({ settings }, "settings mended")}>
          {words}
        </Button>
      ))}
    </Box>
  );
}
