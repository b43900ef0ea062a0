import type { Table } from "./data";
import { assembleEvidence, type Evidence } from "./evidence";
import { Resampler } from "./inference";
import { prepare } from "./prepare";
import type { StudyDefinition } from "./study";

/** Does this interval rest on bootstrap replicates? */
export const needsBootstrap = ({ settings }: StudyDefinition): boolean => settings.replications > 0;

/**
 * The one entry: a study and its data in, evidence out, in this thread. The app and the command line split the same
 * replicates over workers; the numbers are identical.
 * @throws StudyProblem for anything that stops the analysis
 */
export function analyse(study: StudyDefinition, table: Table): Evidence {
  const prepared = prepare(study, table);
  if (!needsBootstrap(study)) return assembleEvidence(prepared, null);
  const resampler = new Resampler(prepared.resampling);
  return assembleEvidence(prepared, {
    replicates: [resampler.replicates(0, study.settings.replications)],
    jackknife: resampler.jackknife(),
  });
}
