import { describe, expect, it } from "vitest";
import type { Quantity } from "../model";
import { prepare } from "../preparation";
import { madeStudy, type MadeStudy } from "../test-kit";
import {
  CODES,
  COLUMNS,
  made,
  mean,
  probeValues,
  readerOf,
  sd,
  type Values,
} from "../test-kit/second-route";

const { x, w, v, z, m, k, y } = COLUMNS;

const nodesOf = ({ from, via, to }: Quantity): string[] => [from!, ...via, to!];
const MIDDLE = (): Values => ({
  ...Object.fromEntries(Object.entries({ x, w, v, z, m, k }).map(([n, u]) => [n, mean(u)])),
  ...CODES.low,
});

/**
 * Checks every path effect, conditional effect, average, index and change of a theory; returns what
 * was checked, by kind.
 */
function checkAll(study: MadeStudy): {
  prepared: ReturnType<typeof prepare>;
  kinds: Record<string, number>;
} {
  const { definition, table } = madeStudy(study);
  const prepared = prepare(definition, table);
  const { path, average } = readerOf(study);
  const kinds: Record<string, number> = {};
  prepared.quantities.forEach((q, i) => {
    const nodes = q.from === null ? [] : nodesOf(q);
    const place = Object.assign(
      MIDDLE(),
      ...Object.entries(q.at ?? {}).map(([name, label]) => probeValues(name, label)),
    );
    const plus = (values: Values, key: string): Values => ({ ...values, [key]: values[key]! + 1 });
    const expected: Partial<Record<Quantity["kind"], () => number>> = {
      direct: () => path(nodes, MIDDLE()),
      specific_indirect: () => path(nodes, MIDDLE()),
      average_direct: () => average(nodes),
      average_indirect: () => average(nodes),
      conditional_direct: () => path(nodes, place),
      conditional_indirect: () => path(nodes, place),
    };
    if (q.by) {
      // An effect that is linear in a moderator changes by the index with every unit of it.
      const [first, second] = q.by;
      const change = (values: Values): number =>
        path(nodes, plus(values, first!)) - path(nodes, values);
      expected.index = () => (second ? change(plus(place, second)) - change(place) : change(place));
      expected.conditional_index = expected.index;
    }
    const value = expected[q.kind];
    if (!value) return;
    kinds[q.kind] = (kinds[q.kind] ?? 0) + 1;
    const right = value();
    expect(
      Math.abs(prepared.estimates[i]! - right) / Math.max(1e-3, Math.abs(right)),
      q.id,
    ).toBeLessThan(1e-7);
    // The words tell the same route as the fields.
    if (q.via.length > 0) expect(q.label, q.id).toContain(` through ${q.via.join(", then ")}`);
    else expect(q.label, q.id).not.toContain("through");
    expect(q.id).toContain(nodes.join(" > "));
  });
  expect(new Set(prepared.quantities.map((q) => q.id)).size).toBe(prepared.quantities.length);
  return { prepared, kinds };
}

const idsOf = (prepared: ReturnType<typeof prepare>, kind: Quantity["kind"]): string[] =>
  prepared.quantities.filter((q) => q.kind === kind).map((q) => q.id);
const valueOf = (prepared: ReturnType<typeof prepare>, id: string): number => {
  const at = prepared.quantities.findIndex((q) => q.id === id);
  expect(at, id).toBeGreaterThanOrEqual(0);
  return prepared.estimates[at]!;
};

describe("effects of paths that nothing moderates", () => {
  const theory = "H1: x raises y through m and k\nH2: x raises y through m then k\nalso w to y";
  // Worked out anew in every test, so that each of them watches the lines behind what it asserts.
  const worked = () => {
    const { prepared, kinds } = checkAll(made(theory));
    return { prepared, kinds, value: (id: string) => valueOf(prepared, id) };
  };

  it("are those that exist, each once", () => {
    const { prepared, kinds } = worked();
    expect(idsOf(prepared, "direct").sort()).toEqual(
      [
        "direct k > y",
        "direct m > k",
        "direct m > y",
        "direct w > y",
        "direct x > k",
        "direct x > m",
        "direct x > y",
      ].sort(),
    );
    expect(idsOf(prepared, "specific_indirect").sort()).toEqual(
      [
        "indirect m > k > y",
        "indirect x > k > y",
        "indirect x > m > k",
        "indirect x > m > k > y",
        "indirect x > m > y",
      ].sort(),
    );
    expect(idsOf(prepared, "total_indirect")).toEqual(["total indirect x > y"]);
    expect(idsOf(prepared, "total").sort()).toEqual(["total m > y", "total x > k", "total x > y"]);
    expect(kinds).toEqual({ direct: 7, specific_indirect: 5 });
  });

  it("add up: specific ones to the total indirect, with the direct one to the total", () => {
    const { prepared, value } = worked();
    const all =
      value("indirect x > m > y") + value("indirect x > k > y") + value("indirect x > m > k > y");
    expect(value("total indirect x > y")).toBeCloseTo(all, 12);
    expect(value("total x > y")).toBeCloseTo(all + value("direct x > y"), 12);
    expect(value("total m > y")).toBeCloseTo(
      value("direct m > y") + value("indirect m > k > y"),
      12,
    );
    expect(value("proportion mediated x > y")).toBeCloseTo(all / value("total x > y"), 10);
    expect(value("ratio indirect/direct x > y")).toBeCloseTo(all / value("direct x > y"), 10);
    const named = prepared.quantities.find((q) => q.kind === "combined_indirect")!;
    expect(value(named.id)).toBeCloseTo(
      value("indirect x > m > y") + value("indirect x > k > y"),
      12,
    );
    expect(named.label).toMatch(/^x on y through (m and k|k and m) together$/);
  });

  it("are compared two by two, the earlier minus the later", () => {
    const { prepared, value } = worked();
    const contrasts = prepared.quantities.filter(
      (q) => q.kind === "contrast" && q.from === "x" && q.to === "y",
    );
    expect(contrasts).toHaveLength(3);
    for (const { id, label } of contrasts) {
      const [, first, second] = /^contrast \((.*)\) - \((.*)\)$/.exec(id)!;
      expect(value(id)).toBeCloseTo(value(first!) - value(second!), 12);
      expect(first).not.toBe(second);
      const words = (of: string): string =>
        of.replace("indirect ", "").split(" > ").slice(1, -1).join(", then ");
      expect(label).toBe(`x on y: through ${words(first!)} minus through ${words(second!)}`);
    }
  });

  it("have sizes in SDs of the outcome and of both, and a share of variance for one mediator", () => {
    const { prepared, value } = worked();
    for (const id of ["direct x > y", "indirect x > m > y", "total x > y", "indirect m > k > y"]) {
      const from = id.includes(" m > k") ? m : x;
      expect(value(`partially standardised ${id}`)).toBeCloseTo(value(id) / sd(y), 10);
      expect(value(`completely standardised ${id}`)).toBeCloseTo(
        (value(id) * sd(from)) / sd(y),
        10,
      );
      expect(prepared.quantities.find((q) => q.id === `completely standardised ${id}`)!.of).toBe(
        id,
      );
      expect(prepared.quantities.find((q) => q.id === `partially standardised ${id}`)!.of).toBe(id);
    }
    expect(value("upsilon indirect x > m > y")).toBeCloseTo(
      ((value("indirect x > m > y") * sd(x)) / sd(y)) ** 2,
      12,
    );
    // A chain of two mediators has no upsilon.
    expect(idsOf(prepared, "explained_variance")).not.toContain("upsilon indirect x > m > k > y");
    expect(prepared.quantities.find((q) => q.id === "upsilon indirect x > m > y")!.via).toEqual([
      "m",
    ]);
  });
});

describe("effects of moderated paths", () => {
  it("one stage, one numeric moderator: an index, no curve", () => {
    const { prepared, kinds } = checkAll(
      made("H1: w strengthens x to y through m on x to m\nH2: x raises y"),
    );
    expect(kinds).toMatchObject({
      conditional_indirect: 3,
      conditional_direct: 3,
      index: 1,
      average_direct: 1,
      average_indirect: 1,
    });
    expect(idsOf(prepared, "index")).toEqual(["index of moderated mediation x > m > y by w"]);
    expect(idsOf(prepared, "conditional_index")).toEqual([]);
    expect(idsOf(prepared, "curve")).toEqual([]);
    expect(idsOf(prepared, "interaction")).toEqual(["interaction x:w on m"]);
    expect(prepared.quantities.find((q) => q.kind === "index")!.label).toBe(
      "x on y through m: index of moderated mediation by w",
    );
    const total = valueOf(prepared, "average total x > y");
    expect(total).toBeCloseTo(
      valueOf(prepared, "average indirect x > m > y") + valueOf(prepared, "direct x > y"),
      12,
    );
    // A single moderated path is its own whole, so it has no second name.
    expect(idsOf(prepared, "average_total")).toEqual(["average total x > y"]);
  });

  it("differences between probes are those of the conditional effects, later minus earlier", () => {
    for (const theory of [
      "H1: w strengthens x to y through m on x to m",
      "H1: g alters x to m\nH2: m raises y",
      "H1: z strengthens x to m\nH2: m raises y",
    ]) {
      const { prepared } = checkAll(made(theory));
      const contrasts = prepared.quantities.filter((q) => q.kind === "conditional_contrast");
      const seen = new Set<string>();
      for (const { id, family, label } of contrasts) {
        const [, start, moderator, later, earlier] =
          /^contrast (.* at )(\S+) (\S+) minus (\S+)$/.exec(id)!;
        const order = (name: string): number =>
          prepared.context.moderators[0]!.probes.findIndex((p) => p.label === name);
        expect(order(later!)).toBeGreaterThan(order(earlier!));
        expect(valueOf(prepared, id)).toBeCloseTo(
          valueOf(prepared, `${start}${moderator} ${later}`) -
            valueOf(prepared, `${start}${moderator} ${earlier}`),
          10,
        );
        // Values of a numeric moderator are called low, average and high; levels are called what
        // they are.
        const name: Record<string, string> = {
          "mean-sd": "low",
          mean: "average",
          "mean+sd": "high",
        };
        const place = (at: string): string =>
          name[at] ? `${name[at]} ${moderator} \\(-?[\\d.]+\\)` : `${moderator} ${at}`;
        expect(label).toMatch(RegExp(`: ${place(later!)} minus ${place(earlier!)}`));
        // Only differences between levels are corrected for their number.
        expect(family !== undefined).toBe(moderator === "g");
        seen.add(`${later} ${earlier}`);
      }
      const probes = prepared.context.moderators[0]!.probes.length;
      expect(seen.size).toBe((probes * (probes - 1)) / 2);
    }
  });

  it("both stages by one moderator: a curve with its value, slope and bend, and no index", () => {
    const study = made("H1: v alters x to y through m on x to m and m to y");
    const { prepared } = checkAll(study);
    expect(idsOf(prepared, "index")).toEqual([]);
    const { path } = readerOf(study);
    const at = (value: number): number => path(["x", "m", "y"], { ...MIDDLE(), v: value });
    const q = (name: string): number => valueOf(prepared, `quadratic ${name} x > m > y by v`);
    for (const value of [0, 40, 55])
      expect(q("q0") + q("q1") * value + q("q2") * value * value).toBeCloseTo(at(value), 6);
    const derivative = valueOf(prepared, "derivative x > m > y at v mean+sd");
    const here = mean(v) + sd(v);
    expect(derivative).toBeCloseTo((at(here + 1) - at(here - 1)) / 2, 8);
    expect(idsOf(prepared, "curve")).toHaveLength(6);
  });

  it("two moderators on different stages: an index by each at the probes of the other, and one of both", () => {
    const { prepared, kinds } = checkAll(
      made("H1: w strengthens x to y through m on x to m\nH2: v strengthens m to y"),
    );
    expect(kinds.conditional_indirect).toBe(9);
    expect(kinds.conditional_index).toBe(6);
    expect(idsOf(prepared, "index")).toEqual([
      expect.stringMatching(
        /^index of moderated moderated mediation x > m > y by (v and w|w and v)$/,
      ),
    ]);
    expect(prepared.quantities.find((q) => q.kind === "conditional_index")!.label).toMatch(
      /^x on y through m: index by [vw] at low [wv] \(-?[\d.]+\)$/,
    );
  });

  it("two moderators side by side on one stage: two plain indices, differences that need no place", () => {
    const { prepared, kinds } = checkAll(
      made("H1: w strengthens x to m\nH2: v strengthens x to m\nH3: x raises y through m"),
    );
    expect(idsOf(prepared, "index").sort()).toEqual([
      "index of moderated mediation x > m > y by v",
      "index of moderated mediation x > m > y by w",
    ]);
    expect(kinds.conditional_index).toBeUndefined();
    expect(kinds.conditional_direct).toBe(9);
    const contrasts = idsOf(prepared, "conditional_contrast").filter((id) =>
      id.includes("direct x > m at"),
    );
    expect(contrasts).toHaveLength(6);
    // The other moderator does not bear on the difference, wherever it stands.
    const difference = valueOf(
      prepared,
      "contrast conditional direct x > m at w mean+sd minus mean-sd",
    );
    for (const held of ["mean-sd", "mean", "mean+sd"])
      expect(difference).toBeCloseTo(
        valueOf(prepared, `conditional direct x > m at w mean+sd, v ${held}`) -
          valueOf(prepared, `conditional direct x > m at w mean-sd, v ${held}`),
        9,
      );
  });

  it("two moderators together: differences along one stand at every probe of the other", () => {
    const { prepared } = checkAll(made("H1: w with z alters x to m\nH2: m raises y"));
    const contrasts = idsOf(prepared, "conditional_contrast").filter((id) =>
      id.startsWith("contrast conditional direct x > m at w"),
    );
    expect(contrasts).toHaveLength(6);
    for (const id of contrasts) {
      const [, later, earlier, held] = /at w (\S+) minus (\S+), (z \S+)$/.exec(id)!;
      expect(valueOf(prepared, id)).toBeCloseTo(
        valueOf(prepared, `conditional direct x > m at w ${later}, ${held}`) -
          valueOf(prepared, `conditional direct x > m at w ${earlier}, ${held}`),
        9,
      );
    }
  });

  it("a categorical moderator, and a categorical predictor with the difference of every two levels", () => {
    const { kinds } = checkAll(made("H1: g alters x to m\nH2: m raises y"));
    expect(kinds).toMatchObject({ conditional_direct: 3, conditional_indirect: 3, index: 2 });
    const { prepared } = checkAll(made("H1: g affects y through m\nalso w to y"));
    const own = (level: string): number =>
      ({
        low: 0,
        high: valueOf(prepared, "indirect g.1 > m > y"),
        middle: valueOf(prepared, "indirect g.2 > m > y"),
      })[level]!;
    const compared = prepared.quantities.filter((q) => q.kind === "comparison" && q.via.length > 0);
    expect(compared).toHaveLength(3);
    for (const { id, family, from } of compared) {
      const [, upper, lower] = /g \((\w+) against (\w+)\)/.exec(id)!;
      expect(valueOf(prepared, id)).toBeCloseTo(own(upper!) - own(lower!), 10);
      expect(from).toBe(`g (${upper} against ${lower})`);
      expect(family).toBe(compared[0]!.family);
    }
    expect(
      prepared.quantities.some(
        (q) => q.kind === "completely_standardised" && q.from!.startsWith("g."),
      ),
    ).toBe(false);
    expect(prepared.quantities.some((q) => q.kind === "explained_variance")).toBe(false);
  });

  it("a variable that moderates its own effect: the slope is that of a parabola", () => {
    const study = made("H1: x strengthens x to y\nH2: w raises y", { probes: { x: ["mean_sd"] } });
    const { definition, table } = madeStudy(study);
    const prepared = prepare(definition, table);
    const { step } = readerOf(study);
    for (const [label, shift] of [
      ["mean-sd", -1],
      ["mean", 0],
      ["mean+sd", 1],
    ] as const)
      expect(valueOf(prepared, `conditional direct x > y at x ${label}`)).toBeCloseTo(
        step("y", "x", { ...MIDDLE(), x: mean(x) + shift * sd(x) }),
        8,
      );
  });
});
