import {
  studiesOf,
  type CompositeSection,
  type ExactFitEvidence,
  type StructureSection,
} from "../../estimators";
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
import type { Block, Row } from "../document";

/** How well the model reproduces the data, where it can misfit. */
export const fit: Part = (context) => {
  const blocks = context.evidence.sections.flatMap((s): Block[] =>
    s.kind === "structure"
      ? structureFit(s, context)
      : s.kind === "composites"
        ? compositeFit(s, context)
        : [],
  );
  return blocks.length === 0 ? [] : [heading("Fit of the model"), ...blocks];
};

function structureFit(section: StructureSection, context: ReportContext): Block[] {
  const { cell, write } = context;
  const { fit: found, information, fitWords } = section;
  if (!found) return paragraphs(fitWords);
  const columns = [
    { name: "Unscaled", of: found.plain, plainly: true },
    ...(found.satorraBentler
      ? [{ name: "Scaled (Satorra-Bentler)", of: found.satorraBentler, plainly: false }]
      : []),
    ...(found.yuanBentler
      ? [{ name: "Scaled (Yuan-Bentler)", of: found.yuanBentler, plainly: false }]
      : []),
    ...(found.shifted ? [{ name: "Scaled and shifted", of: found.shifted, plainly: false }] : []),
    ...(found.scaled
      ? [
          {
            name: found.shifted ? "Mean-adjusted" : "Scaled",
            of: found.scaled,
            plainly: false,
          },
        ]
      : []),
  ];
  // An unscaled statistic that follows no chi-squared distribution has no p, and no index made of
  // it.
  const rows = columns.map(({ name, of: f, plainly }): Row => {
    const known = !plainly || found.chiSquared;
    return row(
      cell.words(name),
      cell.number(f.chi2, 2),
      cell.count(f.df),
      cell.p(known ? f.p : null),
      cell.bounded(known ? f.cfi : null, 3),
      cell.bounded(known ? f.tli : null, 3),
      cell.bounded(known ? f.rmsea : null, 3),
      known ? cell.limits(f.rmseaLimits[0], f.rmseaLimits[1], 3) : cell.limits(null, null),
    );
  });
  const criteria = information
    ? `; AIC ${write.number(information.aic, 1)}, BIC ${write.number(information.bic, 1)}`
    : "";
  return [
    ...paragraphs(fitWords),
    table(
      "fit",
      "Fit of the model",
      [
        word("Statistic"),
        number("χ²"),
        number("df"),
        number("p"),
        number("CFI"),
        number("TLI"),
        number("RMSEA"),
        { head: "90 % CI", kind: "limits" },
      ],
      rows,
      [`SRMR = ${write.bounded(found.srmr, 3)}${criteria}.`],
    ),
    ...constraints(section, context),
  ];
}

/** What each line that holds arrows costs. */
function constraints({ constraints: tests }: StructureSection, { cell }: ReportContext): Block[] {
  if (tests.length === 0) return [];
  return [
    table(
      "constraints",
      "What is held, tested",
      [
        word("Line"),
        number("Δχ²"),
        number("Δdf"),
        number("p"),
        number("Scaled Δχ²"),
        number("p of scaled"),
      ],
      tests.map((d) =>
        row(
          cell.words(d.what),
          cell.number(d.chi2, 2),
          cell.count(d.df),
          cell.p(d.p),
          cell.number(d.scaled?.chi2, 2),
          cell.p(d.scaled?.p),
        ),
      ),
      ["Each line is tested by the model without it, all other lines kept."],
    ),
  ];
}

function compositeFit(section: CompositeSection, context: ReportContext): Block[] {
  const { cell } = context;
  const rows = section.groups.flatMap(({ group, result }): Row[] => {
    const found = (result.consistent ?? result).fit ?? result.fit;
    if (!found) return [];
    const of = section.groups.length > 1 ? `, ${group}` : "";
    return (["saturated", "estimated"] as const).flatMap((model) => {
      const d = found[model];
      return d
        ? [
            row(
              cell.words(`${model === "saturated" ? "Saturated model" : "Estimated model"}${of}`),
              cell.bounded(d.srmr, 3),
              cell.number(d.dUls, 3),
              cell.number(d.dG, 3),
            ),
          ]
        : [];
    });
  });
  const exact = studiesOf(section).flatMap(({ group, exactFit }) =>
    exactFit ? [exactFitTable(exactFit, group, context)] : [],
  );
  return [
    ...paragraphs(section.fitWords),
    ...(rows.length > 0
      ? [
          table(
            "fit",
            "Fit of the model",
            [word("Model"), number("SRMR"), number("d_ULS"), number("d_G")],
            rows,
          ),
        ]
      : []),
    ...exact,
  ];
}

const DISCREPANCIES = { srmr: "SRMR", dUls: "d_ULS", dG: "d_G" };

/** How large misfit would be by chance; @param group where there are several, its name */
function exactFitTable(
  { measures, replicates, failed }: ExactFitEvidence,
  group: string,
  { cell, write }: ReportContext,
): Block {
  return table(
    `exact-fit ${group}`,
    `Exact fit${group === "" ? "" : `, ${group}`}`,
    [
      word("Model"),
      word("Measure"),
      number("Observed"),
      number("95 % of resamples below"),
      number("99 % below"),
      number("p"),
    ],
    measures.map((m) =>
      row(
        cell.words(m.model === "saturated" ? "Saturated model" : "Estimated model"),
        cell.words(DISCREPANCIES[m.measure]),
        cell.number(m.value, 3),
        cell.number(m.upper95, 3),
        cell.number(m.upper99, 3),
        cell.p(m.p),
      ),
    ),
    [`${write.count(replicates - failed)} resamples of data that were made to fit.`],
  );
}
