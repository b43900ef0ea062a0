import type {
  Piece,
  PieceResult,
  PieceThread,
  MakerThread,
  ReplicateBlock,
  ResamplingProblem,
  SimulationTask,
} from "../../core";

/**
 * Work that can be done anywhere: everything it depends on is in it. `key` names what several
 * pieces of work share.
 */
export type Work =
  | { kind: "piece"; key: string; task: SimulationTask; piece: Piece }
  | {
      kind: "replicates" | "jackknife";
      key: string;
      problem: ResamplingProblem;
      first: number;
      count: number;
    };

export type Done = PieceResult | ReplicateBlock;

/**
 * A thread that is given work of any kind; a problem is sent to it once for all the work that
 * shares it.
 */
export class Hand {
  private prepared = "";

  constructor(private readonly thread: MakerThread & PieceThread) {}

  async do(work: Work): Promise<Done> {
    if (work.kind === "piece") return this.thread.make(work.key, work.task, work.piece);
    const { kind, key, problem, first, count } = work;
    if (this.prepared !== key) {
      await this.thread.ask({ kind: "prepare", key, problem });
      this.prepared = key;
    }
    return (await this.thread.ask({ kind, key, first, count }))!;
  }

  end(): void {
    this.thread.end();
  }
}
