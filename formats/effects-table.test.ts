import Papa from "papaparse";
import { expect, it } from "vitest";
import { analyseCase } from "../reference/load";
import { effectsCsv } from ".";

it("holds every effect at full precision, and no cell that a spreadsheet would run", () => {
  const evidence = analyseCase("suppression", (json) => {
    json.settings.replications = 200;
    json.theory.push("define gap as H1 - 2");
  });
  evidence.effects[0]!.label = "=HYPERLINK(1)";
  const { data } = Papa.parse<Record<string, string>>(effectsCsv(evidence), {
    header: true,
    skipEmptyLines: true,
  });
  expect(data).toHaveLength(evidence.effects.length);
  data.forEach((row, i) => {
    const effect = evidence.effects[i]!;
    if (effect.shown === null) {
      expect([row.estimate, row["95 % CI lower"], row.p, row.note]).toEqual([
        "",
        "",
        "",
        effect.withheld,
      ]);
      return;
    }
    expect(Number(row.estimate)).toBe(effect.estimate);
    expect(Number(row["95 % CI lower"])).toBe(effect.shown.lower);
    expect(row["interval method"]).toBe("BCa");
    for (const cell of Object.values(row)) expect(cell).not.toMatch(/^[=+@]|^-[^\d.]/);
  });
  expect(data[0]!.effect).toBe("'=HYPERLINK(1)");
});
