import type { Evidence } from "../../../core";

/** Who is not in the sample, and why: filters and missing values are different reasons. */
export function sampleWords({ sample, unit }: Pick<Evidence, "sample" | "unit">): string {
  const missing = sample.dropped.length;
  const filtered = sample.rowsRead - sample.n - missing;
  const parts = [
    ...(missing > 0 ? [`${missing} left out for missing values`] : []),
    ...(filtered > 0 ? [`${filtered} left out by filters`] : []),
  ];
  return `${unit} used, ${parts.length > 0 ? parts.join(", ") : "nobody left out"}`;
}
