import { sdsOf, type Moments } from "../../../core";
import { NumberTable } from "../ui/number-table";
import { Screen } from "../ui/layout";

/** A covariance matrix in place of rows. */
export function MomentsTable({ moments, unit }: { moments: Moments; unit: string }) {
  const { names, n, means, covariance, standardised } = moments;
  const sds = sdsOf(moments);
  return (
    <Screen sx={{ display: "grid", gap: 2, maxWidth: 1000, borderTop: "1px solid var(--line)" }}>
      <p className="serif">
        This study knows its {unit} only by the means and covariances of {n} of them.
        {standardised &&
          " The correlations came without standard deviations, so every variable counts in standard deviations."}
      </p>
      <NumberTable
        title="Covariances"
        columns={["covariance", ...names, "mean", "SD"]}
        rows={names.map((name, i) => ({
          key: name,
          cells: [
            name,
            ...names.map((_, j) => (j <= i ? covariance[i]![j]! : "")),
            means[i]!,
            sds[i]!,
          ],
        }))}
      />
    </Screen>
  );
}
