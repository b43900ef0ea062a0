import Typography from "@mui/material/Typography";
import { predictionWorking, type PredictionEvidence } from "../../../core";
import { Words } from "../structure/structure-view";
import { NumberTable } from "../ui/number-table";

/** How well the model predicts people it has not seen. */
export function PredictionTable({
  prediction,
  unit,
  where,
}: {
  prediction: PredictionEvidence;
  unit: string;
  /** Of which group, as the title ends. */
  where: string;
}) {
  const { items, words, folds, repetitions } = prediction;
  return (
    <div>
      <Typography variant="h2">
        Prediction of new {unit}
        {where}
      </Typography>
      <Words words={words} />
      <NumberTable
        title={`Prediction of new ${unit}${where}`}
        columns={[
          "item",
          "measures",
          "Q² of prediction",
          "RMSE",
          "benchmark",
          "MAE",
          "benchmark",
          "Q² of the benchmark",
        ]}
        names={[
          "item",
          "measures",
          "Q² of prediction",
          "RMSE",
          "RMSE of the benchmark",
          "MAE",
          "MAE of the benchmark",
          "Q² of the benchmark",
        ]}
        words={[1]}
        rows={items.map(({ item, construct, q2, rmse, mae, benchmark }) => ({
          key: item,
          marked: q2 <= 0,
          working: () => predictionWorking(prediction, item)!,
          cells: [item, construct, q2, rmse, benchmark.rmse, mae, benchmark.mae, benchmark.q2],
        }))}
        note={`${folds} folds${repetitions > 1 ? `, averaged over ${repetitions} divisions` : ""}: each is predicted from a model of all others (Shmueli et al. 2016), from the items of constructs that nothing explains. Benchmark: a regression of the item on all of those items. Q² of zero or less is no better than the item's mean.`}
      />
    </div>
  );
}
