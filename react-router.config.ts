import type { Config } from "@react-router/dev/config";

export default {
  appDirectory: "app",
  ssr: true,
  // Every route is known from the start, so moving between screens needs no network.
  routeDiscovery: { mode: "initial" },
} satisfies Config;
