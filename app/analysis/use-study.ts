import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { useFetcher, useOutletContext } from "react-router";
import type { StudyDefinition, Table } from "../../core";
import { TAB, type StoredStudy } from "../storage/database";
import { keepStrip, notePending } from "../storage/studies";
import { Analysis, type AnalysisState } from "./analysis";

/** Typing is written to storage after this pause; the estimates do not wait for it. */
const WRITE_AFTER_MS = 300;

/** What every screen of a study works with. */
export interface StudyContext {
  study: StoredStudy;
  table: Table;
  /** The definition as it stands on screen, a moment ahead of storage. */
  definition: StudyDefinition;
  /** Changes the definition; changes of one `kind` in quick succession are one step of undo. */
  edit: (patch: Partial<StudyDefinition>, kind: string) => void;
  analysis: AnalysisState;
  stop: () => void;
  resume: () => void;
}

export const useStudy = (): StudyContext => useOutletContext<StudyContext>();

/** Holds the definition that is being edited, writes it through the route's action, and keeps the analysis up to date. */
export function useStudyState(study: StoredStudy, table: Table): StudyContext {
  const fetcher = useFetcher({ key: `write ${study.id}` });
  const [definition, setDefinition] = useState(study.definition);
  const analysis = useMemo(() => new Analysis(), []);
  const state = useSyncExternalStore(analysis.subscribe, analysis.snapshot, analysis.snapshot);
  const pending = useRef<{ patch: Partial<StudyDefinition>; kind: string; timer: ReturnType<typeof setTimeout> } | null>(null);
  const submit = useRef(fetcher.submit);
  const [seenRevision, setSeenRevision] = useState(study.revision);

  // A change that this tab did not type (another tab, undo, new data) replaces what is on screen.
  if (study.revision !== seenRevision) {
    setSeenRevision(study.revision);
    if (study.origin !== TAB) setDefinition(study.definition);
  }

  useEffect(() => {
    submit.current = fetcher.submit;
  });

  const flush = useCallback(() => {
    const waiting = pending.current;
    if (!waiting) return;
    clearTimeout(waiting.timer);
    pending.current = null;
    const body = JSON.stringify({ intent: "change", patch: waiting.patch, kind: waiting.kind });
    void submit.current(body, { method: "post", action: `/study/${study.id}`, encType: "application/json" });
  }, [study.id]);

  const edit = useCallback(
    (patch: Partial<StudyDefinition>, kind: string) => {
      setDefinition((before) => ({ ...before, ...patch }));
      if (pending.current && pending.current.kind !== kind) flush();
      if (pending.current) clearTimeout(pending.current.timer);
      const whole = { ...pending.current?.patch, ...patch };
      pending.current = { patch: whole, kind, timer: setTimeout(flush, WRITE_AFTER_MS) };
      notePending(study.id, whole);
    },
    [flush, study.id],
  );

  useEffect(() => {
    addEventListener("pagehide", flush);
    addEventListener("hebel-flush", flush);
    return () => {
      removeEventListener("pagehide", flush);
      removeEventListener("hebel-flush", flush);
      flush();
    };
  }, [flush]);

  useEffect(
    () => analysis.update(definition, `${study.id} ${study.dataKey}`, table),
    [analysis, definition, study.id, study.dataKey, table],
  );

  const { evidence, status } = state;
  useEffect(() => {
    if (!evidence || status === "resampling" || status === "estimating") return;
    const verdicts = evidence.hypotheses.map(({ label, verdict, sentence }) => ({ label, verdict, sentence }));
    void keepStrip({ id: study.id, n: evidence.sample.n, verdicts });
  }, [evidence, status, study.id]);

  const stop = useCallback(() => analysis.stop(), [analysis]);
  const resume = useCallback(() => analysis.resume(), [analysis]);
  return { study, table, definition, edit, analysis: state, stop, resume };
}
