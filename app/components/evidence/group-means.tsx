import { meanWorking, plain, type GroupMeans } from "../../../core";
import { NumberTable } from "../ui/number-table";

/** Means of an outcome in the groups of a predictor, and which group counts as 1. */
export function GroupMeansTable({ means }: { means: GroupMeans }) {
  const { variable, outcome, groups, one } = means;
  const [other] = groups;
  return (
    <NumberTable
      title={`${outcome} by ${variable}`}
      heading={
        <strong>
          {outcome} by {variable}
        </strong>
      }
      columns={[variable, "n", "mean", "SD"]}
      rows={groups.map(({ level, label, mean, sd, n }) => ({
        key: level,
        working: () => meanWorking(`${outcome} where ${variable} is ${label}`, { mean, sd, n }),
        cells: [
          label,
          { shown: String(n), value: n },
          { shown: plain(mean, 2), value: mean },
          { shown: plain(sd, 2), value: sd },
        ],
      }))}
      note={
        one !== null &&
        `1 = ${one}, 0 = ${other!.label}: a coefficient of ${variable} is the difference ${one} minus ${other!.label}, other things equal.`
      }
    />
  );
}
