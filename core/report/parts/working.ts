import { alphaWorking, effectWorking, fitWorking, type Working } from "../../working";
import { heading, row, table, word, type Part, type ReportContext } from "../context";
import type { Block } from "../document";

/** Every hypothesised effect, the fit and the reliabilities with formula, numbers and source. */
export const working: Part = (context) => {
  const { evidence, data } = context;
  const claimed = new Set(evidence.hypotheses.flatMap((h) => [...h.effects, ...h.components]));
  const found: Working[] = [
    ...(data?.measures ?? []).flatMap((m) => alphaWorking(m) ?? []),
    ...evidence.sections.flatMap((s) => (s.kind === "structure" ? (fitWorking(s) ?? []) : [])),
    ...evidence.effects.filter((e) => claimed.has(e.id)).map((e) => effectWorking(e, evidence)),
  ];
  return found.length === 0
    ? []
    : [
        heading("Appendix: where the numbers come from"),
        ...found.map((w, i) => workingTable(w, i, context)),
      ];
};

const workingTable = (w: Working, i: number, { cell }: ReportContext): Block =>
  table(
    `working ${i}`,
    w.title,
    [word("What"), word("Formula"), word("Numbers"), word("Source")],
    w.steps.map((s) =>
      row(cell.words(s.what), cell.words(s.formula), cell.words(s.numbers), cell.words(s.source)),
    ),
    [`Rows: ${w.rows}`],
  );
