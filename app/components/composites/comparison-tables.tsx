import Typography from "@mui/material/Typography";
import { useId } from "react";
import {
  measuredAlikeWorking,
  permutationWorking,
  thousands,
  type GroupComparisonEvidence,
} from "../../../core";
import { limitsCell, pCell } from "../structure/cells";
import { Words } from "../structure/structure-view";
import { NumberTable } from "../ui/number-table";

const STEP_WORDS = {
  none: "not measured alike",
  partial: "measured alike",
  full: "measured alike, means and variances equal",
};

/** Two groups: measured alike? and do their paths differ? */
export function ComparisonTables({ comparison }: { comparison: GroupComparisonEvidence }) {
  const id = useId();
  const { first, second, constructs, paths, words, permutations, failed } = comparison;
  return (
    <section aria-labelledby={id} style={{ display: "grid", gap: 10, minWidth: 0 }}>
      <Typography variant="h2" id={id}>
        {first} and {second}
      </Typography>
      <Words words={words} />
      <NumberTable
        title={`Measurement in ${first} and ${second}`}
        heading={<Typography variant="h3">Measurement</Typography>}
        columns={[
          "construct",
          "same scores (correlation)",
          "5 % limit",
          "p",
          "difference of means",
          "by chance",
          "p",
          "log ratio of variances",
          "by chance",
          "p",
          "",
        ]}
        names={[
          "construct",
          "correlation of scores",
          "5 % limit",
          "p of the correlation",
          "difference of means",
          "limits of it",
          "p of it",
          "log ratio of variances",
          "limits of the ratio",
          "p of the ratio",
          "conclusion",
        ]}
        words={[10]}
        rows={constructs.map((found) => {
          const { construct, compositional: c, means, variances, step } = found;
          return {
            key: construct,
            working: () => measuredAlikeWorking(comparison, found),
            marked: step === "none",
            cells: [
              construct,
              c.estimate,
              c.limit,
              pCell(c.p),
              means.estimate,
              limitsCell(means.lower, means.upper, 2),
              pCell(means.p),
              variances.estimate,
              limitsCell(variances.lower, variances.upper, 2),
              pCell(variances.p),
              STEP_WORDS[step],
            ],
          };
        })}
        note={`First: same items, coding and weighting in both groups, as the notation has it. Second: weights of either group make the same scores, or else constructs are not the same thing. Third: equal means and variances, needed only where people are pooled (Henseler, Ringle & Sarstedt 2016). ${thousands(permutations - failed)} permutations of people between the groups${failed > 0 ? `, ${failed} failed` : ""}.`}
      />
      <NumberTable
        title={`Paths in ${first} and ${second}`}
        heading={<Typography variant="h3">Paths</Typography>}
        columns={["outcome", "explained by", first, second, "difference", "by chance", "p"]}
        words={[1]}
        rows={paths.map((p) => ({
          key: `${p.from} ${p.to}`,
          working: () => permutationWorking(comparison, p),
          cells: [
            p.to,
            p.from,
            p.first,
            p.second,
            p.estimate,
            limitsCell(p.lower, p.upper),
            pCell(p.p),
          ],
        }))}
        note="p by permutation (Chin & Dibbern 2010). Where a construct is not measured alike, a difference may come from measurement."
      />
    </section>
  );
}
