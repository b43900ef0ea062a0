import { reportSentence } from "../../evidence/report";
import {
  cautionsTold,
  codingWords,
  dfWords,
  leftOutTold,
  measuresOf,
  percent,
  restsOn,
  statisticOf,
  VERDICT_WORDS,
  type ClaimTest,
  type HypothesisEvidence,
} from "../../evidence";
import {
  heading,
  limits,
  number,
  paragraph,
  row,
  table,
  word,
  type Part,
  type ReportContext,
} from "../context";
import type { Row, TableBlock } from "../document";

/** Every hypothesis: its sentence, what was found, what was decided; then the table. */
export const hypotheses: Part = (context) => {
  const { evidence } = context;
  if (evidence.hypotheses.length === 0) return [];
  return [
    heading("Tests of the hypotheses"),
    paragraph("All hypotheses with their tests stand in ", { see: "hypotheses" }, "."),
    ...leftOutTold(evidence).map((words) => paragraph(words)),
    ...evidence.hypotheses.map((h) => paragraph(foundOf(h, context))),
    ...(evidence.several ? [paragraph(evidence.several.words)] : []),
    tableOf(context),
  ];
};

/** What a hypothesis says, whether it held, and the sentence with its numbers. */
function foundOf(h: HypothesisEvidence, { evidence, write }: ReportContext): string {
  const claimed = h.effects.flatMap((id) => evidence.effects.find((e) => e.id === id) ?? []);
  const { bootstrap, settings, errors } = evidence;
  const used = bootstrap ? bootstrap.done - bootstrap.failed : null;
  const { measure, named: name } = h;
  const { adjusted, reason } = h;
  const context = { settings, errors, used, measure, name, adjusted, reason };
  const found = reportSentence(claimed, h.claim, h.verdict, context, write);
  const pattern = h.pattern ? ` ${h.pattern.words}` : "";
  return `${h.label} (${h.sentence}) was ${DECISIONS[h.verdict]}. ${found}${pattern}`;
}

const DECISIONS: Record<HypothesisEvidence["verdict"], string> = {
  ...VERDICT_WORDS,
  opposite: "contradicted: the effect runs in the opposite direction",
  unsettled: "left unsettled",
  undirected: "not decided, since it compares no levels",
  not_testable: "not decided, since it could not be tested",
  pending: "not decided yet",
};

function tableOf(context: ReportContext): TableBlock {
  const { evidence, cell } = context;
  const level = percent(evidence.settings.level);
  const corrected = evidence.hypotheses.some((h) => h.adjusted);
  return table(
    "hypotheses",
    "Hypotheses, tests and decisions",
    [
      word("No."),
      word("Hypothesis"),
      number("Estimate"),
      number("SE"),
      word("t or z"),
      limits(`${level} % CI`),
      number("p"),
      ...(corrected ? [number("p (Holm)")] : []),
      word("Decision"),
    ],
    evidence.hypotheses.map((h): Row => {
      const test = h.claim;
      const decision = cell.words(VERDICT_WORDS[h.verdict]);
      const said = [cell.words(h.label), cell.words(h.sentence)];
      const holm = corrected ? [cell.p(h.adjusted?.p ?? null, h.adjusted?.isBound)] : [];
      if (!test || test.joint)
        return row(
          ...said,
          cell.number(null),
          cell.number(null),
          cell.words(test?.joint ? jointOf(test, context) : null),
          cell.limits(null, null),
          cell.p(test?.joint?.p ?? null),
          ...holm,
          decision,
        );
      return row(
        ...said,
        cell.number(test.estimate),
        cell.number(test.se),
        cell.number(statisticOf(test), 2),
        cell.limits(test.lower, test.upper),
        cell.p(test.p, test.pIsBound),
        ...holm,
        decision,
      );
    }),
    [
      measuresOf(evidence.hypotheses),
      restsOn(evidence.hypotheses, evidence.errors),
      codingWords(evidence),
      ...cautionsTold(evidence.hypotheses),
    ].filter((note) => note !== ""),
  );
}

function jointOf({ joint }: ClaimTest, { write }: ReportContext): string {
  const { reference, statistic, df1, df2 } = joint!;
  const name =
    reference === "F" ? `F(${df1}, ${dfWords(df2)})` : reference === "chi2" ? `χ²(${df1})` : "T";
  return `${name} = ${write.number(statistic, 2)}`;
}
