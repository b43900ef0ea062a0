import { Analysis } from "./analysis";
import type { Table } from "../data";
import type { Evidence } from "../evidence";
import type { StudyDefinition } from "../study";

/**
 * A study and its data in, evidence out, in this thread.
 * @throws StudyProblem for anything that stops the analysis
 */
export const analyse = (study: StudyDefinition, table: Table): Evidence =>
  Analysis.of(study, table).complete().evidence();
