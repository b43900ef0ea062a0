import { equationsOf } from "../../evidence";
import { describe, expect, it } from "vitest";
import { analyse } from "../../analysis";
import { guessVariable, TableBuilder } from "../../data";
import type { Evidence } from "../../evidence";
import { RandomStream } from "../../numerics/random";
import { DEFAULT_SETTINGS, newDefinition } from "../../study";

type Row = [x: number, m: number, y: number];

function run(rows: Row[], theory = "x raises y through m"): Evidence {
  const builder = new TableBuilder(["x", "m", "y"]);
  for (const row of rows) builder.add(row.map(String));
  const table = builder.build();
  const variables = table.columns.map((c) => ({
    ...guessVariable(c),
    level: "continuous" as const,
  }));
  return analyse(
    {
      ...newDefinition("", variables),
      theory,
      settings: { ...DEFAULT_SETTINGS, replications: 50 },
    },
    table,
  );
}

const rows = Array.from({ length: 60 }, (_, i): Row => {
  const r = new RandomStream(6, i);
  // Multiples of 2^-10, so that adding a million loses nothing of the data themselves.
  const grain = (v: number): number => Math.round(v * 1024) / 1024;
  const x = grain(r.normal());
  const m = grain(0.5 * x + r.normal());
  return [x, m, grain(0.4 * m + 0.2 * x + r.normal())];
});

describe("a least-squares model", () => {
  it("does not change when a million is added to every variable, but for intercepts", () => {
    const near = run(rows);
    const far = run(rows.map(([x, m, y]): Row => [x + 1e6, m + 1e6, y + 1e6]));
    near.effects.forEach((effect, i) => {
      const other = far.effects[i]!;
      expect(Math.abs(other.estimate! / effect.estimate! - 1)).toBeLessThan(1e-9);
      const [a, b] = [effect.delta.joint.HC3, other.delta.joint.HC3];
      if (a) expect(Math.abs(b!.se / a.se - 1)).toBeLessThan(1e-9);
      expect(Math.abs(other.bootstrap!.se! / effect.bootstrap!.se! - 1)).toBeLessThan(1e-7);
    });
    equationsOf(near).forEach((e, g) =>
      expect(Math.abs(equationsOf(far)[g]!.r2 - e.r2)).toBeLessThan(1e-12),
    );
  });

  it("gives no errors to a perfect fit, and says so, while other equations keep theirs", () => {
    const evidence = run(rows.map(([x, m]): Row => [x, m, 2 * x - 3 * m]));
    expect(evidence.warnings.map((w) => w.code)).toContain("perfect_fit");
    const [m, y] = equationsOf(evidence);
    expect(y!.coefficients[1]!.errors.classical).toBeNull();
    expect(y!.checks).toBeNull();
    expect(m!.coefficients[1]!.errors.classical).not.toBeNull();
    expect(
      evidence.effects.find((e) => e.kind === "specific_indirect")!.delta.joint.classical,
    ).toBeNull();
    expect(
      evidence.effects.find((e) => e.id === "direct x > m")!.delta.joint.classical,
    ).not.toBeNull();
  });

  it("withholds HC2 to HC4 where one row alone determines a coefficient, and names the row", () => {
    const lone = rows.map(([, m, y], i): Row => [i === 7 ? 1 : 0, m, y]);
    const evidence = run(lone, "x raises y");
    const { errors } = equationsOf(evidence)[0]!.coefficients[1]!;
    expect([errors.HC2, errors.HC3, errors.HC4]).toEqual([null, null, null]);
    expect(errors.HC1).not.toBeNull();
    expect(evidence.warnings.find((w) => w.code === "leverage_one")!.message).toContain("Row 8");
  });

  it("with a binary predictor the coefficient is the difference of the group means", () => {
    const builder = new TableBuilder(["cond", "y"]);
    rows.forEach(([, , y], i) => builder.add([i % 2 ? "b" : "a", String(y + (i % 2))]));
    const table = builder.build();
    const evidence = analyse(
      {
        ...newDefinition("", table.columns.map(guessVariable)),
        theory: "cond affects y",
        settings: { ...DEFAULT_SETTINGS, replications: 0 },
      },
      table,
    );
    const [{ groups, one }] = evidence.groupMeans as [Evidence["groupMeans"][number]];
    expect(groups.map((g) => g.level)).toEqual(["a", "b"]);
    expect(one).toBe("b");
    expect(evidence.effects[0]!.estimate).toBeCloseTo(groups[1]!.mean - groups[0]!.mean, 12);
  });
});
