import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { amount, analyseMade, normals, type MadeStudy } from "../test-kit";
import type { Settings } from "../study";

/**
 * Nothing that is not a claim may change a verdict: not the order of sentences or levels, not
 * names, units or coding.
 */
const N = 90;
const [x, w, e1, e2, e3] = [91, 92, 93, 94, 95].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
  number[],
];
const group = x.map((_, i) => ["low", "mid", "top"][(i * 7) % 3]!);
const shift: Record<string, number> = { low: 0, mid: 0.3, top: 0.9 };
const m = x.map((v, i) => 0.4 * v + 0.2 * v * w[i]! + shift[group[i]!]! + e1[i]!);
const k = x.map((v, i) => -0.3 * v + e2[i]!);
const y = m.map((v, i) => 0.3 * v - 0.4 * k[i]! + 0.2 * x[i]! + e3[i]!);
const columns: Record<string, (number | string)[]> = { x, w, group, m, k, y };

const SENTENCES = [
  "x raises y through m",
  "x lowers y through m",
  "x raises y through m and k",
  "x affects y through k",
  "x raises y",
  "w strengthens x to m",
  "w weakens x to y through m on x to m",
  "w alters x to y through m on x to m and m to y",
  "group affects y through m",
  'group ("top" against "low") raises m',
  "group raises y through m",
  'group ("mid" against "low") strengthens x to k',
];
const LABELLED = SENTENCES.map((sentence, i) => `H${i + 1}: ${sentence}`);

interface Case {
  lines: string[];
  settings: Partial<Settings>;
}

const cases: fc.Arbitrary<Case> = fc.record({
  lines: fc.subarray(LABELLED, { minLength: 2, maxLength: 5 }),
  settings: fc.record({
    interval: fc.constantFrom("percentile", "bca", "delta", "normal"),
    tail: fc.constantFrom("one", "two"),
    errors: fc.constantFrom("classical", "HC3"),
    replications: fc.constant(60),
  }) as fc.Arbitrary<Partial<Settings>>,
});

function verdicts(
  lines: string[],
  settings: Partial<Settings>,
  change: Partial<MadeStudy> = {},
): Record<string, string> {
  const evidence = analyseMade({
    columns,
    theory: lines.join("\n"),
    settings,
    variables: { group: { level: "categorical" } },
    ...change,
  });
  return Object.fromEntries(evidence.hypotheses.map((h) => [h.label, h.verdict]));
}

const check = (changed: (one: Case) => Record<string, string>, runs = amount(8, 100)): void =>
  fc.assert(
    fc.property(cases, (one) => {
      expect(changed(one)).toEqual(verdicts(one.lines, one.settings));
    }),
    { numRuns: runs, seed: 7 },
  );

describe("no verdict changes when", () => {
  it("sentences change places", () =>
    check(({ lines, settings }) => verdicts([...lines].reverse(), settings)));

  it("contrasts, own quantities and repeated claims are added", () =>
    check(({ lines, settings }) => {
      const [first, second] = lines.map((line) => line.split(":")[0]!);
      const categorical = lines.some((line) => /group (affects|raises|strengthens)/.test(line));
      const more = categorical
        ? []
        : [
            `contrast ${first} with ${second}`,
            `define odd as ln(${first})`,
            `define root as sqrt(${second} - 0.1)`,
          ];
      const found = verdicts(
        [...more, ...lines, ...lines.map((line) => line.replace("H", "Z"))],
        settings,
      );
      for (const line of lines) {
        const label = line.split(":")[0]!;
        expect(found[label.replace("H", "Z")]).toBe(found[label]);
      }
      return Object.fromEntries(Object.entries(found).filter(([label]) => label.startsWith("H")));
    }));

  it("levels are coded, ordered or referred to otherwise", () => {
    const ways = [
      { coding: "effect" as const },
      { coding: "helmert" as const, levels: ["top", "low", "mid"] },
      { reference: "top" },
      { coding: "sequential" as const, levels: ["mid", "top", "low"] },
    ];
    check(({ lines, settings }) => {
      const [first, ...others] = ways.map((way) =>
        verdicts(lines, settings, { variables: { group: { level: "categorical", ...way } } }),
      );
      for (const other of others) expect(other).toEqual(first);
      return first!;
    });
  });

  it("variables have other names and stand in another order", () =>
    check(({ lines, settings }) => {
      const names: Record<string, string> = {
        x: "zz hours",
        w: "aa",
        m: "mm",
        k: "x1",
        y: "b.y",
        group: "Gruppe",
      };
      const theory = lines.map((line) =>
        line.replace(/\b(x|w|m|k|y|group)\b/g, (name) => `"${names[name]!}"`),
      );
      const entries = Object.entries(columns).map(
        ([name, values]) => [names[name]!, values] as const,
      );
      return verdicts(theory, settings, {
        columns: Object.fromEntries(entries.reverse()),
        variables: { Gruppe: { level: "categorical" } },
      });
    }));

  it("units change, and values lie elsewhere", () =>
    check(({ lines, settings }) => {
      const grid = (v: number): number => Math.round(v * 1024) / 1024;
      const on = (values: (number | string)[], f: (v: number) => number) =>
        values.map((v) => (typeof v === "number" ? f(grid(v)) : v));
      const at = (f: (name: string, v: number) => number): Record<string, (number | string)[]> =>
        Object.fromEntries(
          Object.entries(columns).map(([name, values]) => [name, on(values, (v) => f(name, v))]),
        );
      const near = verdicts(lines, settings, { columns: at((_, v) => v) });
      const far = verdicts(lines, settings, {
        columns: at((name, v) => (name === "w" ? 1e6 + v : name === "y" ? 1024 * v : v / 64)),
      });
      expect(far).toEqual(near);
      return verdicts(lines, settings);
    }));

  it("probes and centring are chosen otherwise", () =>
    check(({ lines, settings }) => {
      const found = verdicts(lines, {
        ...settings,
        probes: { w: [5, "20 %", -3] },
        centring: "mean",
      });
      expect(
        verdicts(lines, { ...settings, probes: { w: ["tenths"] }, centring: "products" }),
      ).toEqual(found);
      return found;
    }));
});

it("turning a predictor round turns raises into lowers, and nothing else", () =>
  fc.assert(
    fc.property(cases, ({ lines, settings }) => {
      const plain = lines.filter((line) => !/group|strengthens|weakens|alters/.test(line));
      fc.pre(plain.length > 0);
      const turned = plain.map((line) =>
        line.replace(/raises|lowers/, (verb) => (verb === "raises" ? "lowers" : "raises")),
      );
      expect(verdicts(turned, settings, { columns: { ...columns, x: x.map((v) => -v) } })).toEqual(
        verdicts(plain, settings),
      );
    }),
    { numRuns: 10, seed: 11 },
  ));
