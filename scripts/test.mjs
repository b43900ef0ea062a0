// The whole check: `npm test`, on a laptop and in CI alike.
import { ensureBuild, ensureChromium, ensureOffice, ensurePackages, run } from "./ensure.mjs";

ensurePackages();
const chromium = ensureChromium();
const office = ensureOffice();
run("npm", ["run", "--silent", "typecheck"]);
run("npm", ["run", "--silent", "lint"]);
run("npm", ["run", "--silent", "test:unit"], {
  env: { ...process.env, ...(office ? { OFFICE: office } : {}) },
});
ensureBuild();
run("npm", ["run", "--silent", "test:browser"], { env: { ...process.env, CHROMIUM: chromium } });
