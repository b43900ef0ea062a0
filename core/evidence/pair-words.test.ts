import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../test-kit";
import { pairWords, repeatsCodeColumn } from "./pair-words";

const n = 90;
const [x, w, e, f] = [11, 12, 13, 14].map((k) => normals(n, k)) as [
  number[],
  number[],
  number[],
  number[],
];
const m = x.map((v, i) => 0.5 * v + (i % 3) * 0.3 + e[i]!);
const made = (theory: string) =>
  analyseMade({
    columns: { x, w, m, site: x.map((_, i) => i % 3), y: m.map((v, i) => 0.4 * v + f[i]!) },
    theory,
    variables: { site: { level: "categorical" } },
    settings: { replications: 0, interval: "delta" },
  });

describe("what leads to what", () => {
  it("names the levels that a code column compares, and a product as a product", () => {
    const evidence = made("H1: site affects y through m\nH2: w alters x to m");
    const names = new Set(evidence.effects.map((effect) => pairWords(evidence, effect)));
    for (const wanted of [
      "site (1 against 0) on m",
      "site (2 against 0) on y",
      "site (2 against 1) on y",
      "x × w on m",
      "m on y",
    ])
      expect([...names]).toContain(wanted);
    expect([...names].some((name) => name.includes("site."))).toBe(false);
  });

  it("is nothing for a quantity of one's own", () => {
    const evidence = made("H1: x raises y through m\ndefine twice as 2 * H1");
    const own = evidence.effects.find((effect) => !effect.from)!;
    expect(pairWords(evidence, own)).toBe("");
  });

  it("does not stumble over a name with the word in it", () => {
    const evidence = made("H1: x raises y");
    const [effect] = evidence.effects;
    expect(pairWords(evidence, { ...effect!, from: "hours on site", to: "y" })).toBe(
      "hours on site on y",
    );
  });
});

describe("comparisons that say nothing new", () => {
  it("are those with the reference level; the others are kept", () => {
    const evidence = made("H1: site affects y through m");
    const comparisons = evidence.effects.filter((effect) => effect.kind === "comparison");
    const repeated = comparisons.filter((effect) => repeatsCodeColumn(evidence, effect));
    expect(comparisons.length).toBeGreaterThan(0);
    expect(repeated.every((effect) => pairWords(evidence, effect).includes("against 0"))).toBe(
      true,
    );
    const kept = comparisons.filter((effect) => !repeated.includes(effect));
    expect(kept.length).toBeGreaterThan(0);
    expect(kept.every((effect) => pairWords(evidence, effect).includes("2 against 1"))).toBe(true);
    // An effect itself repeats nothing.
    const direct = evidence.effects.find((effect) => effect.kind === "direct")!;
    expect(repeatsCodeColumn(evidence, direct)).toBe(false);
  });
});
