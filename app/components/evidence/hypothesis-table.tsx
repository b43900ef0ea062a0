import Typography from "@mui/material/Typography";
import {
  cautionsTold,
  claimWorking,
  codingWords,
  dfWords,
  measuresOf,
  percent,
  plain,
  pValue,
  restsOn,
  statisticOf,
  type ClaimTest,
  type Evidence,
  type HypothesisEvidence,
  VERDICT_WORDS,
} from "../../../core";
import { NumberTable, type Cell } from "../ui/number-table";
import { limitsPair } from "../structure/cells";

/** Every hypothesis in one row, as a paper prints it. */
export function HypothesisTable({ evidence }: { evidence: Evidence }) {
  const { hypotheses, settings } = evidence;
  if (hypotheses.length === 0) return null;
  const level = `${percent(settings.level)} %`;
  // A bootstrap p has no t or z of its own: the column stands where some hypothesis has one.
  const drop = new Set([
    ...(hypotheses.some(({ claim }) => claim !== null && hasStatistic(claim)) ? [] : [STATISTIC]),
    ...(hypotheses.some(({ adjusted }) => adjusted) ? [] : [ADJUSTED]),
  ]);
  const kept = <T,>(list: readonly T[]): T[] => list.filter((_, j) => !drop.has(j));
  return (
    <section aria-label="Hypothesis table">
      <NumberTable
        title="Hypotheses and decisions"
        heading={<Typography variant="h2">Hypotheses and decisions</Typography>}
        columns={kept([
          "",
          "hypothesis",
          "estimate",
          "SE",
          "t or z",
          `${level} CI`,
          "p",
          "p (Holm)",
          "decision",
        ])}
        names={kept([
          "No.",
          "Hypothesis",
          "Estimate",
          "SE",
          "t or z",
          `${level} CI`,
          "p",
          "p (Holm)",
          "Decision",
        ])}
        words={[1, DECISION - drop.size]}
        rows={hypotheses.map((h) => ({
          key: h.label,
          cells: kept(cellsOf(h)),
          working: () => claimWorking(h, evidence),
        }))}
        note={[
          measuresOf(hypotheses),
          restsOn(hypotheses, evidence.errors),
          codingWords(evidence),
          ...cautionsTold(hypotheses),
        ]
          .filter(Boolean)
          .join(" ")}
      />
    </section>
  );
}

/** Where these stand among the columns. */
const STATISTIC = 4;
const ADJUSTED = 7;
const DECISION = 8;

const hasStatistic = (claim: ClaimTest): boolean =>
  claim.joint !== null || statisticOf(claim) !== null;

function cellsOf({ label, sentence, claim, adjusted, verdict }: HypothesisEvidence): Cell[] {
  const decision = VERDICT_WORDS[verdict];
  const holm: Cell = adjusted && {
    shown: pValue(adjusted.p, adjusted.isBound),
    value: adjusted.p,
  };
  if (!claim) return [label, wrapped(sentence), null, null, null, null, null, holm, decision];
  const p: Cell = { shown: pValue(claim.p, claim.pIsBound), value: claim.p };
  if (claim.joint) {
    const { reference, statistic, df1, df2, p: joint } = claim.joint;
    const test =
      reference === "F" ? `F(${df1}, ${dfWords(df2)})` : reference === "chi2" ? `χ²(${df1})` : "T";
    const shown = `${test} = ${plain(statistic, 2)}`;
    const pOf: Cell = { shown: pValue(joint), value: joint };
    return [label, wrapped(sentence), null, null, shown, null, pOf, holm, decision];
  }
  const statistic = statisticOf(claim);
  return [
    label,
    wrapped(sentence),
    claim.estimate,
    claim.se,
    { shown: plain(statistic, 2), value: statistic },
    limitsPair(claim.lower, claim.upper),
    p,
    holm,
    decision,
  ];
}

const wrapped = (sentence: string): Cell => ({
  shown: <span style={{ whiteSpace: "normal" }}>{sentence}</span>,
  value: sentence,
});
