// Simulates what a plan expects: `npm run --silent simulate -- STUDY.hebel.json`.
import { runCommand } from "./ensure.mjs";

runCommand("simulate");
