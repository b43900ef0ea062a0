import { reactRouter } from "@react-router/dev/vite";
import { defineConfig } from "vite";
import { licencesPlugin } from "./scripts/licences.mjs";

export default defineConfig({
  plugins: [licencesPlugin(), reactRouter()],
  worker: { format: "es" },
  // A study lives in the browser: nothing is inlined as data: URLs that the content-security policy would refuse.
  // One style sheet, so that a screen opened later needs no network.
  build: { cssCodeSplit: false, assetsInlineLimit: 0, chunkSizeWarningLimit: 1500 },
});
