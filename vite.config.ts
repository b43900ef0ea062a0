import { reactRouter } from "@react-router/dev/vite";
import { defineConfig } from "vite";
import { licencesPlugin } from "./scripts/licences.mjs";
import { sharedWorkers } from "./scripts/shared-workers.mjs";

export default defineConfig({
  plugins: [sharedWorkers(), licencesPlugin(), reactRouter()],
  worker: { format: "es" },
  // A study lives in the browser: nothing is inlined as data: URLs that the content-security policy would refuse.
  // One style sheet, so that a screen opened later needs no network.
  build: {
    cssCodeSplit: false,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1500,
    // What a worker imports later is fetched by that import itself: there is no document to note
    // it in beforehand.
    modulePreload: {
      resolveDependencies: (_file, needed, { hostId }) =>
        hostId.includes("engine-tasks") ? [] : needed,
    },
    // Reading these files does nothing by itself, so a screen loads what it uses of them, however
    // much the index beside it names.
    rolldownOptions: {
      treeshake: { moduleSideEffects: [{ test: /\/(core|formats)\//, sideEffects: false }] },
    },
  },
});
