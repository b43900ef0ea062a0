import { useEffect, useState } from "react";
import type {
  DataEvidence,
  Exploration,
  ExploreQuestion,
  MeasureEvidence,
  ResidualRows,
  SettingMend,
} from "../../core";
import { withData } from "../components/data/use-summaries";
import type { Attempt } from "../workers/attempt";
import { onEngineLost } from "../workers/engine";
import type { AnalysisState } from "./analysis";
import { useAnalysis } from "./use-analysis";
import type { StudyContext } from "./use-study";

/** Screening waits until nothing has changed for this long. */
const QUIET_MS = 120;

/**
 * What the data say, screened in the worker; the last answer stays, marked as old, until the new
 * one arrives.
 */
export function useDataEvidence(context: StudyContext): FromWorker<Attempt<DataEvidence>> {
  const { definition, dataset } = context;
  const key = JSON.stringify([definition.screening, definition.settings.level, definition.theory]);
  return useFromWorker(context, [dataset, key], async (engine) => engine.screen(definition));
}

/** Reliability of the measures, updated as items come and go. */
export function useMeasures(context: StudyContext): {
  result: MeasureEvidence[] | null;
  old: boolean;
} {
  const { definition, dataset } = context;
  return useFromWorker(context, [dataset, definition.settings.level], async (engine) =>
    engine.measures(definition),
  );
}

/** Which of these items belong together, as somebody asks. */
export function useExploration(
  context: StudyContext,
  question: ExploreQuestion,
): { result: Attempt<Exploration> | null; old: boolean } {
  const { definition, dataset } = context;
  return useFromWorker(context, [dataset, JSON.stringify(question)], async (engine) =>
    engine.explore(definition, question),
  );
}

/** Settings that could be otherwise, so that a study that is refused can be estimated. */
export function useSettingMends(context: StudyContext, refused: boolean): SettingMend[] {
  const { definition } = context;
  const { result, old } = useFromWorker(context, [definition, refused], async (engine) =>
    refused ? engine.mends(definition) : [],
  );
  return old ? [] : (result ?? []);
}

/**
 * A way that leaves nobody out for missing answers, null where no engine has one; undefined until
 * that is known.
 */
export function useKeepingEverybody(context: StudyContext): SettingMend | null | undefined {
  const { definition } = context;
  const { result, old } = useFromWorker(context, [definition], async (engine) => ({
    way: await engine.keepingEverybody(definition),
  }));
  return old ? undefined : result?.way;
}

const sectionsOf = ({ evidence }: AnalysisState) => evidence?.sections;

/** Residuals of one equation of the latest analysis. */
export function useResiduals(context: StudyContext, outcome: string): ResidualRows | null {
  return useFromWorker(
    context,
    [useAnalysis(context.analysis, sectionsOf), outcome],
    async (engine) => engine.residuals(context.definition, outcome),
  ).result;
}

type Engine = Awaited<ReturnType<typeof withData>>;

/** How often a worker that dies over a question is asked it. */
const TRIES = 2;

/** The last answer of the worker; old until the next one is there. */
interface FromWorker<T> {
  result: T | null;
  old: boolean;
  /** No answer will come: the worker died over the question. */
  failed: boolean;
}

function useFromWorker<T>(
  context: StudyContext,
  depends: unknown[],
  ask: (engine: Engine) => Promise<T>,
): FromWorker<T> {
  const [state, setState] = useState<FromWorker<T>>({ result: null, old: true, failed: false });
  useEffect(() => {
    let current = true;
    let tries = 0;
    const fail = (): void => {
      if (current) setState({ result: null, old: false, failed: true });
    };
    const asking = async (): Promise<void> => {
      tries++;
      const result = await ask(await withData(context));
      if (current) setState({ result, old: false, failed: false });
      tries = 0;
    };
    const again = (): void => void asking().catch(fail);
    const timer = setTimeout(again, QUIET_MS);
    // What was awaited of a worker that died never comes; a question that was answered is not asked again.
    const end = onEngineLost(() => {
      if (tries >= TRIES) fail();
      else if (tries > 0) again();
    });
    return () => {
      current = false;
      clearTimeout(timer);
      end();
      setState((before) => ({ ...before, old: true }));
    };
    // What the answer depends on is listed by the caller.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, depends);
  return state;
}
