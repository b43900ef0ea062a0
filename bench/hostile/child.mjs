// A process that reads one file after another; its parent sees to time and memory.
import { register } from "tsx/esm/api";

register();
await import("./child.ts");
