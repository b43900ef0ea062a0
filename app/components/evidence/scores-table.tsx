import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
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
    <Table>
      <caption className="visually-hidden">Equation of {equation.outcome} in z-scores</caption>
      <TableHead>
        <TableRow>
          <TableCell scope="col">{equation.outcome} on</TableCell>
          <TableCell scope="col">b (z-scores)</TableCell>
          <TableCell scope="col">
            t{errors === "classical" ? "" : ` (${errorsName(errors)})`}
          </TableCell>
          <TableCell scope="col">p</TableCell>
          <TableCell scope="col">beta (std.)</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {equation.coefficients.map((c) => {
          const test = c.zScores?.errors[errors];
          return (
            <TableRow key={c.term}>
              <TableCell>{c.label}</TableCell>
              <TableCell>{plain(c.zScores?.b)}</TableCell>
              <TableCell>{plain(test?.t, 2)}</TableCell>
              <TableCell>{pValue(test?.p)}</TableCell>
              <TableCell>{c.beta === null ? "" : plain(c.beta)}</TableCell>
            </TableRow>
          );
        })}
      </TableBody>
    </Table>
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
