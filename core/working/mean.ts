import { plain } from "../evidence";
import { operand, step } from "./paper";
import type { Working } from "./types";

/** Where a mean and an SD (divisor n − 1) come from. */
export const meanWorking = (
  title: string,
  { mean, sd, n }: { mean: number; sd: number | null; n: number },
): Working => ({
  title,
  steps: [
    step("Mean", "Σ values / n", `${operand(mean * n)} / ${n} = ${plain(mean)}`),
    ...(sd === null
      ? []
      : [
          step(
            "SD",
            "√(Σ (value − mean)² / (n − 1))",
            `√(${plain(sd * sd * (n - 1))} / ${n - 1}) = ${plain(sd)}`,
          ),
        ]),
  ],
  rows: `${n} values.`,
});
