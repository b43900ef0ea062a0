import type { ReactNode } from "react";
import {
  codingWords,
  dfWords,
  errorsName,
  percent,
  plain,
  pClause,
  pValue,
  termWorking,
  unitWords,
  type CovarianceKind,
  type EquationEvidence,
  type Evidence,
} from "../../../core";
import { Note } from "../ui/layout";
import { NumberTable, type Cell } from "../ui/number-table";
import { limitsPair } from "../structure/cells";

/**
 * One regression: raw and standardised coefficients with the chosen errors, and what the equation
 * explains.
 */
export function EquationTable({
  equation,
  evidence,
  highlight,
  heading,
}: {
  equation: EquationEvidence;
  evidence: Evidence;
  highlight?: string | null;
  heading?: ReactNode;
}) {
  const { errors } = evidence;
  const { level, centring } = evidence.settings;
  // In z-scores throughout only the bootstrap knows how uncertain the SDs are.
  const bootstrapped = centring === "standardised";
  const f = equation.modelF[errors];
  // A categorical predictor stands in the equation as its code columns.
  const coded = evidence.codings.find((coding) => coding.variable === highlight);
  const highlighted = new Set(coded ? coded.columns.map((column) => column.key) : [highlight]);
  return (
    <div>
      <NumberTable
        title={`Equation of ${equation.outcome}`}
        heading={heading}
        columns={[
          `${equation.outcome} on`,
          `b (${unitWords(evidence)})`,
          bootstrapped
            ? "SE (bootstrap)"
            : errors === "classical"
              ? "SE"
              : `SE (${errorsName(errors)})`,
          "t",
          "p",
          `${percent(level)} % CI (${bootstrapped ? "percentile" : "t"})`,
          "beta (std.)",
          "VIF",
        ]}
        rows={equation.coefficients.map((c) => ({
          key: c.term,
          selected: highlighted.has(c.term),
          ...(c.errors[errors] && { working: () => termWorking(equation, c.term, evidence)! }),
          cells: coefficientCells(c, bootstrapped ? resampledTest(c) : (c.errors[errors] ?? null)),
        }))}
        note={
          <>
            R² = {plain(equation.r2)}, adjusted {plain(equation.adjustedR2)}; residual SD{" "}
            {plain(equation.residualSd)};
            {f && ` F(${f.df1}, ${dfWords(f.df2)}) = ${plain(f.F, 2)}, ${pClause(f.p)};`} n ={" "}
            {equation.n}. {codingWords(evidence)}
          </>
        }
      />
      <ProductsAdd equation={equation} errors={errors} />
      {equation.omnibus.map(({ variable, test, gvifPerDimension }) => {
        const found = test[errors];
        return (
          found && (
            <p key={variable} style={FOOT}>
              {variable}, all levels together: F({found.df1}, {dfWords(found.df2)}) ={" "}
              {plain(found.F, 2)}, {pClause(found.p)}
              {gvifPerDimension !== null && `; GVIF^(1/(2 df)) ${plain(gvifPerDimension, 2)}`}
            </p>
          )
        );
      })}
      <Suppressed equation={equation} />
    </div>
  );
}

const FOOT = { fontSize: 13, color: "var(--quiet)", paddingTop: 6 };

type Coefficient = EquationEvidence["coefficients"][number];

interface ShownTest {
  se: number | null;
  t: number | null;
  p: number | null;
  lower: number;
  upper: number;
}

/**
 * The percentile interval and the bootstrap error, where nothing else knows how uncertain the SDs
 * are.
 */
function resampledTest({ bootstrap }: Coefficient): ShownTest | null {
  const limits = bootstrap?.percentile;
  if (!bootstrap || !limits) return null;
  const { lower, upper, pTwoSided } = limits;
  return { se: bootstrap.se, t: null, p: pTwoSided, lower, upper };
}

function coefficientCells(c: Coefficient, test: ShownTest | null): Cell[] {
  const label = c.covariate ? (
    <>
      {c.label} <span className="quiet">covariate</span>
    </>
  ) : (
    c.label
  );
  return [
    { shown: label, value: c.label },
    c.b,
    test?.se ?? null,
    { shown: plain(test?.t, 2), value: test?.t ?? null },
    { shown: pValue(test?.p), value: test?.p ?? null },
    test ? limitsPair(test.lower, test.upper) : null,
    c.beta ?? "",
    c.vif === null ? "" : { shown: plain(c.vif, 2), value: c.vif },
  ];
}

/** What the products explain beyond everything else: each alone, and all together. */
function ProductsAdd({ equation, errors }: { equation: EquationEvidence; errors: CovarianceKind }) {
  const partsOf = (term: string): string =>
    equation.coefficients
      .find((c) => c.term === term)!
      .components!.map((part) => part.variable)
      .join(" × ");
  return equation.r2Change.map(({ terms, r2Change, tests }, i) => {
    const test = tests[errors];
    const names = [...new Set(terms.map(partsOf))];
    return (
      <p key={terms.join()} style={FOOT}>
        {names.join(" and ")}
        {names.length > 1 && i > 0 ? " together add" : " adds"} {plain(100 * r2Change, 1)} % of
        explained variance
        {test && `: F(${test.df1}, ${dfWords(test.df2)}) = ${plain(test.F, 2)}, ${pClause(test.p)}`}
      </p>
    );
  });
}

/**
 * Suppression, told apart from an error and from mere collinearity; the evidence says which it is.
 */
function Suppressed({ equation }: { equation: EquationEvidence }) {
  const telling = equation.suppression.filter((s) => s.kind === "suppression");
  if (telling.length === 0) return null;
  return (
    <Note>
      {telling.map((s) => (
        <span key={s.term}>
          <strong>{s.term}</strong>: standardised {plain(s.beta, 2)}, zero-order correlation{" "}
          {plain(s.correlation, 2)}, VIF {plain(s.vif, 1)}.{" "}
        </span>
      ))}
      This is suppression, not an improper solution: the predictors share variance, R² lies between
      0 and 1 and the residual variance is positive.
    </Note>
  );
}
