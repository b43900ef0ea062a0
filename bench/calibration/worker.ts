import { parentPort } from "node:worker_threads";
import { simulate, type Job } from "./simulate";

parentPort?.on("message", (job: Job) => parentPort!.postMessage(simulate(job)));
