import {
  errorsName,
  plain,
  pValue,
  termWorking,
  type EquationEvidence,
  type Evidence,
} from "../../../core";
import { NumberTable } from "../ui/number-table";

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
    <NumberTable
      title={`Equation of ${equation.outcome}, standardised variables`}
      columns={[
        `${equation.outcome} on`,
        "b (z-scores)",
        errors === "classical" ? "t" : `t (${errorsName(errors)})`,
        "p",
        "beta (std.)",
      ]}
      rows={equation.coefficients.map((c) => {
        const test = c.zScores?.errors[errors];
        return {
          key: c.term,
          ...(c.errors[errors] && { working: () => termWorking(equation, c.term, evidence)! }),
          cells: [
            c.label,
            c.zScores?.b ?? null,
            { shown: plain(test?.t, 2), value: test?.t ?? null },
            { shown: pValue(test?.p), value: test?.p ?? null },
            c.beta ?? "",
          ],
        };
      })}
    />
  );
}

/** What is read off these tables, said once. */
export function AboutScores() {
  return (
    <p className="quiet" style={{ fontSize: 13 }}>
      Every numeric variable is a z-score, and products are made of z-scores: a lower-order
      coefficient is the slope at its partner's mean, in SDs. The standardised coefficient of a
      product beside it takes the product column as it stands and depends on where the variables
      have their zero. The t test of zero is the same in z-scores; a standard error or interval
      would have to allow for the estimated SDs, so none stands here. To analyse in z-scores
      throughout, with intervals of their own, choose standardised variables under “Variables in
      interaction terms” in the analysis settings.
    </p>
  );
}
