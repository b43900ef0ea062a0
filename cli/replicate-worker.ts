import { parentPort } from "node:worker_threads";
import { Resampler, type ReplicateBlock, type ResamplingProblem } from "../core";

export interface Request {
  kind: "ping" | "replicates";
  problem?: ResamplingProblem;
  first?: number;
  count?: number;
}
export type Reply = "ready" | ReplicateBlock;

parentPort?.on("message", (request: Request) => {
  if (request.kind === "ping" || !request.problem) {
    parentPort!.postMessage("ready");
    return;
  }
  const block = new Resampler(request.problem).replicates(request.first ?? 0, request.count ?? 0);
  parentPort!.postMessage(block, [block.values.buffer as ArrayBuffer]);
});
