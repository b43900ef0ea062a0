// Does work of a queue: `npm run --silent worker -- --queue redis://HOST`.
import { runCommand } from "./ensure.mjs";

runCommand("worker");
