import { describe, expect, it } from "vitest";
import { effectAt } from "../evidence";
import { analyseMade, normals } from "../test-kit";
import { slopeWorking } from "./slope";
import { workedOut } from "../test-kit/workings";

const n = 120;
const [x, w, z, e] = [1, 2, 3, 4].map((k) => normals(n, 40 + k)) as [
  number[],
  number[],
  number[],
  number[],
];
const y = x.map((v, i) => 0.5 * v + 0.3 * v * w[i]! - 0.2 * v * v + e[i]!);
const site = x.map((_, i) => ["north", "south", "west"][i % 3]!);
const shifted = w.map((v) => 100 + 10 * v);

describe("the working of a slope", () => {
  it.each([
    ["one moderator, far from zero", "H1: x raises y\nH2: shifted alters x to y", "shifted", 93],
    ["two at once", "H1: x raises y\nH2: w with z alters x to y", "w", -1.2],
    ["its own curve", "H1: x alters x to y", "x", 0.7],
    ["levels", "H1: x raises y\nH2: site alters x to y", "site", null],
  ])("works out to the slope that is shown: %s", (_, theory, by, at) => {
    const evidence = analyseMade({
      columns: { x, w, z, y, site, shifted },
      theory,
      settings: { interval: "delta" },
    });
    const moderation = evidence.moderations.find((m) => m.focal === "x")!;
    const codes = moderation.model.columns.filter((c) => c.variable === by && !c.components);
    const place = new Map(codes.map((c, i) => [c.key, at ?? (i === 0 ? 1 : 0)]));
    const { steps } = slopeWorking(moderation, place, evidence);
    const slope = effectAt(moderation.model, "x", place).estimate;
    const [left, right] = steps[0]!.numbers.split(" = ") as [string, string];
    expect(workedOut(right)).toBeCloseTo(slope, 2);
    expect(Math.abs(workedOut(left) - slope)).toBeLessThan(0.02);
    expect(steps).toHaveLength(3);
    expect(steps[2]!.numbers).toContain("±");
  });
});
