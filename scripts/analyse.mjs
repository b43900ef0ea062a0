// Headless analysis of a study file: `npm run --silent analyse -- STUDY.hebel.json`.
import { runCommand } from "./ensure.mjs";

runCommand("main");
