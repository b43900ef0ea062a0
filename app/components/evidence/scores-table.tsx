import { errorsName, plain, pValue, type EquationEvidence, type Evidence } from "../../../core";

/** One regression in z-scores, products being products of z-scores. */
export function ScoresTable({
  equation,
  evidence,
}: {
  equation: EquationEvidence;
  evidence: Evidence;
}) {
  const { errors } = evidence;
  return (
    <table className="numbers">
      <caption className="visually-hidden">Equation of {equation.outcome} in z-scores</caption>
      <thead>
        <tr>
          <th scope="col">{equation.outcome} on</th>
          <th scope="col">b (z-scores)</th>
          <th scope="col">t{errors === "classical" ? "" : ` (${errorsName(errors)})`}</th>
          <th scope="col">p</th>
          <th scope="col">beta (std.)</th>
        </tr>
      </thead>
      <tbody>
        {equation.coefficients.map((c) => {
          const test = c.zScores?.errors[errors];
          return (
            <tr key={c.term}>
              <td>{c.label}</td>
              <td>{plain(c.zScores?.b)}</td>
              <td>{plain(test?.t, 2)}</td>
              <td>{pValue(test?.p)}</td>
              <td>{c.beta === null ? "" : plain(c.beta)}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** What is read off these tables, said once. */
export function AboutScores() {
  return (
    <p className="quiet equation-foot">
      Every numeric variable is a z-score, and products are made of z-scores: a lower-order
      coefficient is the slope at its partner's mean, in SDs. The standardised coefficient of a
      product beside it takes the product column as it stands and depends on where the variables
      have their zero. The t test of zero is the same in z-scores; a standard error or interval
      would have to allow for the estimated SDs, so none stands here. To analyse in z-scores
      throughout, with intervals of their own, choose them under “Columns in products” in the
      settings.
    </p>
  );
}
