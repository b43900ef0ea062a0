import type { Plugin } from "vite";

export function sharedWorkers(): Plugin;
