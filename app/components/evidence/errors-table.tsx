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
    <table className="numbers">
      <caption className="visually-hidden">Errors of the equation of {equation.outcome}</caption>
      <thead>
        <tr>
          <th scope="col">{equation.outcome} on</th>
          <th scope="col">b ({unitWords(evidence.settings)})</th>
          {kinds.map((kind) => (
            <th scope="col" key={kind}>
              SE {kind} (p)
            </th>
          ))}
          <th scope="col">SE bootstrap</th>
          <th scope="col">BCa CI</th>
        </tr>
      </thead>
      <tbody>
        {equation.coefficients.map((c) => (
          <tr key={c.term}>
            <td>{c.label}</td>
            <td>{plain(c.b)}</td>
            {kinds.map((kind) => (
              <td key={kind}>
                {plain(c.errors[kind]?.se)} ({pValue(c.errors[kind]?.p)})
              </td>
            ))}
            <td>{plain(c.bootstrap?.se)}</td>
            <td>
              {c.bootstrap?.bca
                ? `${plain(c.bootstrap.bca.lower)}, ${plain(c.bootstrap.bca.upper)}`
                : "–"}
            </td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td colSpan={7} className="quiet">
            {used > 0 ? `${thousands(used)} resamples.` : "The resamples have not arrived yet."}{" "}
            Where the errors differ much, residuals spread unequally; HC3 or HC4 is then the safer
            choice.
          </td>
        </tr>
      </tfoot>
    </table>
  );
}
