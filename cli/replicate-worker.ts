import { parentPort } from "node:worker_threads";
import { ReplicateMaker, type MakerRequest } from "../core";

const maker = new ReplicateMaker();

parentPort?.on("message", (request: MakerRequest) => {
  const block = maker.answer(request);
  parentPort!.postMessage(block, block ? [block.values.buffer as ArrayBuffer] : []);
});
