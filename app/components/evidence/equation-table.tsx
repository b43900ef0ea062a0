import { percent, plain, pClause, pValue, unitWords, type CovarianceKind, type EquationEvidence, type Evidence } from "../../../core";

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
  const { errors, level } = evidence.settings;
  const shownLevel = percent(evidence.effects[0]?.shown.level ?? level);
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
            <th scope="col">SE{errors === "classical" ? "" : ` (${errors})`}</th>
            <th scope="col">t</th>
            <th scope="col">p</th>
            <th scope="col">{shownLevel} % CI (t)</th>
            <th scope="col">beta (std.)</th>
            <th scope="col">VIF</th>
          </tr>
        </thead>
        <tbody>
          {equation.coefficients.map((c) => {
            const test = c.errors[errors];
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
        R² = {plain(equation.r2)}, adjusted {plain(equation.adjustedR2)}; residual SD {plain(equation.residualSd)};
        {f && ` F(${f.df1}, ${f.df2}) = ${plain(f.F, 2)}, ${pClause(f.p)};`} n = {equation.n}
      </p>
      <ProductsAdd equation={equation} errors={errors} />
      {equation.omnibus.map(({ variable, test }) => {
        const found = test[errors];
        return (
          found && (
            <p key={variable} className="quiet equation-foot">
              {variable}, all levels together: F({found.df1}, {found.df2}) = {plain(found.F, 2)}, p{" "}
              {pValue(found.p).replace(/^(?=\.|1)/, "= ")}
            </p>
          )
        );
      })}
      <Suppressed equation={equation} evidence={evidence} />
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
        {names.length > 1 && i > 0 ? " together add" : " adds"} {plain(100 * r2Change, 1)} % of explained variance
        {test && `: F(${test.df1}, ${test.df2}) = ${plain(test.F, 2)}, ${pClause(test.p)}`}
      </p>
    );
  });
}

/** Suppression, told apart from an error. */
function Suppressed({ equation, evidence }: { equation: EquationEvidence; evidence: Evidence }) {
  const rows = equation.suppression.filter((s) => s.flags.includes("sign_reversed") || s.flags.includes("beta_above_one"));
  // A term of a product is a slope where its partner is zero; comparing that with a simple correlation says nothing.
  const inProducts = new Set(equation.coefficients.flatMap((c) => (c.components ? [c.term, ...c.components.map((part) => part.key)] : [])));
  const telling = rows.filter((s) => {
    if (inProducts.has(s.term)) return false;
    const test = equation.coefficients.find((c) => c.term === s.term)?.errors[evidence.settings.errors];
    return test && test.p < 1 - evidence.settings.level;
  });
  if (telling.length === 0) return null;
  return (
    <p className="note">
      {telling.map((s) => (
        <span key={s.term}>
          <strong>{s.term}</strong>: standardised {plain(s.beta, 2)}, simple correlation {plain(s.correlation, 2)}, VIF {plain(s.vif, 1)}
          .{" "}
        </span>
      ))}
      This is suppression, not an improper solution: the predictors share variance, R² lies between 0 and 1 and the residual variance is
      positive.
    </p>
  );
}
