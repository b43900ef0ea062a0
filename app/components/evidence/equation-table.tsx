import {
  dfWords,
  errorsName,
  percent,
  plain,
  pClause,
  pValue,
  unitWords,
  type CovarianceKind,
  type EquationEvidence,
  type Evidence,
} from "../../../core";

/** One regression: raw and standardised coefficients with the chosen errors, and what the equation explains. */
export function EquationTable({
  equation,
  evidence,
  highlight,
}: {
  equation: EquationEvidence;
  evidence: Evidence;
  highlight?: string | null;
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
      <table className="numbers">
        <caption className="visually-hidden">Equation of {equation.outcome}</caption>
        <thead>
          <tr>
            <th scope="col">{equation.outcome} on</th>
            <th scope="col">b ({unitWords(evidence.settings)})</th>
            <th scope="col">
              SE
              {bootstrapped
                ? " (bootstrap)"
                : errors === "classical"
                  ? ""
                  : ` (${errorsName(errors)})`}
            </th>
            <th scope="col">t</th>
            <th scope="col">p</th>
            <th scope="col">
              {percent(level)} % CI ({bootstrapped ? "percentile" : "t"})
            </th>
            <th scope="col">beta (std.)</th>
            <th scope="col">VIF</th>
          </tr>
        </thead>
        <tbody>
          {equation.coefficients.map((c) => {
            const boot = c.bootstrap?.percentile;
            const test = bootstrapped
              ? boot && {
                  se: c.bootstrap!.se,
                  t: null,
                  p: boot.pTwoSided,
                  lower: boot.lower,
                  upper: boot.upper,
                }
              : c.errors[errors];
            return (
              <tr key={c.term} className={highlighted.has(c.term) ? "selected" : undefined}>
                <td>
                  {c.label} {c.covariate && <span className="quiet">covariate</span>}
                </td>
                <td>{plain(c.b)}</td>
                <td>{plain(test?.se)}</td>
                <td>{plain(test?.t, 2)}</td>
                <td>{pValue(test?.p)}</td>
                <td>{test ? `${plain(test.lower)}, ${plain(test.upper)}` : "–"}</td>
                <td>{c.beta === null ? "" : plain(c.beta)}</td>
                <td>{c.vif === null ? "" : plain(c.vif, 2)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="quiet equation-foot">
        R² = {plain(equation.r2)}, adjusted {plain(equation.adjustedR2)}; residual SD{" "}
        {plain(equation.residualSd)};
        {f && ` F(${f.df1}, ${dfWords(f.df2)}) = ${plain(f.F, 2)}, ${pClause(f.p)};`} n ={" "}
        {equation.n}
      </p>
      <ProductsAdd equation={equation} errors={errors} />
      {equation.omnibus.map(({ variable, test, gvifPerDimension }) => {
        const found = test[errors];
        return (
          found && (
            <p key={variable} className="quiet equation-foot">
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
      <p key={terms.join()} className="quiet equation-foot">
        {names.join(" and ")}
        {names.length > 1 && i > 0 ? " together add" : " adds"} {plain(100 * r2Change, 1)} % of
        explained variance
        {test && `: F(${test.df1}, ${dfWords(test.df2)}) = ${plain(test.F, 2)}, ${pClause(test.p)}`}
      </p>
    );
  });
}

/** Suppression, told apart from an error and from mere collinearity; the evidence says which it is. */
function Suppressed({ equation }: { equation: EquationEvidence }) {
  const telling = equation.suppression.filter((s) => s.kind === "suppression");
  if (telling.length === 0) return null;
  return (
    <p className="note">
      {telling.map((s) => (
        <span key={s.term}>
          <strong>{s.term}</strong>: standardised {plain(s.beta, 2)}, zero-order correlation{" "}
          {plain(s.correlation, 2)}, VIF {plain(s.vif, 1)}.{" "}
        </span>
      ))}
      This is suppression, not an improper solution: the predictors share variance, R² lies between
      0 and 1 and the residual variance is positive.
    </p>
  );
}
