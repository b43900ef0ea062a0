// Workers of the app as chunks of the same build as the page, so that all of them read one copy of
// what they share: by itself the bundler makes each worker a program of its own.
import { dirname, resolve } from "node:path";

const STARTED = /new URL\(\s*"(\.[^"]+\.worker)\.ts",\s*import\.meta\.url,?\s*\)/g;

/** @returns the plugin; sources go on saying `new Worker(new URL("./name.worker.ts", import.meta.url))` */
export function sharedWorkers() {
  return {
    name: "shared-workers",
    enforce: "pre",
    apply: "build",
    transform: {
      filter: { code: new RegExp(STARTED.source) },
      handler(code, id) {
        if (this.environment.name !== "client") return null;
        const changed = code.replace(STARTED, (_, path) => {
          const reference = this.emitFile({
            type: "chunk",
            id: `${resolve(dirname(id), path)}.ts`,
          });
          return `import.meta.ROLLUP_FILE_URL_${reference}`;
        });
        return { code: changed, map: null };
      },
    },
  };
}
