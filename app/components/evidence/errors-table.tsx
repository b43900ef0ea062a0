import {
  isNeverResampled,
  plain,
  pValue,
  termWorking,
  thousands,
  unitWords,
  type CovarianceKind,
  type EquationEvidence,
  type Evidence,
} from "../../../core";
import { limitsPair } from "../structure/cells";
import { NumberTable } from "../ui/number-table";

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
    <NumberTable
      title={`Standard errors, equation of ${equation.outcome}`}
      columns={[
        `${equation.outcome} on`,
        `b (${unitWords(evidence)})`,
        ...kinds.map((kind) => `SE ${kind} (p)`),
        "SE bootstrap",
        "BCa CI",
      ]}
      rows={equation.coefficients.map((c) => ({
        key: c.term,
        ...(c.errors[evidence.errors] && {
          working: () => termWorking(equation, c.term, evidence)!,
        }),
        cells: [
          c.label,
          c.b,
          ...kinds.map((kind) => `${plain(c.errors[kind]?.se)} (${pValue(c.errors[kind]?.p)})`),
          c.bootstrap?.se ?? null,
          c.bootstrap?.bca ? limitsPair(c.bootstrap.bca.lower, c.bootstrap.bca.upper) : null,
        ],
      }))}
      note={`${used > 0 ? `${thousands(used)} bootstrap samples.` : isNeverResampled(evidence) ? "No bootstrap samples were asked for." : "The bootstrap samples have not arrived yet."} Where the standard errors differ much, the residuals spread unequally (heteroscedasticity); HC3 or HC4 is then the safer choice.`}
    />
  );
}
