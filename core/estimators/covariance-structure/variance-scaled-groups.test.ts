import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../../test-kit";
import type { StructureSection } from "./types";

const n = 240;
const e = Array.from({ length: 9 }, (_, k) => normals(n, 320 + k));
const site = e[0]!.map((_, i) => (i % 2 === 0 ? "east" : "west"));
// The factor varies three times as much in the west.
const f = e[0]!.map((v, i) => (site[i] === "west" ? 1.7 * v : v));
const g = f.map((v, i) => 0.5 * v + e[1]![i]! * (site[i] === "west" ? 1.3 : 0.8));
const item = (of: number[], k: number, loading: number): number[] =>
  of.map((v, i) => loading * v + 0.7 * e[k]![i]!);
const columns = {
  site,
  a1: item(f, 2, 1),
  a2: item(f, 3, 0.8),
  a3: item(f, 4, 1.2),
  b1: item(g, 5, 1),
  b2: item(g, 6, 0.9),
  b3: item(g, 7, 0.7),
};

function found(scaling: string, line: string, options: object = {}) {
  const { sections } = analyseMade({
    columns,
    theory: `measure fa reflects a1, a2, a3 ${scaling}\nmeasure fb reflects b1, b2, b3 ${scaling}\nH1: fa raises fb\n${line}`,
    settings: { interval: "delta", options } as object,
  });
  const own = sections.find((s) => s.kind === "structure") as StructureSection;
  return {
    chi2: own.fit!.plain.chi2,
    df: own.fit!.plain.df,
    steps: own.invariance.map((step) => [step.fit?.plain.chi2 ?? NaN, step.fit?.plain.df ?? NaN]),
  };
}

describe("factors with variance 1 in groups", () => {
  it.each(["loadings", "loadings and intercepts"])(
    "with equal %s leave the variances of other groups free, as markers do",
    (parts) => {
      const line = `groups by site with ${parts} equal`;
      const marker = found("", line);
      for (const other of [
        found("with variance 1", line),
        found("", line, { scaling: "variance" }),
      ]) {
        expect(other.df).toBe(marker.df);
        expect(other.chi2).toBeCloseTo(marker.chi2, 6);
        expect(other.steps.length).toBe(marker.steps.length);
        other.steps.flat().forEach((value, at) => {
          expect(value).toBeCloseTo(marker.steps.flat()[at]!, 5);
        });
      }
      expect(marker.steps.length).toBeGreaterThan(0);
    },
  );
});
