import { describe, expect, it } from "vitest";
import { effectAt, type Evidence } from "../../../core";
import { analyseMade, normals } from "../../../core/test-kit";
import { lineHere, placeOf, slopeHere, unitsOf } from "./lever-model";
import {
  effectMapTable,
  indirectTable,
  panelTable,
  slopeTables,
  stripTable,
  surfaceTable,
} from "./probe-numbers";

const N = 90;
const [x, w, z, e, f] = [1, 2, 3, 4, 5].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
  number[],
];
const hours = x.map((v) => 20 + 3 * v);
const support = w.map((v) => 3 + 0.8 * v);
const months = z.map((v) => 12 + 5 * v);
const confidence = hours.map(
  (v, i) =>
    2 +
    0.1 * v +
    0.3 * support[i]! +
    0.08 * (v - 20) * support[i]! +
    0.02 * months[i]! * support[i]! +
    0.5 * e[i]!,
);
const belonging = confidence.map((v, i) => 1 + 0.6 * v + f[i]!);
const columns = { hours, support, months, confidence, belonging };

const one = analyseMade({
  columns,
  theory: "H1: support strengthens hours to belonging through confidence on hours to confidence",
  settings: { replications: 300 },
});
const two = analyseMade({
  columns,
  theory: "H1: support with months strengthens hours to confidence",
});
const moderationOf = (evidence: Evidence) => evidence.moderations.find((m) => m.focal === "hours")!;

describe("the numbers behind a picture", () => {
  const moderation = moderationOf(one);

  it("list the slopes and line ends that the evidence holds, in the errors in use", () => {
    const [slopes, lines] = slopeTables(moderation, { ...one, errors: "HC3" });
    expect(slopes!.title).toBe("Slope of confidence on hours (HC3 errors)");
    expect(slopes!.head).toEqual(["at", "slope", "SE", "t", "p", "95 % CI lower", "95 % CI upper"]);
    moderation.slopes.forEach((s, i) => {
      const test = s.errors.HC3!;
      expect(slopes!.rows[i]).toEqual([
        s.words,
        s.estimate,
        test.se,
        test.t,
        test.p,
        test.lower,
        test.upper,
      ]);
    });
    expect(lines!.rows).toHaveLength(2 * moderation.lines.length);
  });

  it("follow the slope from one end of the moderator to the other", () => {
    const { range } = moderation.johnsonNeyman[0]!.tests.classical!.pointwise;
    const table = stripTable(moderation, one, { name: "support", column: "support", range }, []);
    expect([table.rows[0]![0], table.rows.at(-1)![0]]).toEqual(range);
    for (const [value, slope] of table.rows)
      expect(slope).toBeCloseTo(
        effectAt(moderation.model, "hours", new Map([["support", value as number]])).estimate,
        12,
      );
  });

  it("give the surface whose differences along the predictor are the slope", () => {
    const axis = (key: string, range: [number, number]) => ({ key, range });
    const table = surfaceTable(moderation, axis("hours", [10, 30]), axis("support", [1, 5]), []);
    for (const [value, ...cells] of table.rows) {
      const slope = effectAt(
        moderation.model,
        "hours",
        new Map([["support", value as number]]),
      ).estimate;
      expect(((cells.at(-1) as number) - (cells[0] as number)) / 20).toBeCloseTo(slope, 10);
    }
  });

  it("carry the band of a conditional indirect effect, and say nothing of a band that was not made", () => {
    const region = one.regions[0]!;
    const table = indirectTable(region, "bca", one);
    expect(table.rows).toHaveLength(region.grid.length);
    expect(table.rows[0]).toEqual([
      region.grid[0],
      region.estimate[0],
      region.bands!.bca.lower[0],
      region.bands!.bca.upper[0],
    ]);
    expect(indirectTable({ ...region, bands: null }, "bca", one).rows[0]!.slice(2)).toEqual([
      null,
      null,
    ]);
  });

  it("cover two moderators, and any panels", () => {
    const both = moderationOf(two);
    const map = effectMapTable(
      both,
      two,
      { key: "support", range: [1, 5] },
      { key: "months", range: [0, 24] },
    );
    expect(map.rows).toHaveLength(49);
    const corner = new Map([
      ["support", 1],
      ["months", 24],
    ]);
    const row = map.rows.find(([a, b]) => a === 1 && b === 24)!;
    expect(row[2]).toBe(slopeHere(both, corner).estimate);
    expect(
      panelTable(both, two, [{ words: "a corner", place: corner }]).rows[0]!.slice(0, 3),
    ).toEqual(["a corner", ...row.slice(2, 4)]);
  });
});

describe("the lever", () => {
  const moderation = moderationOf(one);

  it("stands where a probe stands", () => {
    for (const probe of moderation.moderators[0]!.probes)
      expect(placeOf(moderation, probe)).toEqual([["support", expect.closeTo(probe.value!, 10)]]);
  });

  it("draws a straight line with the slope at the handle", () => {
    const place = new Map([["support", 4.2]]);
    const line = lineHere(moderation, place, [10, 30], 10);
    const slope = slopeHere(moderation, place).estimate;
    line
      .slice(1)
      .forEach((p, i) =>
        expect((p.reading.estimate - line[i]!.reading.estimate) / 2).toBeCloseTo(slope, 10),
      );
  });

  it("turns into standard deviations: values by their own, the slope by both", () => {
    const units = unitsOf(moderation, "support", true);
    const mean = confidence.reduce((a, b) => a + b, 0) / N;
    expect(units.y(mean)).toBeCloseTo(0, 12);
    const rise = (from: number, to: number): number =>
      (units.y(to) - units.y(from)) / (units.x(11) - units.x(10));
    expect(rise(5, 5 + 0.7)).toBeCloseTo(0.7 * units.slope, 12);
    const [x10, x11] = [units.x(10), units.x(11)];
    expect(1 / (x11 - x10)).toBeCloseTo(one.descriptives.hours!.sd, 10);
    expect(unitsOf(moderation, "support", false).x(7)).toBe(7);
  });
});
