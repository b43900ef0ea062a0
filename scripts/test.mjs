// The whole check: `npm test`, on a laptop and in CI alike.
import { ensureBuild, ensureChromium, ensurePackages, run } from "./ensure.mjs";

ensurePackages();
const chromium = ensureChromium();
run("npm", ["run", "--silent", "typecheck"]);
run("npm", ["run", "--silent", "lint"]);
run("npm", ["run", "--silent", "test:unit"]);
ensureBuild();
run("npm", ["run", "--silent", "test:browser"], { env: { ...process.env, CHROMIUM: chromium } });
