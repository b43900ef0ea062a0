import { describe, expect, it } from "vitest";
import { effectsCsv } from "../../formats";
import { composeReport, DEFAULT_REPORT } from "../report";
import { analyseMade, madeStudy, normals } from "../test-kit";
import { cautionsOf, cautionsTold } from "./cautions";
import type { Evidence } from "./types";

const codes = ({ hypotheses }: Evidence, label: string): string[] =>
  hypotheses.find((h) => h.label === label)!.cautions.map((c) => c.code);

describe("warnings that touch a claim", () => {
  const n = 90;
  const [x, e, f, g] = [normals(n, 1), normals(n, 2), normals(n, 3), normals(n, 4)];
  const m = x.map((v, i) => 0.5 * v + e[i]!);
  const columns = {
    x,
    m,
    y: m.map((v, i) => (0.9 * v + f[i]! > 2.2 ? 1 : 0)),
    z: g.map((v, i) => 0.4 * x[i]! + v),
  };
  const made = {
    columns,
    theory: "H1: m raises y\nH2: x raises m\nH3: x raises z",
    variables: { y: { level: "binary" as const } },
    settings: { engine: "generalised", interval: "delta" as const },
  };
  const evidence = analyseMade(made);

  it("are those about an outcome on its way, and no others", () => {
    expect(evidence.warnings.map((w) => w.code)).toContain("few_events");
    expect(codes(evidence, "H1")).toContain("few_events");
    expect(codes(evidence, "H2")).toEqual([]);
    expect(codes(evidence, "H3")).toEqual([]);
  });

  it("stand in the report as a part and under the table, and in the file of effects, with their numbers", () => {
    const [told] = cautionsTold(evidence.hypotheses);
    expect(told).toMatch(/^H1: /);
    expect(told).toMatch(/only \d+ of/);
    const { definition } = madeStudy(made);
    const report = composeReport({ evidence, data: null, definition }, DEFAULT_REPORT);
    const words = (kind: string) =>
      report.blocks.filter((b) => b.kind === kind).map((b) => JSON.stringify(b));
    const plainly = told!.slice(0, 60);
    expect(words("heading").join()).toContain("Limits of these results");
    expect(words("paragraph").join()).toContain(plainly);
    const table = words("table").find((text) => text.includes('"hypotheses"'))!;
    expect(table).toContain(plainly);
    const row = effectsCsv(evidence)
      .split("\r\n")
      .find((line) => line.startsWith("m on y,direct"))!;
    expect(row).toContain("H1: ");
  });

  it("concern resamples only where a verdict rests on them, and only where many failed", () => {
    const scope = { from: "x", to: "y", chains: [], moderators: [], effects: [], components: [] };
    const failed = (count: number) => [
      { code: "replicates_failed", message: "", about: [], data: { failed: count, done: 1000 } },
    ];
    const read = (reference: string, count: number) =>
      cautionsOf({ ...scope, claim: { reference } as never }, failed(count) as never, () => []);
    expect(read("bootstrap", 20)).toHaveLength(1);
    expect(read("bootstrap", 10)).toHaveLength(0);
    expect(read("t", 20)).toHaveLength(0);
  });

  it("reach a construct through its items", () => {
    const scope = { from: "A", to: "B", chains: [], moderators: [], effects: [], components: [] };
    const about = [{ code: "vif_high", message: "", about: ["b2"], data: {} }] as never;
    const of = (items: Record<string, string[]>) =>
      cautionsOf({ ...scope, claim: null }, about, (name) => items[name] ?? []);
    expect(of({ B: ["b1", "b2"] })).toHaveLength(1);
    expect(of({ B: ["b1"], C: ["b2"] })).toHaveLength(0);
  });

  it("are told once for all the claims that they touch", () => {
    const caution = (message: string) => ({ message }) as never;
    expect(
      cautionsTold([
        { label: "H1", cautions: [caution("Few."), caution("Own.")] },
        { label: "H2", cautions: [caution("Few.")] },
      ]),
    ).toEqual(["All hypotheses: Few.", "H1: Own."]);
  });
});

describe("a claim about several steps that bias-corrected intervals support", () => {
  const n = 150;
  const [x, e, f, u] = [normals(n, 31), normals(n, 32), normals(n, 33), normals(n, 34)];
  /** The step between the mediators as its estimate: a stated number of its errors from zero. */
  const study = (between: number, interval: "bca" | "percentile") => {
    const m = x.map((v, i) => 0.6 * v + e[i]!);
    const k = m.map((v, i) => between * v + f[i]!);
    return analyseMade({
      columns: { x, m, k, y: k.map((v, i) => 0.6 * v + u[i]!) },
      theory: "H1: x affects y through m then k",
      settings: { interval, replications: 1000 },
    });
  };
  const weak = (evidence: Evidence) => codes(evidence, "H1").includes("bc_weak_step");

  it("says so where one step is not clear by itself, and only then", () => {
    const strong = study(0.6, "bca");
    expect(strong.hypotheses[0]!.verdict).toBe("supported");
    expect(weak(strong)).toBe(false);
    // Between the two, somewhere, the path is found and its middle step is not.
    const found = Array.from({ length: 40 }, (_, i) => study(0.005 * i, "bca")).filter(
      ({ hypotheses }) => hypotheses[0]!.verdict === "supported",
    );
    expect(found.some(weak)).toBe(true);
    for (const evidence of found) {
      const step = evidence.effects.find((row) => row.id === "direct m > k")!.shown!;
      expect(weak(evidence)).toBe(step.lower! <= 0 && step.upper! >= 0);
    }
    expect(weak(study(0, "bca"))).toBe(false);
    expect(weak(study(0.6, "percentile"))).toBe(false);
  });
});

describe("what words of cause and effect rest on", () => {
  const n = 80;
  const x = normals(n, 61);
  const m = x.map((v, i) => 0.5 * v + normals(n, 62)[i]!);
  const columns = { x, m, y: m.map((v, i) => 0.5 * v + normals(n, 63)[i]!) };
  const told = (theory: string, conditions: boolean): string[] => {
    const { definition } = madeStudy({ columns, theory });
    const evidence = analyseMade({ columns, theory });
    const report = composeReport(
      { evidence, data: null, definition },
      { ...DEFAULT_REPORT, conditions },
    );
    return report.blocks
      .map((b) => JSON.stringify(b))
      .filter((b) => b.includes("cause and effect"));
  };
  it("stands once, in one sentence, where something mediates, unless it is not wanted", () => {
    const [only, ...more] = told("H1: x raises y through m", true);
    expect(more).toEqual([]);
    expect(only).toContain("m comes after x and before y");
    expect(told("H1: x raises y through m", false)).toEqual([]);
    expect(told("H1: x raises y", true)).toEqual([]);
  });
});
