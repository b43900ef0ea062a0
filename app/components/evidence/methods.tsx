import { methodRows, plain, pValue, type EffectEvidence, type Evidence } from "../../../core";
import { Disclosure } from "../ui/disclosure";
import { NumberTable } from "../ui/number-table";

/** Every interval method for the one effect, with the Monte Carlo error of each limit. */
export function Methods({ effect, evidence }: { effect: EffectEvidence; evidence: Evidence }) {
  const { twoPath } = effect;
  const joint = effect.jointSignificance?.[evidence.errors];
  return (
    <Disclosure summary="Other interval methods and tests">
      <NumberTable
        title={`Interval methods, ${effect.label}`}
        columns={["method", "lower", "upper", "p", "Monte Carlo SE of the limit"]}
        rows={methodRows(effect, evidence).map((row) => ({
          key: row.method,
          cells: [
            row.offered ? row.method : `${row.method} (not offered here)`,
            { shown: plain(row.lower, 4), value: row.lower },
            { shown: plain(row.upper, 4), value: row.upper },
            row.p === null ? "not available" : { shown: pValue(row.p, row.pIsBound), value: row.p },
            row.mcse === null ? "" : { shown: plain(row.mcse, 4), value: row.mcse },
          ],
        }))}
      />
      {twoPath && evidence.settings.cluster === null && (
        <p className="quiet">
          Sobel z = {plain(twoPath.sobel.z, 2)} (p {pValue(twoPath.sobel.p)}), Aroian z ={" "}
          {plain(twoPath.aroian.z, 2)}, Goodman z = {plain(twoPath.goodman?.z, 2)}; classical
          errors.
        </p>
      )}
      {joint && (
        <p className="quiet">
          Joint significance of the steps: largest p {pValue(joint.p)},{" "}
          {joint.significant ? "every step differs from zero" : "not every step differs from zero"}.
        </p>
      )}
    </Disclosure>
  );
}
