import { ReplicateMaker, type MakerRequest, type ReplicateBlock } from "../../core";
import { answering } from "./answering";
import { inPortions } from "./portions";
import type { Port } from "./scope";

/**
 * Makes the replicates that are asked for at a port.
 * @param shared the thread has other things to do, and is left free between portions; until
 *   when it is wanted
 */
export function serve(port: Port, shared?: AbortSignal): void {
  const maker = new ReplicateMaker();
  const answer = (request: MakerRequest): ReplicateBlock | null => maker.answer(request);
  answering(
    port,
    shared ? (request: MakerRequest) => inPortions(request, answer, shared) : answer,
    (block) => (block ? [block.values.buffer as ArrayBuffer] : []),
  );
}
