import { readFileSync } from "node:fs";
import { join } from "node:path";
import { analyse, type Evidence } from "../core";
import { readStudy } from "../formats";

const here = import.meta.dirname;

export const readCase = (name: string, file: string): string =>
  readFileSync(join(here, name, file), "utf8");

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */
export const expectedOf = (name: string): any => JSON.parse(readCase(name, "expected.json"));

/** Runs a reference study through the same reader and entry as the app and the command line. */
export function analyseCase(name: string, change: (json: any) => void = () => undefined): Evidence {
  const json = JSON.parse(readCase(name, "study.hebel.json"));
  change(json);
  const { definition, table } = readStudy(JSON.stringify(json), (path) => readCase(name, path));
  return analyse(definition, table);
}
/* eslint-enable @typescript-eslint/no-explicit-any */

/** Agreement to a relative tolerance, or absolute 1e-9 near zero, whichever is looser. */
export function agrees(
  found: number | null | undefined,
  expected: number | null,
  relative = 1e-6,
  absolute = 1e-9,
): boolean {
  if (expected === null) return found === null || found === undefined;
  if (found === null || found === undefined) return false;
  return Math.abs(found - expected) <= Math.max(relative * Math.abs(expected), absolute);
}
