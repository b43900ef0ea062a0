import { describe, expect, it } from "vitest";
import { buildDataset } from "../../dataset";
import { madeStudy, normals } from "../../test-kit";
import { dataEvidence } from ".";

const n = 60;
const unitFindings = (scale: number) => {
  const { definition, table } = madeStudy({
    columns: {
      income: normals(n, 4).map((v) => scale * (3 + v)),
      y: normals(n, 5),
    },
    theory: "H1: income raises y",
  });
  const findings = dataEvidence(definition, table).findings.filter((f) => f.id === "unit income");
  return { findings, definition, table };
};

describe("a unit in which coefficients cannot be read", () => {
  it("comes with the offer of another, which does what it says", () => {
    const { findings, definition, table } = unitFindings(12_345);
    const [remedy] = findings[0]!.remedies;
    expect(remedy).toMatchObject({
      kind: "derive",
      name: "income_per_10000",
      recipe: { kind: "rescale", of: "income", per: 10_000 },
    });
    const { name, recipe } = remedy as Extract<typeof remedy, { kind: "derive" }>;
    const rescaled = buildDataset({ ...definition, derived: [{ name, recipe }] }, table);
    const column = rescaled.table.columns.findIndex((c) => c.name === name);
    expect(column).toBeGreaterThan(0);
    const made = dataEvidence({ ...definition, derived: [{ name, recipe }] }, table);
    expect(made.descriptives[name]!.sd! * 10_000).toBeCloseTo(made.descriptives.income!.sd!, 6);
  });

  it("is offered for tiny numbers too, and not for ordinary ones", () => {
    expect(unitFindings(1e-5).findings[0]!.remedies[0]).toMatchObject({
      recipe: { kind: "rescale", of: "income", per: 1e-5 },
    });
    expect(unitFindings(100).findings).toEqual([]);
  });
});
