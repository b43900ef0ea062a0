import { proxy, wrap } from "comlink";
import { useCallback, useEffect, useRef, useState } from "react";
import { packTable, type Specification } from "../../core";
import type { PlainProblem } from "../workers/attempt";
import type { Tries } from "../workers/robustness-tasks";
import { Thread, type Work } from "../workers/thread";
import type { StudyContext } from "./use-study";

export interface RobustnessState {
  /** `idle` until asked for. */
  status: "idle" | "running" | "done";
  /** The ways found so far, in order. */
  found: Specification[];
  total: number;
  problem: PlainProblem | null;
  /** The study has changed since. */
  old: boolean;
}

const TRIES: Work = {
  worker: () =>
    new Worker(new URL("../workers/robustness.worker.ts", import.meta.url), { type: "module" }),
  tasks: () => import("../workers/robustness-tasks"),
};

const IDLE: RobustnessState = { status: "idle", found: [], total: 0, problem: null, old: false };

/**
 * The hypotheses over ways of analysing: started and ended by the reader, in a thread of its own.
 * @param only ways of this kind
 */
export function useRobustness(
  { definition, dataset, raw }: StudyContext,
  only?: Specification["group"],
): RobustnessState & { start: () => void; cancel: () => void } {
  const [state, setState] = useState(IDLE);
  const thread = useRef<Thread | null>(null);

  const cancel = useCallback((): void => {
    thread.current?.terminate();
    thread.current = null;
    setState((before) => ({ ...before, status: before.found.length > 0 ? "done" : "idle" }));
  }, []);

  const start = (): void => {
    thread.current?.terminate();
    const started = new Thread(TRIES);
    thread.current = started;
    setState({ ...IDLE, status: "running" });
    const current = (): boolean => thread.current === started;
    const fail = (message: string): void => {
      if (!current()) return;
      setState((before) => ({
        ...before,
        status: "done",
        problem: { code: "unexpected", message, place: {} },
      }));
    };
    started.addEventListener("error", (event) =>
      fail(
        `The comparison stopped unexpectedly (${(event as ErrorEvent).message}). Start it again.`,
      ),
    );
    const tell = proxy((done: number, total: number, specification: Specification): void => {
      if (current())
        setState((before) => ({
          ...before,
          total,
          found: [...before.found.slice(0, done - 1), specification],
        }));
    });
    wrap<Tries>(started)
      .run(definition, packTable(raw), only, tell)
      .then((problem) => {
        if (!current()) return;
        started.terminate();
        thread.current = null;
        setState((before) => ({ ...before, status: "done", problem }));
      })
      .catch((error: unknown) => fail(error instanceof Error ? error.message : String(error)));
  };

  const key = JSON.stringify([definition.theory, definition.settings]);
  const seen = useRef({ key, dataset });
  useEffect(() => {
    if (seen.current.key === key && seen.current.dataset === dataset) return;
    seen.current = { key, dataset };
    thread.current?.terminate();
    thread.current = null;
    setState((before) =>
      before.status === "idle" ? before : { ...before, status: "done", old: true },
    );
  }, [key, dataset]);
  useEffect(
    () => () => {
      thread.current?.terminate();
    },
    [],
  );
  return { ...state, start, cancel };
}
