import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["{core,formats,cli,app,demo,docs,reference,bench}/**/*.test.{ts,tsx}"],
    testTimeout: 30_000,
    setupFiles: [],
  },
});
