import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../test-kit";
import { arrowNote, pathEffects } from "./path-numbers";

const n = 120;
const [x, e, f] = [normals(n, 5), normals(n, 6), normals(n, 7)] as [number[], number[], number[]];
const site = x.map((_, i) => i % 3);
const m = x.map((v, i) => 0.5 * v + 0.4 * site[i]! + e[i]!);
const columns = { x, m, site, w: normals(n, 8), y: m.map((v, i) => 0.5 * v + f[i]!) };
const made = (theory: string, levels: "categorical" | "binary" = "categorical") =>
  analyseMade({
    columns: { ...columns, site: levels === "binary" ? site.map((s) => Math.min(s, 1)) : site },
    theory,
    variables: { site: { level: levels } },
    settings: { replications: 0, interval: "delta" },
  });
const numbers = (evidence: ReturnType<typeof made>, from: string, to: string, raw = true) =>
  pathEffects(evidence, from, to, raw ? "raw" : "standardised").map((effect) => effect.kind);

describe("numbers on arrows", () => {
  it("are one, raw or in SDs of both", () => {
    const evidence = made("H1: x raises y through m");
    expect(numbers(evidence, "x", "m")).toEqual(["direct"]);
    expect(numbers(evidence, "x", "m", false)).toEqual(["completely_standardised"]);
    expect(numbers(evidence, "m", "x")).toEqual([]);
    expect(arrowNote(evidence)).toBe("");
  });

  it("of a categorical predictor are one for each contrast, and a sentence says which is which", () => {
    const evidence = made("H1: site affects y through m");
    const found = pathEffects(evidence, "site", "m", "raw");
    expect(found.map((effect) => effect.label)).toEqual([
      "site (1 against 0) on m",
      "site (2 against 0) on m",
    ]);
    expect(arrowNote(evidence)).toBe(
      "Numbers on the arrows of site, in order: 1 against 0; 2 against 0.",
    );
    // A contrast has no SD: it is in SDs of the outcome alone.
    expect(numbers(evidence, "site", "m", false)).toEqual([
      "partially_standardised",
      "partially_standardised",
    ]);
  });

  it("of a predictor of two values are in SDs of the outcome, never raw among standardised ones", () => {
    const evidence = made("H1: site affects y through m", "binary");
    expect(numbers(evidence, "site", "m", false)).toEqual(["partially_standardised"]);
    expect(arrowNote(evidence)).toBe("");
  });

  it("of a moderated path are the average effect", () => {
    const evidence = made("H1: w alters x to m\nH2: m raises y");
    expect(pathEffects(evidence, "x", "m", "raw").map((effect) => effect.label)).toEqual([
      "x on m, on average",
    ]);
  });

  it("of groups are those of each group, in their order", () => {
    const items = Object.fromEntries(
      ["a", "b"].flatMap((letter, k) =>
        [0, 1, 2].map((j) => [
          `${letter}${j}`,
          (k === 0 ? x : columns.y).map((v, i) => v + 0.6 * normals(n, 20 + 3 * k + j)[i]!),
        ]),
      ),
    );
    const evidence = analyseMade({
      columns: { ...items, site: site.map((s) => Math.min(s, 1)) },
      theory:
        "measure F reflects a0, a1, a2\nmeasure G reflects b0, b1, b2\nH1: F raises G\ngroups by site with loadings equal",
      variables: { site: { level: "binary" } },
      settings: { replications: 0, interval: "delta" },
    });
    const found = pathEffects(evidence, "F", "G", "raw");
    expect(found.map((effect) => effect.at)).toEqual([{ site: "0" }, { site: "1" }]);
    expect(arrowNote(evidence)).toBe("Numbers beneath each other, in order: 0; 1.");
  });

  it("of groups of composites are those of each group, too", () => {
    const items = Object.fromEntries(
      ["a", "b"].flatMap((letter, k) =>
        [0, 1].map((j) => [
          `${letter}${j}`,
          (k === 0 ? x : columns.y).map((v, i) => v + 0.6 * normals(n, 40 + 3 * k + j)[i]!),
        ]),
      ),
    );
    const evidence = analyseMade({
      columns: { ...items, site: site.map((s) => Math.min(s, 1)) },
      theory:
        "measure F combines a0, a1\nmeasure G combines b0, b1\nH1: F raises G\ngroups by site",
      variables: { site: { level: "binary" } },
      settings: { replications: 0, options: { folds: 0, permutations: 0 } },
    });
    expect(pathEffects(evidence, "F", "G", "raw").map((effect) => effect.at)).toEqual([
      { site: "0" },
      { site: "1" },
    ]);
    expect(arrowNote(evidence)).toBe("Numbers beneath each other, in order: 0; 1.");
  });

  it("in log odds beside differences of means are said to be", () => {
    const yes = columns.y.map((v) => (v > 0 ? "yes" : "no"));
    const evidence = analyseMade({
      columns: { ...columns, yes } as never,
      theory: "H1: x raises m\nH2: w alters m to yes",
    });
    expect(arrowNote(evidence)).toMatch(
      /^On the arrows: x to m for \S+ against \S+ and m to yes in log odds\.$/,
    );
  });
});
