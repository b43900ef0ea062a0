import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../test-kit";
import { wordsOf } from "./effect-words";
import { pairWords } from "./pair-words";
import type { Evidence } from "./types";

const n = 120;
const [a, b, c, e] = [1, 2, 3, 4].map((k) => normals(n, k)) as [
  number[],
  number[],
  number[],
  number[],
];
const m = a.map((v, i) => 0.5 * v + 0.2 * v * b[i]! + e[i]!);
const y = m.map((v, i) => 0.4 * v + c[i]!);
const site = a.map((_, i) => ["north", "south", "west"][i % 3]!);

const made = (columns: Record<string, (number | string)[]>, theory: string): Evidence =>
  analyseMade({ columns, theory, settings: { interval: "delta" } });
const wordsIn = (evidence: Evidence): string[] =>
  evidence.effects.map((effect) => wordsOf(effect, "raw", evidence));

const THEORY =
  'H1: "X" raises "Y" through "M"\nH2: "W" alters "X" to "M"\nH3: "W" alters "X" to "Y" through "M"';
const named = (names: Record<string, string>): Evidence =>
  made(
    Object.fromEntries(
      [a, b, m, y].map((values, i) => [names["XWMY"[i]!] ?? "XWMY"[i]!, values] as const),
    ),
    THEORY.replace(/"([XWMY])"/g, (_, letter: string) => `"${names[letter] ?? letter}"`),
  );

describe("effects within the group of their predictor and outcome", () => {
  it("are told apart, whatever the variables are called", () => {
    const plain = wordsIn(named({}));
    const names = { X: "time on Y", W: "skill: age", M: "talk on M", Y: "Y on average" };
    const odd = named(names);
    const back = wordsIn(odd).map((words) =>
      Object.entries(names).reduce((all, [letter, name]) => all.replaceAll(name, letter), words),
    );
    expect(back).toEqual(plain);
    const groups = odd.effects.map(
      (effect, i) => `${effect.kind} ${pairWords(odd, effect)} ${effect.of} ${back[i]!}`,
    );
    expect(new Set(groups).size).toBe(groups.length);
  });

  it("say of a comparison of levels which effect is compared", () => {
    const evidence = made(
      { site, w: b, m, y },
      'H1: site affects y through m\nH2: w alters site ("west" against "north") to y through m on site to m',
    );
    const compared = evidence.effects
      .filter((effect) => effect.kind === "comparison")
      .map((effect) => [effect.compared!.kind, wordsOf(effect, "raw", evidence)]);
    for (const [kind, words] of compared) {
      if (kind === "average_indirect") expect(words).toBe("average indirect, through m");
      if (kind === "direct") expect(words).toBe("direct");
      if (kind === "average_total") expect(words).toBe("average total");
    }
    expect(new Set(compared.map(([kind]) => kind))).toContain("average_indirect");
  });

  it("name a product that is an average over groups without a loose end", () => {
    const measures = ["F", "G"].map((f) => `measure ${f} averages ${f}1, ${f}2`).join("\n");
    const twice = (values: number[], name: string) => ({
      [`${name}1`]: values,
      [`${name}2`]: values.map((v, i) => v + 0.3 * c[i]!),
    });
    const evidence = made(
      { ...twice(a, "F"), ...twice(b, "G"), y, site },
      `${measures}\nH1: F raises y\nH2: G alters F to y`,
    );
    const words = wordsIn(evidence).find((w) => w.startsWith("interaction"))!;
    expect(words).toBe("interaction, F × G");
    const averaged = { ...evidence.effects.find((q) => q.kind === "interaction")! };
    averaged.label = `${averaged.label}, on average`;
    expect(wordsOf(averaged, "raw", evidence)).toBe("interaction, F × G");
  });
});
