import { describe, expect, it } from "vitest";
import { analyse } from "../analysis";
import { demoStudy } from "../../demo/study";
import { compareRuns, keptRun } from "./runs";

const { definition, table } = demoStudy();
const study = {
  ...definition,
  settings: { ...definition.settings, replications: 0, interval: "delta" as const },
};
const run = (change: Partial<typeof study>) =>
  keptRun(analyse({ ...study, ...change }, table), { ...study, ...change });

describe("runs beside each other", () => {
  const first = run({});
  it("of the same study do not differ", () => {
    const found = compareRuns(first, run({}));
    expect(found.differences).toEqual([]);
    expect([...found.verdicts, ...found.effects].some((row) => row.changed)).toBe(false);
  });
  it("name every effect once, whatever its scale, and leave out what neither run tells", () => {
    const { effects } = compareRuns(first, run({}));
    expect(new Set(effects.map((e) => e.label)).size).toBe(effects.length);
    expect(effects.map((e) => e.label)).toContain("hours on confidence, both in SDs");
    expect(first.effects.some((e) => e.estimate === null)).toBe(true);
    for (const { runs } of effects) expect(runs.some((r) => r?.estimate != null)).toBe(true);
  });
  it("say what was done differently, and mark what changes", () => {
    const theory = study.theory.replace("H4: months lowers belonging", "H4: age raises belonging");
    const second = run({
      theory,
      settings: { ...study.settings, errors: "HC3", level: 0.9999 },
      filters: [{ name: "some", active: true, rule: { kind: "rows", rows: [1, 2, 3] } }],
    });
    const found = compareRuns(first, second);
    expect(found.differences).toEqual([
      `rows used: ${first.n} and ${second.n}`,
      "confidence level: 0.95 and 0.9999",
      "errors: classical and HC3",
      "left out in the second only: some",
      "only in the first: H4: months lowers belonging",
      "only in the second: H4: age raises belonging",
    ]);
    expect(found.verdicts.find((v) => v.sentence === "months lowers belonging")).toMatchObject({
      verdicts: ["not_supported", null],
      changed: true,
    });
    expect(
      found.effects.find((e) => e.id === "direct hours > confidence")!.runs[1]!.lower,
    ).toBeLessThan(first.effects.find((e) => e.id === "direct hours > confidence")!.lower!);
    expect(found.effects.some((e) => e.changed)).toBe(true);
  });
});
