import { describe, expect, it } from "vitest";
import type { StudyProblem } from "../../problems";
import { analyseMade, normals, problemOf, type MadeStudy } from "../../test-kit";

const N = 90;
const e = [0, 1].map((at) => normals(N, 700 + at));
const group = Array.from({ length: N }, (_, i) => (i % 3) + 1);
const m = group.map((g, i) => (g === 3 ? 1 : 0.2 * g) + e[0]![i]!);
const y = m.map((v, i) => 0.5 * v + e[1]![i]!);

const made = (line: string | null): MadeStudy => ({
  columns: { group, m, y },
  theory: ["H1: group raises y through m", ...(line ? [line] : [])].join("\n"),
  variables: { group: { level: "categorical", reference: "1" } },
  settings: { engine: "generalised", interval: "delta" },
});

const contrastsFor = (line: string | null): string[] =>
  analyseMade(made(line)).sections.flatMap((s) =>
    s.kind === "responses" ? s.natural.map((n) => n.contrast) : [],
  );

const stoppedBy = (line: string): StudyProblem => problemOf(made(line));

describe("levels of a treatment that a line compares", () => {
  it("are each compared with the reference, whether a line says it or not", () => {
    const all = ["2 against 1", "3 against 1"];
    expect(contrastsFor(null)).toEqual(all);
    expect(contrastsFor("compare group at 3 with 1")).toEqual(all);
  });

  it("must be among the rows", () => {
    for (const line of ["compare group at 4 with 1", "compare group at 2 with 0"]) {
      const problem = stoppedBy(line);
      expect(problem.code).toBe("treatment_level_absent");
      expect(problem.message).toMatch(/“group” is never [40] .* 1, 2, 3/);
    }
  });

  it("must be two", () => {
    expect(stoppedBy("compare group at 2 with 2").code).toBe("contrast_equal");
  });

  it("are not compared with another than the reference in silence", () => {
    const problem = stoppedBy("compare group at 3 with 2");
    expect(problem.code).toBe("compared_not_with_reference");
    expect(problem.message).toContain("Make “2” the reference on Data");
  });
});
