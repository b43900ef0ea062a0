import type { StructureSection } from "../../estimators";
import { percent } from "../../wording/numbers";
import { limits, number, row, table, word, type ReportContext } from "../context";
import type { Block } from "../document";

/** Answers that were taken as ordered: levels, thresholds, reliabilities, predicted shares. */
export function orderedTables(
  { ordered, method }: StructureSection,
  { cell, write }: ReportContext,
): Block[] {
  if (!ordered) return [];
  const several = (values: readonly number[], digits: number): string =>
    values.map((value) => write.number(value, digits)).join(" | ");
  return [
    table(
      "ordered answers",
      "Ordered answers: shares and thresholds",
      [
        word("Variable"),
        number("Levels"),
        number("n"),
        word("Answers, %"),
        word("Thresholds"),
        word("SE"),
      ],
      ordered.variables.map((v) =>
        row(
          cell.words(v.variable),
          cell.count(v.levels.length),
          cell.count(v.n),
          cell.words(
            several(
              v.counts.map((count) => (100 * count) / v.n),
              1,
            ),
          ),
          cell.words(
            several(
              v.thresholds.map((t) => t.estimate),
              2,
            ),
          ),
          cell.words(
            several(
              v.thresholds.map((t) => t.se),
              2,
            ),
          ),
        ),
      ),
      [
        `Thresholds cut a normal tendency (mean 0, SD 1) into the levels that are seen. Smallest eigenvalue of the correlations behind the answers: ${write.number(ordered.smallestEigenvalue, 3)}.`,
      ],
    ),
    ...(ordered.reliability.length > 0
      ? [
          table(
            "ordered reliability",
            "Reliability of ordered answers",
            [word("Latent variable"), number("ω of the answers"), number("ω of the tendencies")],
            ordered.reliability.map((r) =>
              row(
                cell.words(r.factor),
                cell.bounded(r.omegaAnswers),
                cell.bounded(r.omegaTendency),
              ),
            ),
            [
              "ω of the answers: of their sum (Green & Yang 2009); of the tendencies: as if they were seen.",
            ],
          ),
        ]
      : []),
    ...ordered.predicted.map(({ outcome, predictor, levels, at }) =>
      table(
        `predicted ${outcome} ${predictor}`,
        `Predicted answers to ${outcome} by ${predictor}, %`,
        [
          word(`SDs of ${predictor} from its mean`),
          ...levels.map((level) => number(`at ${write.number(level, 0)}`)),
          limits(`${percent(method.level)} % CI of the highest`),
        ],
        at.map(({ sds, shares, topLower, topUpper }) =>
          row(
            cell.words(write.number(sds, 0)),
            ...shares.map((share) => cell.number(100 * share, 1)),
            topLower === null || topUpper === null
              ? cell.limits(null, null)
              : cell.limits(100 * topLower, 100 * topUpper, 1),
          ),
        ),
        [`By the total effect of ${predictor}, the tendency normal about it.`],
      ),
    ),
  ];
}
