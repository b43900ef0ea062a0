// Installs, builds and serves the app: `npm start`. The port is 3000, or PORT.
import { ensurePackages, run } from "./ensure.mjs";

ensurePackages();
run("npx", ["react-router", "build"]);
run("node", ["server.mjs"], { env: { NODE_ENV: "production", ...process.env } });
