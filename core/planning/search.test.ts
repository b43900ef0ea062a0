import { describe, expect, it } from "vitest";
import {
  completePlan,
  scaledPlan,
  Simulator,
  smallestEffect,
  smallestSample,
  type PlannedPoint,
} from ".";
import { size, study, variable } from "../test-kit/plans";

describe("the smallest number of people", () => {
  const point = (people: number, share: number): PlannedPoint => {
    const s = { share, se: Math.sqrt((share * (1 - share)) / 1000), samples: 1000 };
    return {
      people,
      samples: 1000,
      failed: 0,
      failures: {},
      all: s,
      sentences: [],
    };
  };
  const power = (people: number): number => 1 - 1 / (1 + (people / 100) ** 3);

  it("is where power passes the target, with a range that holds it", async () => {
    const asked: number[] = [];
    const found = await smallestSample({ kind: "all" }, 0.8, 50, (people) => {
      asked.push(people);
      return Promise.resolve(point(people, power(people)));
    });
    // (n / 100)^3 = 4.
    expect(found.people).toBe(159);
    expect(new Set(asked).size).toBe(asked.length);
    expect(found.range[0]).toBeLessThan(159);
    expect(found.range[1]).toBeGreaterThanOrEqual(159);
  });

  it("is said not to exist where it does not", async () => {
    await expect(
      smallestSample({ kind: "all" }, 0.8, 50, (people) => Promise.resolve(point(people, 0.1))),
    ).rejects.toThrow(/Even with 20,?000 people/);
  });
});

describe("the smallest effect", () => {
  it("is the multiple of what is expected whose power reaches the target", async () => {
    const point = (factor: number): PlannedPoint => {
      const share = 1 - 1 / (1 + factor ** 4);
      const power = { share, se: 0.01, samples: 1000 };
      const sentence = { label: "H1", truth: 0.1 * factor, power };
      return { sentences: [sentence] } as unknown as PlannedPoint;
    };
    const found = await smallestEffect("H1", 0.8, (f) => Promise.resolve(point(f)));
    // factor^4 = 4.
    expect(Math.abs(found!.factor - Math.SQRT2)).toBeLessThan(0.03);
    expect(found!.effect).toBeCloseTo(0.1 * found!.factor, 12);
    // Where only small multiples are possible and none is found often enough, there is none.
    const none = await smallestEffect("H1", 0.999, (f) =>
      Promise.resolve(f > 1.2 ? null : point(f)),
    );
    expect(none).toBeNull();
  });

  it("scales every step that the sentence is about, and nothing else", () => {
    const of = study(
      ["x", "w", "m", "y"].map((n) => variable(n)),
      "H1: x raises y through m\nH2: w strengthens x to m",
    );
    const plan = completePlan({
      sizes: [
        size("x", "m", 0.3),
        size("m", "y", 0.4),
        size("x", "y", 0.1),
        size("x x w", "m", 0.2),
      ],
    });
    const { theory } = new Simulator({ study: of, plan, every: false }).population;
    expect(scaledPlan(plan, theory, "H1", 0.5).sizes.map((s) => s.size)).toEqual([
      0.15, 0.2, 0.1, 0.2,
    ]);
    expect(scaledPlan(plan, theory, "H2", 2).sizes.map((s) => s.size)).toEqual([
      0.3, 0.4, 0.1, 0.4,
    ]);
  });
});
