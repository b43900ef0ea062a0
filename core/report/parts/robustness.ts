import { cautionsTold, VERDICT_WORDS } from "../../evidence";
import type { Specification } from "../../robustness";
import type { Text } from "../document";
import { heading, number, paragraph, row, sentence, table, word, type Part } from "../context";

/** The verdicts with one thing changed at a time. */
export const robustness: Part = ({ robustness: tried, cell, evidence }) => {
  if (!tried || tried.length < 2) return [];
  const labels = evidence.hypotheses.map((h) => h.label);
  const differing = labels.filter((label) =>
    tried.some((s) => s.claims.some((c) => c.label === label && c.differs)),
  );
  return [
    heading("Robustness"),
    paragraph(
      differing.length === 0
        ? `None of the verdicts changed in ${tried.length - 1} other ways of analysing the data.`
        : `In ${tried.length - 1} other ways of analysing the data, the verdict changed at least once for ${differing.join(", ")}.`,
    ),
    table(
      "robustness",
      "Verdicts with one thing changed at a time",
      [
        word("Analysis"),
        number("n"),
        ...labels.flatMap((l) => [word(`${l}: verdict`), number(`${l}: estimate`)]),
      ],
      tried.map((s) =>
        row(
          cell.words(s.problem === null ? s.name : `${s.name}: ${s.problem}`),
          cell.count(s.n),
          ...labels.flatMap((label) => {
            const claim = s.claims.find((c) => c.label === label);
            return [
              cell.words(claim ? VERDICT_WORDS[claim.verdict] : null),
              cell.number(claim?.estimate),
            ];
          }),
        ),
      ),
      notesOn(tried),
    ),
  ];
};

/** What is to be said of a verdict in one way of analysing, and not in the main analysis. */
function notesOn([main, ...others]: readonly Specification[]): Text[] {
  const known = new Set(cautionsTold(main!.claims));
  return others.flatMap(({ name, claims }) =>
    cautionsTold(claims)
      .filter((words) => !known.has(words))
      .map((words): Text => [`${sentence(name)}: ${words}`]),
  );
}
