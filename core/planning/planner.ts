import { claimsInOrder } from "./claims-in-order";
import { exactAt, exactPowerOf, type ExactPower } from "./exact-of";
import { pointOf, type PlannedPoint } from "./results";
import { smallestSample, type Goal, type SmallestSample } from "./search";
import { Simulator, type Piece, type PieceResult, type SimulationTask } from "./simulate";

/**
 * So many samples are one piece, whoever makes it: pieces must not depend on the number of workers.
 */
export const PIECE = 20;

/**
 * Makes pieces somewhere: in this thread, on others, on other machines. Results may come in any
 * order.
 */
export type PieceRunner = (
  task: SimulationTask,
  pieces: readonly Piece[],
  each: (result: PieceResult) => void,
  signal?: AbortSignal,
) => Promise<void>;

/** Samples of so many people, cut into pieces. */
export function piecesOf(people: number, samples: number, from = 0): Piece[] {
  const pieces: Piece[] = [];
  for (let first = from; first < samples; first += PIECE)
    pieces.push({ people, first, count: Math.min(PIECE, samples - first) });
  return pieces;
}

/** A point with what is known without simulation. */
export interface PlanFound {
  point: PlannedPoint;
  /** Exact power by sentence, where there is one. */
  exact: (number | null)[];
  /** What that is the power of; for the working. */
  forms?: (ExactPower | null)[];
}

/** What a plan says before anything is simulated: plain data, so that a worker can find it. */
export interface PlanBasis {
  labels: string[];
  /** The effects of the population, by sentence. */
  truths: (number | null)[];
  exact: (ExactPower | null)[];
  /** What of each outcome's variance the theory explains. */
  explained: Record<string, number>;
}

/** @throws StudyProblem where the plan contradicts itself */
export function basisOf(task: SimulationTask): PlanBasis {
  const simulator = new Simulator(task);
  const { population } = simulator;
  return {
    labels: simulator.labels,
    truths: simulator.truths(),
    exact: claimsInOrder(population.theory).map((claim) =>
      exactPowerOf(population, task.plan, claim),
    ),
    explained: Object.fromEntries(population.explained),
  };
}

/**
 * A plan under way: what has been made is kept by the number of people, so that nothing is made
 * twice.
 */
export class Planner {
  private readonly made = new Map<number, PieceResult[]>();

  constructor(
    readonly task: SimulationTask,
    private readonly run: PieceRunner,
    readonly basis: PlanBasis = basisOf(task),
  ) {}

  /** Which test the exact power of each sentence is of; null where there is none. */
  get exactTests(): (ExactPower["test"] | null)[] {
    return this.basis.exact.map((e) => e?.test ?? null);
  }

  exactAt(people: number): (number | null)[] {
    const alpha = 1 - this.task.study.settings.level;
    return this.basis.exact.map((e) => e && exactAt(e, people, alpha));
  }

  /** What is known of so many people by now; null before the first piece. */
  pointAt(people: number): PlanFound | null {
    const pieces = this.made.get(people);
    return pieces && pieces.length > 0
      ? {
          point: pointOf(this.basis.labels, this.basis.truths, pieces),
          exact: this.exactAt(people),
          forms: this.basis.exact,
        }
      : null;
  }

  /** Simulates so many people as far as the plan asks; what was made before is not made again. */
  async evaluate(
    people: number,
    each: (found: PlanFound) => void = () => undefined,
    signal?: AbortSignal,
  ): Promise<PlannedPoint> {
    const pieces = this.made.get(people) ?? [];
    this.made.set(people, pieces);
    const known = new Set(pieces.map((p) => p.first));
    const missing = piecesOf(people, this.task.plan.samples).filter((p) => !known.has(p.first));
    await this.run(
      this.task,
      missing,
      (result) => {
        pieces.push(result);
        each(this.pointAt(people)!);
      },
      signal,
    );
    return pointOf(this.basis.labels, this.basis.truths, pieces);
  }

  /**
   * The smallest number of people for a goal.
   * @throws StudyProblem `target_not_reached`
   */
  smallest(
    goal: Goal,
    each?: (found: PlanFound) => void,
    signal?: AbortSignal,
  ): Promise<SmallestSample> {
    const { plan } = this.task;
    return smallestSample(goal, plan.target, plan.n, async (people) => {
      const point = await this.evaluate(people, each, signal);
      signal?.throwIfAborted();
      return point;
    });
  }
}

/** Makes pieces in this thread, one after the other. */
export const inThisThread: PieceRunner = (task, pieces, each, signal) => {
  const simulator = new Simulator(task);
  for (const piece of pieces) {
    if (signal?.aborted) break;
    each(simulator.piece(piece));
  }
  return Promise.resolve();
};
