import {
  codesOf,
  levelsOf,
  MOST_LEVELS,
  numericColumn,
  orderedColumn,
  PerfectAssociation,
  stagedStatistics,
  type StagedColumn,
  type StagedStatistics,
} from "../../../ordered";
import { ModelFault } from "../arrows";
import type { PreparedSample } from "../prepared-sample";
import { casePatterns } from "../sample-moments";
import type { Specification, StructureSample } from "../specification";

/** The sample of a model with ordered variables: both stages, and what fitting sees of them. */
export interface StagedSample {
  staged: StagedStatistics;
  sample: PreparedSample;
}

/**
 * @throws ModelFault `no-data`, `no-variance`, `one-level`, `too-many-levels`,
 *   `perfect-association`
 */
export function stagedSample(
  { observed, groups }: Specification,
  ordered: ReadonlySet<string>,
  data: StructureSample,
): StagedSample {
  const [all] = data.groups;
  const rows: number[] = [];
  for (let r = 0; r < all![0]!.length; r++)
    if (all!.some((column) => !Number.isNaN(column[r]!))) rows.push(r);
  const raw = all!.map((column) => Float64Array.from(rows, (r) => column[r]!));
  const columns = raw.map((values, i) =>
    stagedColumn(observed[i]!, values, ordered.has(observed[i]!)),
  );
  const staged = statisticsOf(observed, columns);
  const centres = Float64Array.from(columns, (c) => (c.kind === "ordered" ? 0 : c.mean));
  const centred = raw.map((values, i) => values.map((y) => y - centres[i]!));
  const p = observed.length;
  const means = new Float64Array(p);
  const indices = Int32Array.from({ length: p }, (_, i) => i);
  const { n, covariance } = staged;
  const group = {
    name: groups[0]!.name,
    n,
    columns: centred,
    patterns: casePatterns(centred),
    moments: [{ n, indices, means, covariance }],
    saturated: { means, covariance },
    apart: [],
  };
  const empty = all![0]!.length - rows.length;
  return { staged, sample: { groups: [group], missing: false, empty, centres: [centres] } };
}

function stagedColumn(name: string, values: Float64Array, ordered: boolean): StagedColumn {
  const levels = levelsOf(values);
  if (levels.length === 0)
    throw new ModelFault("no-data", `“${name}” has no values at all.`, [name]);
  if (!ordered) {
    if (levels.length === 1) throw new ModelFault("no-variance", `“${name}” never varies.`, [name]);
    return numericColumn(values);
  }
  if (levels.length === 1)
    throw new ModelFault("one-level", `All answers to “${name}” are the same.`, [name]);
  if (levels.length > MOST_LEVELS)
    throw new ModelFault("too-many-levels", `“${name}” has ${levels.length} levels.`, [name], {
      levels: levels.length,
      most: MOST_LEVELS,
    });
  return orderedColumn(codesOf(values, levels), levels);
}

function statisticsOf(
  observed: readonly string[],
  columns: readonly StagedColumn[],
): StagedStatistics {
  try {
    return stagedStatistics(columns);
  } catch (error) {
    if (!(error instanceof PerfectAssociation)) throw error;
    const names = [observed[error.a]!, observed[error.b]!];
    throw new ModelFault("perfect-association", `${names.join(" and ")} go together.`, names);
  }
}
