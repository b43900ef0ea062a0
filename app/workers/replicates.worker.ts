import { ReplicateMaker, type MakerRequest } from "../../core";

const maker = new ReplicateMaker();

addEventListener("message", ({ data }: MessageEvent<MakerRequest>) => {
  const block = maker.answer(data);
  postMessage(block, { transfer: block ? [block.values.buffer as ArrayBuffer] : [] });
});
