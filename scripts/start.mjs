// Installs, builds where sources have changed, and serves the app: `npm start`. The port is 3000,
// or PORT.
import { ensureBuild, ensurePackages, run } from "./ensure.mjs";

ensurePackages();
ensureBuild();
run("node", ["server.mjs"], { env: { NODE_ENV: "production", ...process.env } });
