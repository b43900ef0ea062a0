import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { demoPlannedStudy } from "../demo/planned";
import { writeStudy } from "../formats";

const folder = mkdtempSync(join(tmpdir(), "hebel-plan-"));
const path = join(folder, "planned.hebel.json");
writeFileSync(path, writeStudy(demoPlannedStudy()));

const run = (...args: string[]) =>
  spawnSync(process.execPath, ["build/cli/simulate.mjs", ...args], {
    cwd: join(import.meta.dirname, ".."),
    encoding: "utf8",
  });

describe("simulating a plan from the command line", () => {
  it("says how often each sentence is supported, the same on any number of workers", () => {
    const results = ["1", "3"].map((workers) => {
      const out = join(folder, `${workers}.json`);
      const { status, stdout } = run(
        path,
        ...["--people", "80", "--samples", "60", "--resamples", "50", "--every"],
        ...["--workers", workers, "--out", out],
      );
      expect(status).toBe(0);
      expect(stdout).toMatch(/80 people, 60 samples; all sentences supported in [\d.]+ %/);
      expect(stdout).toMatch(/^H2 +0\.102/m);
      return readFileSync(out, "utf8");
    });
    expect(results[0]).toBe(results[1]);
    const found = JSON.parse(results[0]!) as { points: { people: number; failed: number }[] };
    expect(found.points.map((p) => p.people)).toEqual([80]);
  });

  it("finds the smallest number of people for a width", () => {
    const { status, stdout } = run(
      path,
      ...["--smallest", "width:H3:0.4", "--samples", "20", "--resamples", "40"],
    );
    expect(status).toBe(0);
    expect(stdout).toMatch(
      /^\d+ people are the fewest that reach an interval of H3 no wider than 0.4/,
    );
  });

  it("refuses what no population can be, and what it does not understand", () => {
    const study = demoPlannedStudy();
    study.definition.plan!.sizes!.push({ from: ["support"], to: "belonging", size: 0.2 });
    study.definition.plan!.sizes![0]!.size = 1.4;
    const impossible = join(folder, "impossible.hebel.json");
    writeFileSync(impossible, writeStudy(study));
    const refused = run(impossible);
    expect(refused.status).toBe(1);
    expect(refused.stderr).toMatch(/^impossible_paths: The paths from/);
    expect(run().status).toBe(2);
    expect(run(path, "--people", "many").status).toBe(2);
    expect(run("nothing.json").stderr).toMatch(/^file: /);
  });
});
