import {
  startTransition,
  useCallback,
  useEffect,
  useMemo,
  useState,
  type Dispatch,
  type SetStateAction,
} from "react";
import { useOutletContext, useRevalidator } from "react-router";
import {
  buildDataset,
  linesOf,
  type Dataset,
  type Evidence,
  type StudyDefinition,
  type Table,
} from "../../core";
import { TAB, type StoredStudy } from "../storage/database";
import { useAsk } from "../actions/asking";
import type { StudyOutcome } from "../actions/study-action";
import { dataKeyOf, keepStrip } from "../storage/studies";
import { Analysis } from "./analysis";
import { Writer } from "./writer";

/** What every screen of a study works with. */
export interface StudyContext {
  study: StoredStudy;
  /** The data as they were imported. */
  raw: Table;
  /** The data as analyses see them: corrected, with derived variables and scores. */
  dataset: Dataset;
  /** Names this state of the raw data in the workers. */
  dataKey: string;
  /**
   * The definition as it stands on screen, a moment ahead of storage; its log is the stored one.
   */
  definition: StudyDefinition;
  /**
   * Changes the definition; changes of one `kind` in quick succession are one step of undo. `why`
   * goes into the log.
   */
  edit: (patch: Partial<StudyDefinition>, kind: string, why?: string) => void;
  /** Writes the study down; tells what could not be written. */
  writer: Writer;
  /**
   * The running analysis; `useAnalysis` reads what it tells, and only who reads it is drawn again
   * with it.
   */
  analysis: Analysis;
}

export const useStudy = (): StudyContext => useOutletContext<StudyContext>();

/**
 * Holds the definition that is being edited, writes it through the route's action, and keeps the
 * analysis up to date.
 * @param known evidence kept of the study as it was opened
 */
export function useStudyState(
  study: StoredStudy,
  raw: Table,
  known: Evidence | null,
): StudyContext {
  const [edited, setDefinition] = useState(study.definition);
  const [seenRevision, setSeenRevision] = useState(study.revision);
  const [replaced, setReplaced] = useState(false);
  const dataKey = dataKeyOf(study);
  const { edit, writer, show } = useWriting(study, setDefinition);

  // A change that this tab did not type (another tab, undo, new data) replaces what is on screen.
  // It may have been read just before a change of this tab was through, and arrive after it; the
  // state with that change then brings it back.
  if (study.revision !== seenRevision) {
    const others = study.origin !== TAB;
    setSeenRevision(study.revision);
    if (others || replaced) show(study);
    setReplaced(others);
  }
  const definition = useMemo(
    () => ({ ...edited, log: study.definition.log }),
    [edited, study.definition.log],
  );
  const dataset = useDataset(definition, dataKey, raw);
  // What was known when the study was opened, whatever the loader says later.
  const [analysis] = useState(() =>
    Analysis.of(known && { evidence: known, definition, key: dataKey }),
  );
  useEffect(() => analysis.watch(), [analysis]);
  useEffect(() => analysis.update(definition, dataKey, raw), [analysis, definition, dataKey, raw]);

  useEffect(() => keepStripOf(analysis, study.id), [analysis, study.id]);
  return useMemo(
    () => ({ study, raw, dataset, dataKey, definition, edit, writer, analysis }),
    [study, raw, dataset, dataKey, definition, edit, writer, analysis],
  );
}

/** Writes the verdicts for the shelf whenever a run has come to rest; returns how to end that. */
function keepStripOf(analysis: Analysis, id: string): () => void {
  let kept: Evidence | null = null;
  const keep = (): void => {
    const { evidence, status } = analysis.snapshot();
    if (!evidence || evidence === kept || status === "resampling" || status === "estimating")
      return;
    kept = evidence;
    const verdicts = evidence.hypotheses.map(({ label, verdict, sentence, cautions }) => ({
      label,
      verdict,
      sentence,
      cautions,
    }));
    // A full store costs the shelf its marks, not the reader anything.
    void keepStrip({ id, n: evidence.sample.n, verdicts }).catch(() => undefined);
  };
  keep();
  return analysis.subscribe(keep);
}

/**
 * The dataset, made anew only when something it depends on has changed: measures, but not
 * hypotheses.
 */
function useDataset(
  { variables, derived, corrections, filters, theory }: StudyDefinition,
  dataKey: string,
  raw: Table,
): Dataset {
  const measures = linesOf(theory, "measure").join("\n");
  const key = JSON.stringify([dataKey, variables, derived, corrections, filters, measures]);
  return useMemo(
    () => buildDataset({ variables, derived, corrections, filters, theory: measures }, raw),
    // The key holds everything the dataset depends on.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [key],
  );
}

/** Writes through the route's action, and at once when the page is left. */
function useWriting(
  { id, definition: stored, revision }: StoredStudy,
  setDefinition: Dispatch<SetStateAction<StudyDefinition>>,
) {
  const ask = useAsk<StudyOutcome>(`write ${id}`);
  const { revalidate } = useRevalidator();
  const [lost, setLost] = useState<Partial<StudyDefinition> | null>(null);
  const [writer] = useState(
    () =>
      new Writer(id, stored, revision, async (request) => {
        const outcome = await ask(request, `/study/${id}`);
        if (outcome?.ok && outcome.lost) {
          // The other's version is read before it is shown, also where a newer change has taken
          // this one's place in the router.
          await revalidate();
          startTransition(() => setLost(outcome.lost));
        }
        return outcome;
      }),
  );
  // A state that this tab did not type. The writer hears of it after it has been drawn: what is
  // typed before that was typed over the state before. It hears what was drawn, not what is stored,
  // since what waited to be written may have been sent by then.
  const [shown, setShown] = useState<Pick<StoredStudy, "definition" | "revision"> | null>(null);
  const show = (state: Pick<StoredStudy, "definition" | "revision">): void => {
    const definition = writer.over(state.definition, state.revision);
    setDefinition(definition);
    setShown({ definition, revision: state.revision });
  };
  useEffect(() => {
    if (shown) writer.seen(shown.definition, shown.revision);
  }, [shown, writer]);
  useEffect(() => {
    // Where another tab's version stands, the screen shows that; this tab's is kept beside it.
    if (lost) show({ definition: stored, revision });
    // What was lost is shown once, with the study as it stood then.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [lost]);

  const edit = useCallback(
    (patch: Partial<StudyDefinition>, kind: string, why = "") => {
      setDefinition((before) => ({ ...before, ...patch }));
      writer.edit(patch, kind, why);
    },
    [writer, setDefinition],
  );

  useEffect(() => {
    const leave = (): void => void writer.flush();
    addEventListener("pagehide", leave);
    return () => {
      removeEventListener("pagehide", leave);
      leave();
    };
  }, [writer]);
  return { edit, writer, show };
}
