import { parentPort } from "node:worker_threads";
import { Hand, type Work } from "./work";

const hand = new Hand();

// A fault of the program is an answer, too: the thread lives on.
parentPort?.on("message", (work: Work) => {
  try {
    parentPort!.postMessage({ done: hand.do(work) });
  } catch (error) {
    parentPort!.postMessage({ fault: error instanceof Error ? error.message : String(error) });
  }
});
