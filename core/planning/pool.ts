import type { PieceRunner } from "./planner";
import type { Piece, PieceResult, SimulationTask } from "./simulate";

/** A thread that makes pieces, as a browser or Node starts it. */
export interface PieceThread {
  /** @param key names the task, which the thread keeps for the next piece */
  make(key: string, task: SimulationTask, piece: Piece): Promise<PieceResult>;
  end(): void;
}

/** So often a piece is tried again on a fresh thread before the fault is said. */
const MOST_TRIES = 3;

/**
 * Threads that take the next piece whenever they are free. Which thread makes which changes no
 * digit. One that dies is replaced, and its piece made again.
 */
export class PiecePool {
  private readonly threads: (PieceThread | null)[];
  private readonly names = new WeakMap<SimulationTask, string>();
  private tasks = 0;

  constructor(
    private readonly start: () => PieceThread,
    size: number,
  ) {
    this.threads = Array.from({ length: Math.max(1, size) }, () => null);
  }

  readonly run: PieceRunner = async (task, pieces, each, signal) => {
    const key = this.nameOf(task);
    const waiting = [...pieces];
    await Promise.all(
      this.threads.map(async (_, seat) => {
        for (let piece = waiting.shift(); piece; piece = waiting.shift()) {
          if (signal?.aborted) return;
          const result = await this.make(seat, key, task, piece, signal);
          if (result && !signal?.aborted) each(result);
        }
      }),
    );
  };

  /** The same for the same task, so that a thread prepares it once. */
  private nameOf(task: SimulationTask): string {
    let name = this.names.get(task);
    if (name === undefined) this.names.set(task, (name = `plan ${(this.tasks += 1)}`));
    return name;
  }

  /** @returns null for a run that was stopped */
  private async make(
    seat: number,
    key: string,
    task: SimulationTask,
    piece: Piece,
    signal?: AbortSignal,
  ): Promise<PieceResult | null> {
    for (let attempt = 1; ; attempt++) {
      const thread = (this.threads[seat] ??= this.start());
      try {
        return await thread.make(key, task, piece);
      } catch (error) {
        // A run that was stopped has had its threads ended: that is no fault.
        if (signal?.aborted) return null;
        thread.end();
        this.threads[seat] = null;
        if (attempt === MOST_TRIES) throw error;
      }
    }
  }

  /** Ends every thread; a later run starts new ones. */
  close(): void {
    this.threads.forEach((thread, seat) => {
      thread?.end();
      this.threads[seat] = null;
    });
  }
}

/** The inside of a thread that makes pieces: it holds the task it was given last. */
export class PieceMaker {
  private held: { key: string; simulator: { piece(piece: Piece): PieceResult } } | null = null;

  constructor(private readonly begin: (task: SimulationTask) => { piece(p: Piece): PieceResult }) {}

  make(key: string, task: SimulationTask, piece: Piece): PieceResult {
    if (this.held?.key !== key) this.held = { key, simulator: this.begin(task) };
    return this.held.simulator.piece(piece);
  }
}
