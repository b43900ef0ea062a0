// Threads do not inherit the loader of their parent, so each registers it before loading TypeScript.
import { register } from "tsx/esm/api";

register();
await import("./thread.ts");
