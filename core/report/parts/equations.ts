import {
  codingWords,
  dfWords,
  equationsOf,
  errorsName,
  percent,
  unitWords,
  type Evidence,
} from "../../evidence";
import type { EquationEvidence, ResponseModelEvidence, StructureSection } from "../../estimators";
import type { CompositeSection } from "../../estimators";
import {
  heading,
  headingRow,
  limits,
  number,
  row,
  table,
  word,
  type Part,
  type ReportContext,
} from "../context";
import type { Block, Row, TableBlock } from "../document";

/** Every equation with its coefficients, as the engine that estimated them says them. */
export const equations: Part = (context) => {
  const { sections } = context.evidence;
  const blocks = [
    ...equationsOf(context.evidence).map((e) => regression(e, context)),
    ...sections.flatMap((s): Block[] =>
      s.kind === "structure"
        ? [structuralPaths(s, context)]
        : s.kind === "composites"
          ? s.groups.map((_, g) => compositePaths(s, g, context))
          : s.kind === "responses"
            ? s.models.map((m) => responseModel(m, context))
            : [],
    ),
  ];
  return blocks.length === 0 ? [] : [heading("Equations"), ...blocks];
};

function regression(equation: EquationEvidence, context: ReportContext): TableBlock {
  const { evidence, cell, write } = context;
  const { errors } = evidence;
  const { level, centring } = evidence.settings;
  // In z-scores throughout only resamples know how uncertain the SDs are.
  const resampled = centring === "standardised";
  const f = equation.modelF[errors];
  const fit = f
    ? `, F(${f.df1}, ${dfWords(f.df2)}) = ${write.number(f.F, 2)}, ${write.pClause(f.p)}`
    : "";
  return table(
    `equation ${equation.outcome}`,
    `Regression of ${equation.outcome}`,
    [
      word("Predictor"),
      number("b"),
      number(
        resampled ? "SE (bootstrap)" : errors === "classical" ? "SE" : `SE (${errorsName(errors)})`,
      ),
      number("t"),
      number("p"),
      limits(`${percent(level)} % CI`),
      number("β"),
      number("VIF"),
    ],
    equation.coefficients.map((c): Row => {
      const test = resampled ? resampledTest(c) : c.errors[errors];
      return row(
        cell.words(predictorWords(c)),
        cell.number(c.b),
        cell.number(test?.se),
        cell.number(test?.t, 2),
        cell.p(test?.p),
        cell.limits(test?.lower, test?.upper),
        cell.number(c.beta),
        cell.number(c.vif, 2),
      );
    }),
    [
      codingWords(evidence, namesIn(equation)),
      `R² = ${write.bounded(equation.r2)}, adjusted R² = ${write.bounded(equation.adjustedR2)}${fit}; n = ${equation.n}. b: coefficient in ${unitWords(evidence)}; β: standardised coefficient; VIF: variance inflation factor.`,
    ],
  );
}

/** The outcome and every column that stands in the equation, within products too. */
const namesIn = ({ outcome, coefficients }: EquationEvidence): string[] => [
  outcome,
  ...coefficients.flatMap((c) => [
    ...(c.variable === null ? [] : [c.variable]),
    ...(c.components ?? []).map((component) => component.variable),
  ]),
];

const predictorWords = ({
  term,
  label,
  covariate,
}: EquationEvidence["coefficients"][number]): string =>
  covariate
    ? `${label} (covariate)`
    : term === "(intercept)" || label === "intercept"
      ? "Intercept"
      : label;

function resampledTest({ bootstrap }: EquationEvidence["coefficients"][number]) {
  const found = bootstrap?.percentile;
  if (!bootstrap || !found) return null;
  const { lower, upper, pTwoSided: p } = found;
  return { se: bootstrap.se, t: null, p, lower, upper };
}

/** Paths of a model of means and covariances, group by group, with the R² of what they explain. */
function structuralPaths(section: StructureSection, context: ReportContext): TableBlock {
  const { cell, write, evidence } = context;
  const several = section.groups.length > 1;
  const rows = section.groups.flatMap((group): Row[] => [
    ...(several ? [headingRow(`${section.groupVariable ?? "group"}: ${group}`)] : []),
    ...section.arrows
      .filter((a) => a.role === "path" && a.group === group)
      .map((a) =>
        row(
          cell.words(`${a.from} → ${a.to}`),
          cell.number(a.estimate),
          a.free ? cell.number(a.se[section.method.errors]) : cell.words("held"),
          cell.number(a.z, 2),
          cell.p(a.p),
          cell.limits(a.lower, a.upper),
          cell.number(a.full.estimate),
        ),
      ),
  ]);
  const explained = section.r2
    .filter((r) => section.arrows.some((a) => a.role === "path" && a.to === r.variable))
    .map((r) => `${r.variable}${several ? ` (${r.group})` : ""} ${write.bounded(r.value)}`);
  return table(
    "paths",
    "Structural paths",
    [
      word("Path"),
      number("Estimate"),
      number("SE"),
      number("z"),
      number("p"),
      limits(`${percent(evidence.settings.level)} % CI`),
      number("Standardised"),
    ],
    rows,
    [explained.length > 0 ? `R²: ${explained.join("; ")}.` : "", codingWords(evidence)],
  );
}

function compositePaths(section: CompositeSection, g: number, context: ReportContext): TableBlock {
  const { cell, write, evidence } = context;
  const { group, paths, result } = section.groups[g]!;
  const of = section.groups.length > 1 ? `, ${section.groupVariable ?? "group"}: ${group}` : "";
  const r2 = Object.entries((result.consistent ?? result).r2).flatMap(([name, value]) =>
    value === null ? [] : [`${name} ${write.bounded(value)}`],
  );
  return table(
    `paths ${group}`,
    `Structural paths${of}`,
    [
      word("Path"),
      number("Path coefficient"),
      number("SE"),
      limits(`${percent(evidence.settings.level)} % CI`),
      number("p"),
      number("f²"),
      number("VIF"),
    ],
    paths.map((p) =>
      row(
        cell.words(`${p.from} → ${p.to}`),
        cell.number(p.estimate),
        cell.number(p.reported?.se),
        cell.limits(p.reported?.lower, p.reported?.upper),
        cell.p(p.reported?.p, p.reported?.pIsBound),
        cell.number(p.f2),
        cell.number(p.vif, 2),
      ),
    ),
    [
      r2.length > 0 ? `Coefficients in SDs of both scores. R²: ${r2.join("; ")}.` : "",
      codingWords(evidence),
    ],
  );
}

const FAMILIES: Record<ResponseModelEvidence["family"], string> = {
  linear: "Linear regression",
  logistic: "Logistic regression",
  probit: "Probit regression",
  poisson: "Poisson regression",
  negative_binomial: "Negative binomial regression",
};

/** Coefficients of a response on the scale of its model; ratios beside them where they are read. */
function responseModel(model: ResponseModelEvidence, context: ReportContext): TableBlock {
  const { cell, evidence, write } = context;
  const level = `${percent(evidence.settings.level)} % CI`;
  const ratio = model.family === "logistic" ? "Odds ratio" : "Rate ratio";
  const error =
    evidence.errors === "classical" ? "classical" : evidence.errors === "HC1" ? "hc1" : "hc0";
  const { fit } = model;
  const pseudo =
    fit.rSquared !== null
      ? `R² = ${write.bounded(fit.rSquared)}`
      : fit.mcFadden !== null
        ? `McFadden R² = ${write.bounded(fit.mcFadden)}`
        : `deviance ${write.number(fit.deviance, 2)}`;
  return table(
    `model ${model.outcome}`,
    `${FAMILIES[model.family]} of ${model.outcome}`,
    [
      word("Predictor"),
      number("b"),
      number("SE"),
      number(model.family === "linear" ? "t" : "z"),
      number("p"),
      limits(level),
      number(ratio),
      limits(`${level} of the ratio`),
    ],
    model.coefficients.map((c) =>
      row(
        cell.words(termWords(c.term, evidence)),
        cell.number(c.estimate),
        cell.number(c.se[error]),
        cell.number(c.z, 2),
        cell.p(c.p),
        cell.limits(c.lower, c.upper),
        cell.number(c.ratio?.estimate),
        cell.limits(c.ratio?.lower, c.ratio?.upper),
      ),
    ),
    [`n = ${model.n}; ${pseudo}.`, codingWords(evidence, namesOfModel(model, evidence))],
  );
}

function namesOfModel(model: ResponseModelEvidence, { codings }: Evidence): string[] {
  const variableOf = (key: string): string =>
    codings.find((c) => c.columns.some((column) => column.key === key))?.variable ?? key;
  return [model.outcome, ...model.coefficients.flatMap((c) => c.term.split(":").map(variableOf))];
}

/** A term in words: code columns by what they compare. */
function termWords(term: string, { codings }: Evidence): string {
  if (term === "(intercept)") return "Intercept";
  const columns = codings.flatMap(({ variable, columns: coded }) =>
    coded.map(({ key, contrast }) => [key, `${variable} (${contrast})`] as const),
  );
  return term
    .split(":")
    .map((part) => columns.find(([key]) => key === part)?.[1] ?? part)
    .join(" × ");
}
