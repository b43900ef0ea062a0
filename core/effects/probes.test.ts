import { describe, expect, it } from "vitest";
import { prepare } from "../preparation";
import type { ProbeChoice } from "../study";
import { madeStudy } from "../test-kit";
import { combinations, middleOf, probeGrid, type Moderator } from "./probes";
import { COLUMNS, made, mean, sd } from "../test-kit/second-route";

const { w, v, x } = COLUMNS;

function moderatorsOf(theory: string, probes: Record<string, ProbeChoice[]> = {}): Moderator[] {
  const { definition, table } = madeStudy(made(theory, { probes }));
  return prepare(definition, table).context.moderators;
}
const one = (choice: ProbeChoice[]): Moderator =>
  moderatorsOf("H1: w strengthens x to m", { w: choice })[0]!;

/** The quantile at rank (n + 1) q, between neighbours. */
function quantile(values: number[], q: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  const g = (sorted.length + 1) * q;
  const j = Math.floor(g);
  return sorted[j - 1]! + (g - j) * (sorted[j]! - sorted[j - 1]!);
}

describe("where moderators are looked at", () => {
  it("mean and SDs, unless something else is asked for", () => {
    const found = moderatorsOf("H1: w strengthens x to m")[0]!;
    expect(found).toMatchObject({
      name: "w",
      kind: "numeric",
      min: Math.min(...w),
      max: Math.max(...w),
    });
    expect(found.probes.map((p) => p.label)).toEqual(["mean-sd", "mean", "mean+sd"]);
    [-1, 0, 1].forEach((k, i) =>
      expect(found.probes[i]!.value).toBeCloseTo(mean(w) + k * sd(w), 10),
    );
    for (const p of found.probes) expect(p.centred.get("w")).toBeCloseTo(p.value! - mean(w), 10);
  });

  it.each([
    ["quartiles", [25, 50, 75]],
    ["tenths", [10, 50, 90]],
    ["percentile", [16, 50, 84]],
    ["20 %", [20]],
  ] as [ProbeChoice, number[]][])("percentiles by the rule %s", (rule, percentages) => {
    const { probes } = one([rule]);
    expect(probes.map((p) => p.label)).toEqual(percentages.map((q) => `p${q}`));
    percentages.forEach((q, i) => expect(probes[i]!.value).toBeCloseTo(quantile(w, q / 100), 10));
  });

  it("values of one's own, marked where nobody was observed", () => {
    const [low, high] = [Math.min(...w), Math.max(...w)];
    const { probes } = one([5, low, high, high + 0.001, low - 0.001]);
    expect(probes.map((p) => p.label)).toEqual([
      `=5`,
      `=${low}`,
      `=${high}`,
      `=${high + 0.001}`,
      `=${low - 0.001}`,
    ]);
    expect(probes.map((p) => p.outsideRange)).toEqual([false, false, false, true, true]);
  });

  it("the two values of a variable that has but two, whatever was asked for; the levels of a categorical one", () => {
    const [z] = moderatorsOf("H1: z strengthens x to m", { z: [7] });
    expect(z).toMatchObject({ kind: "two_values" });
    expect(z!.probes.map((p) => p.value)).toEqual([0, 1]);
    const [g] = moderatorsOf("H1: g alters x to m");
    expect(g).toMatchObject({ kind: "categorical" });
    expect(g!.probes.map((p) => [p.label, p.value, ...p.centred.values()])).toEqual([
      ["low", null, 0, 0],
      ["high", null, 1, 0],
      ["middle", null, 0, 1],
    ]);
  });
});

describe("combinations of probes", () => {
  const [first, second] = moderatorsOf("H1: w with v alters x to m", { w: ["quartiles"] }).slice(
    0,
    2,
  ) as [Moderator, Moderator];
  const words = (list: ReturnType<typeof combinations>): string[] =>
    list.map((c) => c.map(({ probe }) => probe.label).join(" "));

  it("are all of them, the first moderator slowest", () => {
    expect(words(combinations([first, second]))).toEqual(
      ["p25", "p50", "p75"].flatMap((p) => ["mean-sd", "mean", "mean+sd"].map((q) => `${p} ${q}`)),
    );
    expect(combinations([])).toEqual([[]]);
    expect(words([middleOf([first, second])])).toEqual(["p50 mean"]);
    // Without a mean or a median the middle is the one in the middle, the lower of two.
    const odd = one([3, 5, 9, 4]);
    expect(middleOf([odd])[0]!.probe.label).toBe("=5");
  });

  it("with very many of them one moderator moves at a time, each place once", () => {
    const many = Array.from({ length: 9 }, (_, i): ProbeChoice => mean(w) + (i - 4) / 10);
    const exactly = moderatorsOf("H1: w with v alters x to m", {
      w: many,
      v: many.map((p) => (p as number) * 10),
    }).slice(0, 2) as [Moderator, Moderator];
    expect(probeGrid(exactly)).toHaveLength(81);
    const beyond = moderatorsOf("H1: w with v alters x to m", {
      w: [...many, mean(x)],
      v: many.map((p) => (p as number) * 10),
    }).slice(0, 2) as [Moderator, Moderator];
    const grid = probeGrid(beyond);
    expect(grid).toHaveLength(10 + 9 - 1);
    const middle = middleOf(beyond).map(({ probe }) => probe.label);
    for (const c of grid)
      expect(c.filter(({ probe }, i) => probe.label !== middle[i]).length).toBeLessThanOrEqual(1);
    expect(new Set(words(grid)).size).toBe(grid.length);
    expect(mean(v)).toBeGreaterThan(mean(w));
  });
});
