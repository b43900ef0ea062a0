import {
  basisOf,
  expectationsOf,
  PieceMaker,
  prepare,
  Simulator,
  unpackTable,
  type PackedTable,
  type Piece,
  type PieceResult,
  type PlanBasis,
  type SimulationTask,
  type StudyDefinition,
  type StudyPlan,
} from "../../core";
import { attempt, type Attempt } from "./attempt";
import { answering } from "./answering";
import { breath } from "./portions";
import type { Port } from "./scope";

/** What a thread of plans is asked. */
export type PlanRequest =
  | { kind: "piece"; key: string; task: SimulationTask; piece: Piece }
  | { kind: "basis"; task: SimulationTask }
  | { kind: "expect"; definition: StudyDefinition; table: PackedTable; plan: StudyPlan };

export type PlanAnswer = PieceResult | Attempt<PlanBasis> | Attempt<StudyPlan>;

function answer(maker: PieceMaker, request: PlanRequest): PlanAnswer {
  switch (request.kind) {
    case "piece":
      return maker.make(request.key, request.task, request.piece);
    case "basis":
      return attempt(() => basisOf(request.task));
    case "expect":
      return attempt(() => {
        const { definition, table, plan } = request;
        const settings = { ...definition.settings, replications: 0, interval: "delta" as const };
        return expectationsOf(prepare({ ...definition, settings }, unpackTable(table)), plan);
      });
  }
}

/**
 * Simulates what is asked for at a port.
 * @param shared the thread has other things to do, and is left free between pieces; until
 *   when it is wanted
 */
export function serve(port: Port, shared?: AbortSignal): void {
  const maker = new PieceMaker((task) => new Simulator(task));
  answering(port, async (request: PlanRequest) => {
    if (shared) await breath();
    shared?.throwIfAborted();
    return answer(maker, request);
  });
}
