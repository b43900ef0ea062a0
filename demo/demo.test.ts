import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { analyse } from "../core";
import { readDelimited } from "../formats";
import { simulatePeople, TRUTH } from "./random-people";
import { DEMO_COLUMNS, demoRows, demoStudy } from "./study";

describe("the demo data", () => {
  it("are what the generator makes", () => {
    const { table } = readDelimited(
      readFileSync(new URL("./language-cafe.csv", import.meta.url), "utf8"),
      {
        separator: ",",
        headerRow: 1,
      },
    );
    expect(table.rows).toBe(420);
    const rows = demoRows();
    table.columns.forEach((column, j) =>
      expect(Array.from(column.codes, (code) => column.dictionary[code])).toEqual(
        rows.map((r) => r[j]),
      ),
    );
  });

  it("have the structure they were made with, in a large sample", () => {
    const people = simulatePeople(20_000, 3);
    const mean = (x: number[]): number => x.reduce((a, b) => a + b, 0) / x.length;
    const slope = (x: number[], y: number[]): number => {
      const [mx, my] = [mean(x), mean(y)];
      return (
        x.reduce((s, v, i) => s + (v - mx) * (y[i]! - my), 0) /
        x.reduce((s, v) => s + (v - mx) ** 2, 0)
      );
    };
    const confidence = people.map((p) =>
      mean([p.conf[0]!, p.conf[1]!, 6 - p.conf[2]!, p.conf[3]!]),
    );
    expect(
      slope(
        people.map((p) => p.hours),
        confidence,
      ),
    ).toBeGreaterThan(0.7 * TRUTH.hoursToConfidence);
    expect(new Set(people.map((p) => p.group)).size).toBe(3);
    const reversed = slope(
      people.map((p) => p.conf[0]!),
      people.map((p) => p.conf[2]!),
    );
    expect(reversed).toBeLessThan(-0.2);
  });

  it("support the true hypotheses and not the false one", () => {
    const { definition, table } = demoStudy();
    expect(table.columns.map((c) => c.name)).toEqual(DEMO_COLUMNS);
    const evidence = analyse(definition, table);
    expect(evidence.hypotheses.map((h) => h.verdict)).toEqual([
      "supported",
      "supported",
      "supported",
      "not_supported",
    ]);
  });
});
