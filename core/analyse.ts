import type { Table } from "./data";
import { assembleEvidence, type Evidence } from "./evidence";
import { Resampler } from "./inference";
import { prepare } from "./prepare";
import type { StudyDefinition } from "./study";

/**
 * The one entry: a study and its data in, evidence out, in this thread. The app and the command line split the same
 * replicates over workers; the numbers are identical.
 * @throws StudyProblem for anything that stops the analysis
 */
export function analyse(study: StudyDefinition, table: Table): Evidence {
  const prepared = prepare(study, table);
  const { replications } = prepared.study.settings;
  if (replications === 0) return assembleEvidence(prepared, null);
  const resampler = new Resampler(prepared.resampling);
  return assembleEvidence(prepared, {
    replicates: [resampler.replicates(0, replications)],
    jackknife: resampler.jackknife(),
  });
}
