import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../../test-kit";

const n = 120;
const [f, g] = [normals(n, 41), normals(n, 42)] as [number[], number[]];
const second = f.map((v, i) => 0.6 * v + 0.8 * g[i]!);
const columns = Object.fromEntries(
  ["a", "b"].flatMap((letter, k) =>
    [0, 1, 2].map((j) => [
      `${letter}${j}`,
      (k === 0 ? f : second).map((v, i) => v + 0.7 * normals(n, 50 + 3 * k + j)[i]!),
    ]),
  ),
);
const sectionAt = (level: number, replications = 100) =>
  analyseMade({
    columns,
    theory: "measure F reflects a0, a1, a2\nmeasure G reflects b0, b1, b2\nH1: F raises G",
    settings: { level, replications, interval: "percentile" },
  }).sections.flatMap((s) => (s.kind === "structure" ? [s] : []))[0]!;

describe("limits of the measurement", () => {
  it("are at the level of the study, and say so", () => {
    const [at90, at99] = [sectionAt(0.9), sectionAt(0.99)];
    expect([at90.method.level, at99.method.level]).toEqual([0.9, 0.99]);
    const [narrow, wide] = [at90.measurement[0]!.htmt[0]!, at99.measurement[0]!.htmt[0]!];
    expect(narrow.htmt).toBe(wide.htmt);
    expect(narrow.lower!).toBeGreaterThan(wide.lower!);
    expect(narrow.upper!).toBeLessThan(wide.upper!);
    expect(narrow.lower!).toBeLessThan(narrow.htmt!);
    expect(narrow.upper!).toBeGreaterThan(narrow.htmt!);
  });

  it("are not made before anything is resampled", () => {
    expect(sectionAt(0.95, 0).measurement[0]!.htmt[0]).toMatchObject({ lower: null, upper: null });
  });
});
