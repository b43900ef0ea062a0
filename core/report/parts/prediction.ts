import { listed } from "../../wording";
import { studiesOf, type PredictionEvidence } from "../../estimators";
import {
  heading,
  number,
  paragraphs,
  row,
  table,
  word,
  type Part,
  type ReportContext,
} from "../context";
import type { Block } from "../document";

/** How well the model predicts cases that it has not seen. */
export const prediction: Part = (context) => {
  const blocks = context.evidence.sections.flatMap((s): Block[] =>
    s.kind === "composites"
      ? studiesOf(s).flatMap(({ group, prediction: found }) =>
          found ? predicted(found, group, context) : [],
        )
      : [],
  );
  return blocks.length === 0 ? [] : [heading("Prediction of new cases"), ...blocks];
};

/** @param group where there are several, its name; else empty */
function predicted(
  { items, words, folds, repetitions }: PredictionEvidence,
  group: string,
  { cell }: ReportContext,
): Block[] {
  const worthless = items.filter((i) => i.q2 <= 0).map((i) => i.item);
  const lead = group === "" ? "" : `${group}: `;
  return [
    ...paragraphs([`${lead}${words.join(" ")}`]),
    table(
      `prediction ${group}`,
      `Prediction of new cases${group === "" ? "" : `, ${group}`}`,
      [
        word("Item"),
        word("Construct"),
        number("Q²"),
        number("RMSE"),
        number("RMSE of the benchmark"),
        number("MAE"),
        number("MAE of the benchmark"),
      ],
      items.map(({ item, construct, q2, rmse, mae, benchmark }) =>
        row(
          cell.words(item),
          cell.words(construct),
          cell.bounded(q2, 3),
          cell.number(rmse),
          cell.number(benchmark.rmse),
          cell.number(mae),
          cell.number(benchmark.mae),
        ),
      ),
      [
        `${folds} folds${repetitions > 1 ? `, averaged over ${repetitions} divisions` : ""}; benchmark: a regression of the item on all items of constructs that nothing explains.`,
        worthless.length > 0
          ? `Q² of zero or less, so no better than the item's mean: ${listed(worthless)}.`
          : "",
      ].filter((note) => note !== ""),
    ),
  ];
}
