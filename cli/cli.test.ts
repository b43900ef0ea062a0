import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { unzipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { analyse, Analysis, dataEvidence, type StudyDefinition, type Table } from "../core";
import { readStudy, writeStudy } from "../formats";
import { writePack } from "../formats/pack";
import { packExtras } from "./report";
import { nodePool } from "./threads";
import { readCase } from "../reference/load";

const THREAD = new URL("../build/cli/thread.mjs", import.meta.url);

async function analyseInParallel(study: StudyDefinition, table: Table, workers: number) {
  const pool = nodePool(workers, THREAD);
  try {
    return (await Analysis.of(study, table).completeOn(pool)).evidence();
  } finally {
    pool.close();
  }
}

const root = join(import.meta.dirname, "..");
const run = (...args: string[]) =>
  spawnSync(process.execPath, ["build/cli/main.mjs", ...args], { cwd: root, encoding: "utf8" });

describe("the command line", () => {
  it("analyses the demo study without arguments", () => {
    // As people start it; the other tests start what it starts.
    const { status, stdout } = spawnSync(process.execPath, ["scripts/analyse.mjs"], {
      cwd: root,
      encoding: "utf8",
    });
    expect(status).toBe(0);
    expect(stdout).toContain("H1  hours raises belonging through confidence");
    expect(stdout).toMatch(/specific indirect: hours on belonging through confidence\s+0\.029/);
  });

  it("prints evidence as JSON, and the same to a file", () => {
    // Into a folder that does not exist yet.
    const out = join(mkdtempSync(join(tmpdir(), "hebel-")), "results", "first", "evidence.json");
    const study = "reference/simple-mediation/study.hebel.json";
    const printed = run(study);
    expect(run(study, "--out", out, "--workers", "2").status).toBe(0);
    expect(JSON.parse(readFileSync(out, "utf8"))).toEqual(JSON.parse(printed.stdout));
  });

  it("exits with 1 and a message for a study that cannot be analysed, 2 for wrong usage", () => {
    const refused = run("reference/error-collinear-sum/study.hebel.json");
    expect(refused.status).toBe(1);
    expect(refused.stderr).toMatch(/^collinear: In the equation of/);
    expect(refused.stdout).toBe("");
    const folder = mkdtempSync(join(tmpdir(), "hebel-"));
    writeFileSync(join(folder, "bad.json"), "{}");
    const bad = run(join(folder, "bad.json"));
    expect(bad.status).toBe(1);
    expect(run(join(folder, "missing.json")).stderr).toMatch(/^file: Cannot read/);
    const unwritable = run(
      "reference/simple-mediation/study.hebel.json",
      "--out",
      join(folder, "bad.json", "evidence.json"),
    );
    expect(unwritable.stderr).toMatch(/^file: Cannot write/);
    // One line, and never a stack.
    for (const { stderr } of [refused, bad, unwritable]) expect(stderr).not.toMatch(/\n\s+at /);
    expect(run("--nonsense").status).toBe(2);
  });

  it("writes the report by the ending of its file", () => {
    const folder = mkdtempSync(join(tmpdir(), "hebel-"));
    const study = join(folder, "few.hebel.json");
    const { definition, table } = readStudy(
      readCase("simple-mediation", "study.hebel.json"),
      (path) => readCase("simple-mediation", path),
    );
    definition.settings.replications = 200;
    writeFileSync(study, writeStudy({ definition, table }));
    const made = (ending: string): Buffer => {
      const path = join(folder, "reports", `report${ending}`);
      expect(run(study, "--report", path).status).toBe(0);
      return readFileSync(path);
    };
    expect(made(".html").toString()).toContain("<svg ");
    expect(made(".md").toString()).toContain("## Tests of the hypotheses");
    const media = Object.entries(unzipSync(made(".docx"))).filter(([path]) =>
      path.startsWith("word/media/"),
    );
    const points = media.filter(([path]) => path.endsWith(".png")).map(([, bytes]) => bytes);
    expect(points.length).toBeGreaterThan(0);
    expect(media).toHaveLength(2 * points.length);
    for (const png of points) {
      // 120 mm at 300 dpi, and letters: a picture without its font would be nearly all white.
      expect(Buffer.from(png).readUInt32BE(16)).toBe(Math.round((120 / 25.4) * 300));
      expect(Buffer.from(png).includes("pHYs")).toBe(true);
      expect(png.length).toBeGreaterThan(10_000);
    }
    const wrong = run(study, "--report", join(folder, "report.pdf"));
    expect(wrong.status).toBe(1);
    expect(wrong.stderr).toMatch(/^file: A report is a file that ends in/);
  });

  it("runs an archive again, and says of every number and file whether it is the same", async () => {
    const folder = mkdtempSync(join(tmpdir(), "hebel-"));
    const study = readStudy(readCase("simple-mediation", "study.hebel.json"), (path) =>
      readCase("simple-mediation", path),
    );
    study.definition.settings.replications = 200;
    const evidence = analyse(study.definition, study.table);
    const data = dataEvidence(study.definition, study.table);
    const { definition } = study;
    const extras = await packExtras({ evidence, data, definition }, true);
    const pack = (found: typeof evidence, change: typeof extras = extras): string => {
      const path = join(folder, "pack.zip");
      writeFileSync(path, writePack(study, found, data, change));
      return path;
    };
    const same = run(pack(evidence), "--verify");
    expect(same.stdout).toMatch(/same {7}effects: (\d+) of \1 numbers/);
    expect(same.stdout).toMatch(/All \d+ numbers are the same/);
    expect(same.stdout).toMatch(/same {7}report.docx\nsame {7}report.html\nAll \d+ files beside/);
    expect(same.status).toBe(0);
    // A number of the report that somebody wrote over, and a figure of somebody's own.
    const over = run(
      pack(evidence, {
        ...extras,
        reportHtml: extras.reportHtml.replace(/\d\.\d\d(?=<\/td>)/, "9.99"),
        figures: new Map([...extras.figures, ["figure-99", "<svg/>"]]),
      }),
      "--verify",
    );
    expect(over.stdout).toMatch(/DIFFERENT {2}report.html\n {2}line \d+: was “.*9\.99.*”, is “/);
    expect(over.stdout).toMatch(/NOT OURS {3}figures\/figure-99.svg/);
    expect(over.stdout).toMatch(/2 of \d+ files are not the same/);
    expect(over.status).toBe(1);
    // The last digit of one limit.
    const shown = evidence.effects[0]!.shown!;
    shown.lower = shown.lower! * (1 + 2 ** -50);
    const off = run(pack(evidence), "--verify");
    expect(off.stdout).toMatch(/DIFFERENT {2}effects/);
    expect(off.stdout).toMatch(/effects\[0\]\.shown\.lower: was /);
    expect(off.status).toBe(1);
    // The archive is a study, too; another file is no archive.
    expect(run(join(folder, "pack.zip"), "--out", join(folder, "out.json")).status).toBe(0);
    expect(run(join(folder, "out.json"), "--verify").stderr).toMatch(/is no archive/);
    writeFileSync(
      join(folder, "broken.zip"),
      readFileSync(join(folder, "pack.zip")).subarray(0, 900),
    );
    expect(run(join(folder, "broken.zip"), "--verify").stderr).toMatch(/^file: The archive/);
  });

  it("runs the example of the documentation", () => {
    const text = readFileSync(join(root, "docs/study-file.md"), "utf8");
    const example = /```json\n(\{[^]*?\n\})\n```/.exec(text)![1]!;
    const path = join(mkdtempSync(join(tmpdir(), "hebel-")), "example.hebel.json");
    writeFileSync(path, example);
    const { status, stdout } = run(path);
    expect(status).toBe(0);
    expect(JSON.parse(stdout).hypotheses[0].label).toBe("H1");
  });
});

it("gives identical bootstrap-t intervals on two workers", async () => {
  const { definition, table } = readStudy(readCase("heteroskedastic", "study.hebel.json"), (path) =>
    readCase("heteroskedastic", path),
  );
  Object.assign(definition.settings, { replications: 501, interval: "bootstrap_t", errors: "HC3" });
  const evidence = analyse(definition, table);
  expect(evidence.effects.some((e) => e.bootstrap!.bootstrapT !== null)).toBe(true);
  expect(await analyseInParallel(definition, table, 2)).toEqual(evidence);
});

it("gives identical evidence on any number of workers", async () => {
  const { definition, table } = readStudy(
    readCase("simple-mediation", "study.hebel.json"),
    (path) => readCase("simple-mediation", path),
  );
  definition.settings.replications = 1001;
  const evidence = analyse(definition, table);
  for (const workers of [2, 5])
    expect(await analyseInParallel(definition, table, workers)).toEqual(evidence);
});
