import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableFooter from "@mui/material/TableFooter";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import {
  plain,
  pValue,
  thousands,
  unitWords,
  type CovarianceKind,
  type EquationEvidence,
  type Evidence,
} from "../../../core";

const SHOWN: CovarianceKind[] = ["classical", "HC3", "HC4"];
const CLUSTERED: CovarianceKind[] = ["classical", "HC3", "CR2"];

/** One regression under several errors side by side, the bootstrap's among them. */
export function ErrorsTable({
  equation,
  evidence,
}: {
  equation: EquationEvidence;
  evidence: Evidence;
}) {
  const kinds = evidence.errors === "CR2" ? CLUSTERED : SHOWN;
  const used = evidence.bootstrap ? evidence.bootstrap.done - evidence.bootstrap.failed : 0;
  return (
    <Table>
      <caption className="visually-hidden">Errors of the equation of {equation.outcome}</caption>
      <TableHead>
        <TableRow>
          <TableCell scope="col">{equation.outcome} on</TableCell>
          <TableCell scope="col">b ({unitWords(evidence.settings)})</TableCell>
          {kinds.map((kind) => (
            <TableCell scope="col" key={kind}>
              SE {kind} (p)
            </TableCell>
          ))}
          <TableCell scope="col">SE bootstrap</TableCell>
          <TableCell scope="col">BCa CI</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {equation.coefficients.map((c) => (
          <TableRow key={c.term}>
            <TableCell>{c.label}</TableCell>
            <TableCell>{plain(c.b)}</TableCell>
            {kinds.map((kind) => (
              <TableCell key={kind}>
                {plain(c.errors[kind]?.se)} ({pValue(c.errors[kind]?.p)})
              </TableCell>
            ))}
            <TableCell>{plain(c.bootstrap?.se)}</TableCell>
            <TableCell>
              {c.bootstrap?.bca
                ? `${plain(c.bootstrap.bca.lower)}, ${plain(c.bootstrap.bca.upper)}`
                : "–"}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
      <TableFooter>
        <TableRow>
          <TableCell colSpan={7} className="quiet">
            {used > 0 ? `${thousands(used)} resamples.` : "The resamples have not arrived yet."}{" "}
            Where the errors differ much, residuals spread unequally; HC3 or HC4 is then the safer
            choice.
          </TableCell>
        </TableRow>
      </TableFooter>
    </Table>
  );
}
