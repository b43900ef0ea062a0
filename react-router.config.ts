import { join } from "node:path";
import type { Config } from "@react-router/dev/config";
import { buildServiceWorker } from "./scripts/offline.mjs";

export default {
  appDirectory: "app",
  ssr: true,
  // Every route is known from the start, so moving between screens needs no network.
  routeDiscovery: { mode: "initial" },
  buildEnd: ({ reactRouterConfig: { appDirectory, buildDirectory } }) =>
    buildServiceWorker(
      join(buildDirectory, "client"),
      join(appDirectory, "offline/service-worker.ts"),
    ),
} satisfies Config;
