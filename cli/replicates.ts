import { bootstrapSummary, parseNumber, type BootstrapSummary } from "../core";
import { check, FormatProblem, guessSeparator, readDelimited, replicatesSchema } from "../formats";

export interface ReplicatesEvidence {
  format: "hebel-intervals";
  version: 1;
  requested: number;
  failed: number;
  jackknifeFailed: number;
  intervals: BootstrapSummary & { estimate: number };
  warnings: string[];
}

/** Intervals from replicates made elsewhere; an empty cell is a failed replicate. */
export function analyseReplicates(
  json: unknown,
  readCsv: (path: string) => string,
): ReplicatesEvidence {
  const file = check(replicatesSchema, json, "replicates file");
  const column = (path: string, name: string): number[] => {
    const text = readCsv(path);
    const { table } = readDelimited(text, { separator: guessSeparator(text), headerRow: 1 });
    const found = table.columns.find((c) => c.name === name);
    if (!found)
      throw new FormatProblem(
        `“${path}” has no column “${name}”. Columns: ${table.columns.map((c) => c.name).join(", ")}.`,
      );
    return Array.from(found.codes, (code) => parseNumber(found.dictionary[code]!));
  };
  const all = column(file.replicates.csv, file.replicates.column);
  const se =
    file.replicates.se === undefined ? null : column(file.replicates.csv, file.replicates.se);
  const kept = all.flatMap((value, i) => (Number.isFinite(value) ? [i] : []));
  if (kept.length === 0)
    throw new FormatProblem("Every replicate failed (no numbers in the column).");
  const left = file.jackknife ? column(file.jackknife.csv, file.jackknife.column) : [];
  const jackknife = left.filter((value) => Number.isFinite(value));
  const summary = bootstrapSummary({
    estimate: file.estimate,
    replicates: Float64Array.from(kept, (i) => all[i]!),
    jackknife,
    level: file.level,
    nullValue: file.null,
    ...(file.se !== undefined && se ? { se: file.se, replicateSe: kept.map((i) => se[i]!) } : {}),
  });
  return {
    format: "hebel-intervals",
    version: 1,
    requested: all.length,
    failed: all.length - kept.length,
    jackknifeFailed: left.length - jackknife.length,
    intervals: { estimate: file.estimate, ...summary },
    warnings: warningsOf(summary, all.length - kept.length),
  };
}

function warningsOf(summary: BootstrapSummary, failed: number): string[] {
  const available = [summary.percentile, summary.bc, summary.bca].filter((i) => i !== null);
  const list: [string, boolean][] = [
    ["replicates_failed", failed > 0],
    ["bc_undefined", summary.z0 === null],
    ["bca_undefined", summary.z0 !== null && summary.acceleration !== null && summary.bca === null],
    ["acceleration_zero", summary.accelerationZero],
    ["b_too_small", available.some((i) => i.tooFewReplicates)],
    ["verdict_unstable", available.some((i) => i.unsettled)],
  ];
  return list.filter(([, on]) => on).map(([code]) => code);
}
