import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../../test-kit";
import type { StructureSection } from "./types";

const n = 300;
const f = normals(n, 71);
const site = f.map((_, i) => i % 2);
const y = f.map((v, i) => 0.5 * v + normals(n, 72)[i]!);
/** The third item measures half as strongly in the second group. */
const columns = {
  site,
  a0: f.map((v, i) => v + 0.6 * normals(n, 73)[i]!),
  a1: f.map((v, i) => 0.9 * v + 0.6 * normals(n, 74)[i]!),
  a2: f.map((v, i) => (site[i] === 0 ? 1 : 0.4) * v + 0.6 * normals(n, 75)[i]!),
  y,
};
const THEORY = "measure F reflects a0, a1, a2\nH1: F raises y";
const fitted = (groups: string, level: "binary" | "categorical" = "binary"): StructureSection =>
  analyseMade({
    columns: {
      ...columns,
      site: level === "binary" ? site : site.map((s, i) => (i % 5 === 0 ? 2 : s)),
    },
    theory: `${THEORY}\n${groups}`,
    variables: { site: { level } },
    settings: { replications: 0, interval: "delta" },
  }).sections.flatMap((s) => (s.kind === "structure" ? [s] : []))[0]!;
const released = (section: StructureSection) => section.changes.filter((c) => c.kind === "release");

describe("letting an equality between groups go", () => {
  const held = fitted("groups by site with loadings equal");

  it("is named by the arrow that differs, as the line on groups writes it", () => {
    const [largest] = released(held);
    expect(largest).toMatchObject({
      arrow: "F -> a2",
      change: { free: { kind: "path", from: "F", to: "a2" } },
    });
    expect(largest!.p).toBeLessThan(0.001);
    expect(largest!.words).toMatch(/^Let what “F” does to “a2” be its own in 1: χ² would fall by/);
  });

  it("does to the fit about what it promised", () => {
    const [largest] = released(held);
    const free = fitted("groups by site with loadings equal but F to a2 free");
    expect(held.fit!.plain.df - free.fit!.plain.df).toBe(1);
    const fall = held.fit!.plain.chi2 - free.fit!.plain.chi2;
    expect(fall / largest!.mi).toBeGreaterThan(0.7);
    expect(fall / largest!.mi).toBeLessThan(1.4);
    expect(released(free).map((c) => c.arrow)).not.toContain("F -> a2");
  });

  it("names variances and intercepts by their variable", () => {
    const all = released(fitted("groups by site with loadings, intercepts, residuals equal"));
    const kinds = new Set(
      all.map((c) => (c.change && "free" in c.change ? c.change.free.kind : "")),
    );
    expect(kinds).toEqual(new Set(["path", "intercept", "variance"]));
  });

  it("among three groups says that the line lets all of them differ, and does so", () => {
    const held3 = fitted("groups by site with loadings equal", "categorical");
    const [largest] = released(held3);
    expect(largest).toMatchObject({ change: { free: { kind: "path", from: "F", to: "a2" } } });
    expect(largest!.words).toMatch(/Tried, it differs between all 3 groups\.$/);
    const free = fitted("groups by site with loadings equal but F to a2 free", "categorical");
    expect(held3.fit!.plain.df - free.fit!.plain.df).toBe(2);
    expect(released(free).map((c) => c.arrow)).not.toContain("F -> a2");
  });
});
