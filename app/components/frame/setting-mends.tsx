import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { AnalysisState } from "../../analysis/analysis";
import { useAnalysis } from "../../analysis/use-analysis";
import { useSettingMends } from "../../analysis/use-data-evidence";
import type { StudyContext } from "../../analysis/use-study";

/** The study, not the program, is refused, and says more than that nothing is claimed yet. */
const isRefused = ({ problem }: AnalysisState): boolean =>
  problem?.condition !== undefined && problem.code !== "nothing_to_estimate";

/** Settings that a refusal comes from, each with a button that sets it otherwise. */
export function SettingMends({ context }: { context: StudyContext }) {
  const mends = useSettingMends(context, useAnalysis(context.analysis, isRefused));
  if (mends.length === 0) return null;
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 0.75 }}>
      {mends.map(({ words, settings }) => (
        <Button
          key={words}
          size="small"
          onClick={() => context.edit({ settings }, "settings mended")}
        >
          {words}
        </Button>
      ))}
    </Box>
  );
}
