import { pClause, plain, thousands } from "../evidence";
import type { ExactFitEvidence, GroupComparisonEvidence, PredictionEvidence } from "../estimators";
import { operand, sourced, step } from "./paper";
import type { Working } from "./types";

/** Where the quality of prediction of one item comes from; null where it is not told. */
export function predictionWorking(
  { items, folds, repetitions }: PredictionEvidence,
  item: string,
): Working | null {
  const found = items.find((i) => i.item === item);
  if (!found) return null;
  const { q2, rmse, mae, benchmark } = found;
  const SOURCE = "Shmueli, Ray, Velasquez Estrada & Chatla 2016, J Bus Res 69";
  return {
    title: `Prediction of ${item}`,
    steps: [
      sourced(
        "RMSE, MAE",
        "√(Σ (answer − predicted)² / n); Σ |answer − predicted| / n",
        `${plain(rmse)}; ${plain(mae)}`,
        SOURCE,
      ),
      sourced(
        "Q² of prediction",
        "1 − Σ (answer − predicted)² / Σ (answer − mean of the others)²",
        `1 − ${plain(1 - q2)} = ${plain(q2)}`,
        SOURCE,
      ),
      step(
        "Benchmark",
        "the same by a regression of the item on all items of what nothing explains",
        `RMSE ${plain(rmse)} − ${plain(benchmark.rmse)} = ${plain(rmse - benchmark.rmse)}; Q² 1 − ${plain(1 - benchmark.q2)} = ${plain(benchmark.q2)}`,
      ),
    ],
    rows: `${folds} folds, each predicted from all others${repetitions > 1 ? `; averaged over ${repetitions} divisions` : ""}.`,
  };
}

/** Where a test of exact fit comes from. */
export function exactFitWorking(
  { replicates, failed }: ExactFitEvidence,
  { model, measure, value, upper95, upper99, p }: ExactFitEvidence["measures"][number],
): Working {
  const used = replicates - failed;
  const formulas = {
    srmr: "√(Σ (observed − implied correlation)² / correlations, the diagonal among them)",
    dUls: "½ Σ (observed − implied)² over all places",
    dG: "½ Σ (ln eigenvalue of S⁻¹ Σ̂)²",
  };
  return {
    title: `Exact fit by ${measure === "srmr" ? "SRMR" : measure === "dUls" ? "d_ULS" : "d_G"}, ${model === "saturated" ? "all constructs correlated" : "paths of the theory"}`,
    steps: [
      sourced(
        "Observed",
        formulas[measure],
        plain(value),
        "Dijkstra & Henseler 2015, Comput Stat Data Anal 81",
      ),
      sourced(
        "By chance",
        null,
        `data turned so that the model holds, resampled ${thousands(replicates)} times: 95 % below ${plain(upper95)}, 99 % below ${plain(upper99)}`,
        "Beran & Srivastava 1985, Ann Stat 13",
      ),
      step(
        "p",
        "resamples with at least this misfit / resamples",
        `${thousands(Math.round(p * used))} of ${thousands(used)}: ${pClause(p)}`,
      ),
    ],
    rows:
      failed > 0
        ? `${thousands(failed)} resamples failed and do not count.`
        : "All resamples count.",
  };
}

/** Where the comparison of one path between two groups comes from. */
export function permutationWorking(
  { first, second, permutations, failed }: GroupComparisonEvidence,
  path: GroupComparisonEvidence["paths"][number],
): Working {
  const used = permutations - failed;
  return {
    title: `${path.from} on ${path.to}, ${first} and ${second}`,
    steps: [
      step(
        "Difference",
        `${first} − ${second}`,
        `${plain(path.first)} − ${operand(path.second)} = ${plain(path.estimate)}`,
      ),
      sourced(
        "By chance",
        null,
        `people dealt to both groups anew ${thousands(permutations)} times: the middle share of differences lies between ${plain(path.lower)} and ${plain(path.upper)}`,
        "Chin & Dibbern 2010, in Handbook of Partial Least Squares",
      ),
      step(
        "p",
        "differences at least as far from zero / permutations",
        `of ${thousands(used)}: ${pClause(path.p)}`,
      ),
    ],
    rows:
      failed > 0
        ? `${thousands(failed)} permutations failed and do not count.`
        : "All permutations count.",
  };
}

/** Where the comparison of one construct between two groups comes from. */
export function measuredAlikeWorking(
  { first, second, permutations, failed }: GroupComparisonEvidence,
  { construct, compositional: c, means, variances }: GroupComparisonEvidence["constructs"][number],
): Working {
  const SOURCE = "Henseler, Ringle & Sarstedt 2016, Int Marketing Rev 33";
  return {
    title: `${construct} in ${first} and ${second}`,
    steps: [
      sourced(
        "Same scores",
        "correlation of scores by the weights of either group, over everybody",
        `${plain(c.estimate)}; 5 % of ${thousands(permutations - failed)} permutations lie below ${plain(c.limit)}; ${pClause(c.p)}`,
        SOURCE,
      ),
      sourced(
        "Difference of means",
        `mean of the scores of ${first} − of ${second}, weights of everybody`,
        `${plain(means.estimate)}, by chance between ${plain(means.lower)} and ${plain(means.upper)}; ${pClause(means.p)}`,
        SOURCE,
      ),
      sourced(
        "Log ratio of variances",
        `ln(variance in ${first}) − ln(variance in ${second})`,
        `${plain(variances.estimate)}, by chance between ${plain(variances.lower)} and ${plain(variances.upper)}; ${pClause(variances.p)}`,
        SOURCE,
      ),
    ],
    rows: `${thousands(permutations)} permutations of people between the groups${failed > 0 ? `, ${thousands(failed)} failed` : ""}.`,
  };
}
