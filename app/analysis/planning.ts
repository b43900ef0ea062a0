import {
  completePlan,
  PIECE,
  Planner,
  scaledPlan,
  smallestEffect,
  StudyProblem,
  compileTheory,
  parseTheory,
  type Goal,
  type PiecePool,
  type PlanFound,
  type SimulationTask,
  type SmallestEffect,
  type SmallestSample,
  type StudyDefinition,
  type StudyPlan,
} from "../../core";
import { plainProblem, type PlainProblem } from "../workers/attempt";
import { findBasis, planningPool } from "../workers/planning-threads";

/** What is asked of a plan. */
export type PlanQuestion =
  | { kind: "power"; people: number[] }
  | { kind: "smallest"; goal: Goal }
  | { kind: "effect"; label: string };

/** One point of a curve over the size of an effect. */
export interface SizePoint {
  factor: number;
  found: PlanFound;
}

/** What the screen sees of a plan under way. */
export interface PlanningState {
  status: "idle" | "running" | "stopped" | "done";
  question: PlanQuestion | null;
  /** By the number of people, ascending. */
  points: PlanFound[];
  /** By the size of the effect that was asked for, ascending. */
  sizes: SizePoint[];
  smallest: SmallestSample | null;
  effect: SmallestEffect | null;
  /** Asked for, and not there. */
  noEffect: boolean;
  done: number;
  total: number | null;
  secondsLeft: number | null;
  problem: PlainProblem | null;
  /** The study or its plan has changed since. */
  old: boolean;
}

/** Nothing has been asked yet. */
export const IDLE: PlanningState = {
  status: "idle",
  question: null,
  points: [],
  sizes: [],
  smallest: null,
  effect: null,
  noEffect: false,
  done: 0,
  total: null,
  secondsLeft: null,
  problem: null,
  old: false,
};

/** What a simulation depends on of a study. */
const dependsOn = ({ variables, derived, theory, settings, plan }: StudyDefinition): string =>
  JSON.stringify([variables, derived, theory, settings, plan]);

/**
 * The plan of one study under way: what was simulated stays until the study changes, whatever
 * screen is open; what was stopped goes on where it was. A plain store: `subscribe` and `snapshot`
 * suit useSyncExternalStore.
 */
export class Planning {
  private state = IDLE;
  private readonly listeners = new Set<() => void>();
  private readonly planners = new Map<string, Planner>();
  private pool: PiecePool | null = null;
  private stopper: AbortController | null = null;
  private key = "";

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly snapshot = (): PlanningState => this.state;

  /** Tells that the study stands so now: what was found of another state is marked as old. */
  follow(definition: StudyDefinition): void {
    const old = this.key !== "" && dependsOn(definition) !== this.key;
    if (old && this.state.status === "running") this.stop();
    if (old !== this.state.old) this.tell({ old });
  }

  /** Simulates until the question is answered; what is known already is not made again. */
  async ask(definition: StudyDefinition, question: PlanQuestion): Promise<void> {
    this.stop();
    const stopper = new AbortController();
    this.stopper = stopper;
    const key = dependsOn(definition);
    if (key !== this.key) {
      this.key = key;
      this.planners.clear();
      this.tell({ ...IDLE });
    }
    this.tell({
      status: "running",
      question,
      problem: null,
      old: false,
      done: 0,
      total: null,
      secondsLeft: null,
      noEffect: false,
    });
    try {
      await this.answer(definition, question, stopper.signal);
      if (this.stopper === stopper) this.tell({ status: "done", secondsLeft: null });
    } catch (error) {
      if (this.stopper !== stopper) return;
      if (stopper.signal.aborted) this.tell({ status: "stopped", secondsLeft: null });
      else this.tell({ status: "done", problem: problemOf(error), secondsLeft: null });
    } finally {
      if (this.stopper === stopper) this.rest();
    }
  }

  /** Goes on with what was stopped. */
  goOn(definition: StudyDefinition): void {
    if (this.state.question) void this.ask(definition, this.state.question);
  }

  stop(): void {
    if (!this.stopper) return;
    this.stopper.abort();
    this.rest();
    if (this.state.status === "running") this.tell({ status: "stopped", secondsLeft: null });
  }

  private rest(): void {
    this.pool?.close();
    this.pool = null;
    this.stopper = null;
  }

  private async answer(
    definition: StudyDefinition,
    question: PlanQuestion,
    signal: AbortSignal,
  ): Promise<void> {
    const plan = completePlan(definition.plan);
    const planner = await this.plannerOf(definition, plan, signal);
    if (question.kind === "effect") {
      await this.smallestEffect(definition, plan, question.label, signal);
      return;
    }
    if (question.kind === "smallest") {
      const count = this.counting(null);
      const smallest = await planner.smallest(
        question.goal,
        (found) => {
          count();
          this.put(found);
        },
        signal,
      );
      this.tell({ smallest });
      return;
    }
    const missing = question.people.filter(
      (n) => (planner.pointAt(n)?.point.samples ?? 0) < plan.samples,
    );
    const count = this.counting(missing.length * plan.samples);
    for (const people of question.people) {
      const known = planner.pointAt(people);
      if (known) this.put(known);
    }
    for (const people of missing) {
      await planner.evaluate(
        people,
        (found) => {
          count();
          this.put(found);
        },
        signal,
      );
      signal.throwIfAborted();
    }
  }

  private async smallestEffect(
    definition: StudyDefinition,
    plan: StudyPlan,
    label: string,
    signal: AbortSignal,
  ): Promise<void> {
    const names = [...definition.variables, ...definition.derived].map((v) => v.name);
    const theory = compileTheory(parseTheory(definition.theory, names).statements);
    const count = this.counting(null);
    this.tell({ sizes: [], effect: null });
    const effect = await smallestEffect(label, plan.target, async (factor) => {
      const scaled = scaledPlan(plan, theory, label, factor);
      const planner = await this.plannerOf(definition, scaled, signal).catch((error: unknown) => {
        if (error instanceof Stopped && error.problem.code === "impossible_paths") return null;
        throw error;
      });
      if (!planner) return null;
      const point = await planner.evaluate(plan.n, count, signal);
      signal.throwIfAborted();
      const sizes = [...this.state.sizes, { factor, found: planner.pointAt(plan.n)! }];
      this.tell({ sizes: sizes.sort((a, b) => a.factor - b.factor) });
      return point;
    });
    this.tell({ effect, noEffect: effect === null });
  }

  private async plannerOf(
    study: StudyDefinition,
    plan: StudyPlan,
    signal: AbortSignal,
  ): Promise<Planner> {
    const key = JSON.stringify(plan.sizes);
    const known = this.planners.get(key);
    this.pool ??= planningPool();
    const { pool } = this;
    // A pool lasts for one question, so a planner of an earlier one runs on the pool of now.
    if (known) return known;
    const task: SimulationTask = { study: withoutRows(study), plan, every: true };
    const { value: basis, problem } = await findBasis(task);
    signal.throwIfAborted();
    if (problem) throw new Stopped(problem);
    const planner = new Planner(task, (...args) => (this.pool ?? pool).run(...args), basis);
    this.planners.set(key, planner);
    return planner;
  }

  private put(found: PlanFound): void {
    const points = [
      ...this.state.points.filter((p) => p.point.people !== found.point.people),
      found,
    ];
    this.tell({ points: points.sort((a, b) => a.point.people - b.point.people) });
  }

  /**
   * Counts pieces as they come, and says how long the rest will take where their number is known.
   */
  private counting(total: number | null): () => void {
    const began = performance.now();
    this.tell({ done: 0, total });
    return () => {
      const done = this.state.done + PIECE;
      const each = (performance.now() - began) / done;
      const secondsLeft = total === null ? null : Math.max(0, ((total - done) * each) / 1000);
      this.tell({ done, secondsLeft });
    };
  }

  private tell(change: Partial<PlanningState>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }
}

/** A problem that a worker found. */
class Stopped extends Error {
  constructor(readonly problem: PlainProblem) {
    super(problem.message);
  }
}

function problemOf(error: unknown): PlainProblem {
  if (error instanceof Stopped) return error.problem;
  if (error instanceof StudyProblem) return plainProblem(error);
  const message = error instanceof Error ? error.message : String(error);
  return { code: "unexpected", message, place: {} };
}

/** Lists of rows belong to data that a plan does not have. */
function withoutRows(study: StudyDefinition): StudyDefinition {
  const { resamples, permutations, report, registered, ...rest } = study;
  void [resamples, permutations, report, registered];
  return { ...rest, log: [] };
}

const planned = new Map<string, Planning>();

/**
 * The plan of a study; the same wherever it is asked for, so that another screen does not end it.
 */
export function planningOf(study: string): Planning {
  let known = planned.get(study);
  if (!known) planned.set(study, (known = new Planning()));
  return known;
}
