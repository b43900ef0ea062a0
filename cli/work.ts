import {
  PieceMaker,
  ReplicateMaker,
  Simulator,
  type Piece,
  type PieceResult,
  type ReplicateBlock,
  type ResamplingProblem,
  type SimulationTask,
} from "../core";

/** Work that can be done anywhere: everything it depends on is in it. `key` names what several pieces of work share. */
export type Work =
  | { kind: "piece"; key: string; task: SimulationTask; piece: Piece }
  | {
      kind: "replicates" | "jackknife";
      key: string;
      problem: ResamplingProblem;
      first: number;
      count: number;
    };

export type Done<W extends Work> = W["kind"] extends "piece" ? PieceResult : ReplicateBlock;

/** Does work in this thread, keeping what the last of each kind was prepared from. */
export class Hand {
  private readonly pieces = new PieceMaker((task) => new Simulator(task));
  private readonly maker = new ReplicateMaker();
  private prepared = "";

  do(work: Work): PieceResult | ReplicateBlock {
    if (work.kind === "piece") return this.pieces.make(work.key, work.task, work.piece);
    const { kind, key, problem, first, count } = work;
    if (this.prepared !== key) {
      this.maker.answer({ kind: "prepare", key, problem });
      this.prepared = key;
    }
    return this.maker.answer({ kind, key, first, count })!;
  }
}
