// The whole check: `npm test`, on a laptop and in CI alike.
import {
  ensureBuild,
  ensureChromium,
  ensureOffice,
  ensurePackages,
  ensureRedis,
  run,
} from "./ensure.mjs";

ensurePackages();
const chromium = ensureChromium();
const office = ensureOffice();
const redis = ensureRedis();
run("npm", ["run", "--silent", "typecheck"]);
run("npm", ["run", "--silent", "lint"]);
run("npm", ["run", "--silent", "test:unit"], {
  env: {
    ...process.env,
    ...(office ? { OFFICE: office } : {}),
    ...(redis ? { REDIS: redis } : {}),
  },
});
ensureBuild();
run("npm", ["run", "--silent", "test:browser"], { env: { ...process.env, CHROMIUM: chromium } });
