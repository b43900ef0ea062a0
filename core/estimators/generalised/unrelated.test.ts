import { expect, it } from "vitest";
import { evaluateReplicates } from "../../evidence/replicates";
import { parameter } from "../../model";
import { analyseMade, normals } from "../../test-kit";
import type { Evidence } from "../../evidence";

it("an equation that many resamples cannot fit takes nothing from another", () => {
  const n = 60;
  const [x, e, u, z] = [normals(n, 1), normals(n, 2), normals(n, 3), normals(n, 4)];
  const columns = {
    x,
    y: x.map((v, i) => (0.8 * v + e[i]! > 0 ? 1 : 0)),
    z,
    // So few events that one resample in several has none, or tells them apart.
    rare: u.map((v, i) => (v > 1.9 || i === 3 ? 1 : 0)),
  };
  const run = (more: string): Evidence =>
    analyseMade({
      columns,
      theory: `model y as logistic\nmodel rare as logistic\nH1: x raises y${more}`,
      settings: { engine: "generalised", interval: "percentile", replications: 400 },
    });
  const [alone, beside] = [run(""), run("\nH2: z raises rare")];
  const of = ({ effects, hypotheses }: Evidence) => {
    const { claim } = hypotheses.find((h) => h.label === "H1")!;
    return { claim, used: effects.find((row) => row.from === "x")!.bootstrap!.used };
  };
  expect(of(beside)).toEqual(of(alone));
  const lost = beside.effects.find((row) => row.from === "z")!.bootstrap!;
  expect(lost.missing).toBeGreaterThan(0);
  expect(lost.used + lost.missing).toBe(beside.bootstrap!.done - beside.bootstrap!.failed);
});

it("a replicate is lost for all only where all of it is missing", () => {
  const values = Float64Array.from([NaN, 2, 3, 4, NaN, NaN, 5, 6]);
  const quantities = [0, 1].map((at) => ({ expression: parameter(at) })) as never;
  const block = { first: 0, count: 4, size: 2, values, errors: null };
  const found = evaluateReplicates(quantities, [block]);
  expect(found.failed).toBe(1);
  expect([...found.kept]).toEqual([0, 1, 3]);
  expect(found.columns.map((column) => [...column])).toEqual([
    [NaN, 3, 5],
    [2, 4, 6],
  ]);
});
