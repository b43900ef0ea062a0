import { describe, expect, it } from "vitest";
import { analyse } from "../../analysis";
import type { Evidence } from "../../evidence";
import { madeStudy, normals } from "../../test-kit";
import { columnsOf, MEDIATION, sectionOf } from "../../test-kit/composites";

type Columns = Record<string, number[]>;
const THEORY = [...MEDIATION, "groups by z"];
const OPTIONS = { folds: 5, exact_fit: 20, permutations: 0 };

/** Items of y that have next to nothing in common, so that resamples turn its score round. */
const loose = (columns: Columns): Columns => ({
  ...columns,
  y1: normals(columns.y1!.length, 901),
  y2: normals(columns.y2!.length, 902),
});

const rowsWhere = ({ z }: Columns, value: number): number[] =>
  z!.flatMap((v, i) => (v === value ? [i] : []));
const pickRows = (columns: Columns, rows: readonly number[]): Columns =>
  Object.fromEntries(Object.entries(columns).map(([k, v]) => [k, rows.map((i) => v[i]!)]));

/** Rows drawn from `count`, the same for the same `seed`. */
const drawn = (count: number, seed: number): number[] =>
  normals(count, seed).map((v) => Math.floor(Math.abs(v * 1e6)) % count);

function analysed(
  columns: Columns,
  theory: string[],
  resamples: number[][],
  options: Record<string, string | number> = OPTIONS,
): Evidence {
  const { definition, table } = madeStudy({
    columns,
    theory: theory.join("\n"),
    settings: {
      engine: "composites",
      options,
      replications: resamples.length,
      interval: "percentile",
    },
  });
  return analyse({ ...definition, resamples }, table);
}

describe("each group of composites is resampled as it would be alone", () => {
  it.each([
    ["steady scores", columnsOf(6), "counted"],
    ["scores that turn round", loose(columnsOf(6)), "counted"],
    ["scores that are turned back", loose(columnsOf(6)), "aligned"],
  ])("%s", (_, columns, signs) => {
    const options = { ...OPTIONS, exact_fit: 0, folds: 0, signs };
    const groups = [0, 1].map((value) => rowsWhere(columns, value));
    const alone = groups.map((rows, g) =>
      Array.from({ length: 30 }, (__, r) => drawn(rows.length, 100 * g + r)),
    );
    const together = alone[0]!.map((_own, r) =>
      groups.flatMap((rows, g) => alone[g]![r]!.map((i) => rows[i]!)),
    );
    const whole = sectionOf(analysed(columns, THEORY, together, options));
    groups.forEach((rows, g) => {
      const one = sectionOf(analysed(pickRows(columns, rows), MEDIATION, alone[g]!, options));
      const [own] = one.groups;
      const found = whole.groups[g]!;
      expect(whole.byGroup[g]!.turned).toEqual(one.turned);
      expect(found.paths.map((p) => p.reported)).toEqual(own!.paths.map((p) => near(p.reported)));
      expect(found.constructs.flatMap((c) => c.items.map((i) => [i.weight, i.loading]))).toEqual(
        own!.constructs.flatMap((c) => c.items.map((i) => [near(i.weight), near(i.loading)])),
      );
      expect(found.htmt).toEqual(own!.htmt.map(near));
    });
  });

  it("counts turned scores by group, and says in which", () => {
    const columns = loose(columnsOf(6));
    const groups = [0, 1].map((value) => rowsWhere(columns, value));
    const together = Array.from({ length: 60 }, (_, r) =>
      groups.flatMap((rows, g) => drawn(rows.length, 100 * g + r).map((i) => rows[i]!)),
    );
    const evidence = analysed(columns, THEORY, together, { ...OPTIONS, exact_fit: 0, folds: 0 });
    const { byGroup } = sectionOf(evidence);
    expect(byGroup.every(({ turned }) => turned!.y! > 0)).toBe(true);
    const said = evidence.warnings.find((w) => w.code === "sign_flips")!.message;
    for (const { group, turned } of byGroup) expect(said).toContain(`y in ${group} ${turned!.y!}`);
  });

  it("fits and predicts by group what it fits and predicts of the group alone", () => {
    const columns = columnsOf(6);
    const all = columns.z!.map((_, i) => i);
    const whole = sectionOf(analysed(columns, THEORY, [all]));
    expect(whole).toMatchObject({ exactFit: null, prediction: null, turned: null });
    [0, 1].forEach((value, g) => {
      const rows = rowsWhere(columns, value);
      const { definition, table } = madeStudy({
        columns: pickRows(columns, rows),
        theory: MEDIATION.join("\n"),
        settings: { engine: "composites", options: OPTIONS, replications: 0 },
      });
      const one = sectionOf(analyse(definition, table));
      const found = whole.byGroup[g]!;
      expect(found.exactFit!.measures.length).toBeGreaterThan(0);
      expect(found.exactFit).toEqual(one.exactFit);
      expect(found.prediction!.items.length).toBe(4);
      expect(found.prediction).toEqual(one.prediction);
    });
  });
});

/** The same numbers but for rounding: sums of a group are taken in another order. */
function near<T extends object | null>(value: T): T {
  return (
    value &&
    (Object.fromEntries(
      Object.entries(value).map(([k, v]) => [
        k,
        typeof v === "number" ? (expect.closeTo(v, 9) as number) : v,
      ]),
    ) as T)
  );
}
