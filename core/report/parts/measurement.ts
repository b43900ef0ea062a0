import {
  hangsTogether,
  type CompositeSection,
  type MeasurementEvidence,
  type StructureSection,
} from "../../estimators";
import { listed } from "../../wording";
import { percent } from "../../wording/numbers";
import {
  heading,
  limits,
  number,
  row,
  table,
  word,
  type Part,
  type ReportContext,
} from "../context";
import type { Block, Row } from "../document";
import { orderedTables } from "./ordered";

/**
 * How well items measure: loadings or weights, reliability, convergence, what sets constructs
 * apart.
 */
export const measurement: Part = (context) => {
  const blocks = context.evidence.sections.flatMap((s): Block[] =>
    s.kind === "structure"
      ? [...s.measurement.flatMap((m) => factors(m, s, context)), ...orderedTables(s, context)]
      : s.kind === "composites"
        ? s.groups.flatMap((_, g) => composites(s, g, context))
        : [],
  );
  return blocks.length === 0 ? [] : [heading("Measurement quality"), ...blocks];
};

const groupWords = (several: boolean, group: string): string => (several ? `, ${group}` : "");

function factors(
  m: MeasurementEvidence,
  section: StructureSection,
  context: ReportContext,
): Block[] {
  if (m.factors.length === 0) return [];
  const { cell } = context;
  const of = groupWords(section.groups.length > 1, m.group);
  const names = m.factors.map((f) => f.factor);
  return [
    table(
      `loadings ${m.group}`,
      `Loadings${of}`,
      [
        word("Item"),
        word("Latent variable"),
        number("Loading"),
        number("Standardised"),
        number("R²"),
      ],
      m.items.map((i) =>
        row(
          cell.words(i.item),
          cell.words(i.factor),
          cell.number(i.loading),
          cell.bounded(i.standardised),
          cell.bounded(i.r2),
        ),
      ),
    ),
    table(
      `reliability ${m.group}`,
      `Reliability and validity of the latent variables${of}`,
      [
        word("Latent variable"),
        number("Items"),
        number("α"),
        number("ω"),
        number("CR"),
        number("AVE"),
        ...names.slice(0, -1).map((_, j) => number(String(j + 1))),
      ],
      m.factors.map((f, i): Row =>
        row(
          cell.words(`${i + 1} ${f.factor}`),
          cell.count(f.items),
          cell.bounded(f.alpha),
          cell.bounded(f.omega),
          cell.bounded(f.compositeReliability),
          cell.bounded(f.ave),
          ...names
            .slice(0, -1)
            .map((_, j) => (j < i ? cell.bounded(m.correlations[i]?.[j]) : cell.words(null))),
        ),
      ),
      [
        "α: Cronbach's alpha; ω: from the loadings; CR: composite reliability; AVE: average variance extracted. Correlations of latent variables to the right.",
        context.data?.measures.length
          ? `α here is that of the cases of the model (n = ${context.write.count(context.evidence.sample.n)}${context.evidence.sample.keepsIncomplete ? ", gaps by full information" : ""}); the α of each measure above is that of everybody who answered all its items.`
          : "",
      ].filter((note) => note !== ""),
    ),
    ...htmt(`htmt ${m.group}`, of, m.htmt, context),
  ];
}

function htmt(
  id: string,
  of: string,
  pairs: readonly {
    first: string;
    second: string;
    htmt: number | null;
    lower: number | null;
    upper: number | null;
  }[],
  { cell, evidence }: ReportContext,
): Block[] {
  const { level } = evidence.settings;
  if (pairs.length === 0) return [];
  return [
    table(
      id,
      `Heterotrait-monotrait ratios${of}`,
      [word("Constructs"), number("HTMT"), limits(`${percent(level)} % CI`)],
      pairs.map((p) =>
        row(
          cell.words(`${p.first} and ${p.second}`),
          cell.bounded(p.htmt),
          cell.limits(p.lower, p.upper, 2),
        ),
      ),
      pairs.every((p) => p.lower === null) &&
        evidence.bootstrap !== null &&
        evidence.sample.keepsIncomplete
        ? ["No interval: it is made by drawing complete rows again, and here everybody was kept."]
        : [],
    ),
  ];
}

function composites(section: CompositeSection, g: number, context: ReportContext): Block[] {
  const { cell } = context;
  const { group, constructs, htmt: pairs } = section.groups[g]!;
  const of = groupWords(section.groups.length > 1, group);
  const together = new Set(constructs.filter(hangsTogether).map((c) => c.construct));
  return [
    table(
      `weights ${group}`,
      `Weights and loadings${of}`,
      [
        word("Item"),
        word("Construct"),
        number("Weight"),
        limits("CI of the weight"),
        number("Loading"),
        limits("CI of the loading"),
        number("VIF"),
      ],
      constructs.flatMap((c) =>
        c.items.map((i) =>
          row(
            cell.words(i.item),
            cell.words(c.construct),
            cell.number(i.weight.estimate),
            cell.limits(i.weight.lower, i.weight.upper),
            cell.number(i.loading.estimate),
            cell.limits(i.loading.lower, i.loading.upper),
            cell.number(i.vif, 2),
          ),
        ),
      ),
    ),
    table(
      `quality ${group}`,
      `Reliability and validity of the constructs${of}`,
      [
        word("Construct"),
        word("Kind"),
        number("α"),
        number("ρA"),
        number("CR"),
        number("AVE"),
        number("√AVE"),
        number("Largest r"),
      ],
      constructs.map((c) => {
        // Items that are regressed on need not hang together, and a single one has no reliability.
        const q = hangsTogether(c) ? c.quality : null;
        return row(
          cell.words(c.construct),
          cell.words(c.words),
          cell.bounded(q?.alpha),
          cell.bounded(q && c.weighting === "correlation" ? q.rhoA : null),
          cell.bounded(q?.compositeReliability),
          cell.bounded(q?.ave),
          cell.bounded(q ? c.rootAve : null),
          cell.bounded(c.largestCorrelation),
        );
      }),
      [
        `${constructs.some(hangsTogether) ? "α: Cronbach's alpha; ρA: reliability of the score by its weights; CR: composite reliability; AVE: average variance extracted; " : ""}Largest r: the largest correlation (absolute) with another construct.`,
        beyondOne(constructs),
      ].filter((note) => note !== ""),
    ),
    ...htmt(
      `htmt ${group}`,
      of,
      pairs.filter((p) => together.has(p.first) && together.has(p.second)),
      context,
    ),
  ];
}

/** A reliability above 1 is none. */
function beyondOne(constructs: CompositeSection["groups"][number]["constructs"]): string {
  const names = constructs
    .filter((c) => c.weighting === "correlation" && hangsTogether(c) && c.quality.rhoA > 1)
    .map((c) => c.construct);
  return names.length === 0
    ? ""
    : `ρA of ${listed(names)} is above 1, which no reliability can be: the loadings are not proportional to the weights, or the sample is too small for it.`;
}
