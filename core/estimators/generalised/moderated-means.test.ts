import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Evidence, HypothesisEvidence } from "../../evidence";
import { amount, analyseMade, normals } from "../../test-kit";
import { effectWorking } from "../../working";
import type { ResponseSection } from "./types";

const N = 140;
const CLUBS = ["north", "south", "west"];

/** A treatment whose way through m grows with w; responses of every kind. */
function columnsOf(seed: number, shift = 0, times = 1) {
  const e = Array.from({ length: 7 }, (_, at) => normals(N, seed * 70 + at));
  const w = e[0]!;
  const x = e[1]!.map((v) => (v > 0 ? 1 : 0));
  const half = e[6]!.map((v) => (v > 0.3 ? 1 : 0));
  const m = x.map((v, i) => 0.5 * v + 0.3 * w[i]! + 0.4 * v * w[i]! + e[2]![i]!);
  const eta = m.map((v, i) => -0.2 + 0.7 * v + 0.3 * x[i]! - 0.2 * w[i]! + 0.3 * half[i]!);
  return {
    columns: {
      x,
      w: w.map((v) => shift + times * v),
      half,
      m,
      advised: m.map((v, i) => (v + e[3]![i]! > 0.2 ? 1 : 0)),
      y: eta.map((v, i) => v + e[4]![i]!),
      yes: eta.map((v, i) => (v + 1.7 * e[5]![i]! > 0 ? 1 : 0)),
    } as Record<string, number[]>,
    club: w.map((v) => CLUBS[v < -0.4 ? 0 : v < 0.4 ? 1 : 2]!),
  };
}

const run = (
  columns: Record<string, (number | string)[]>,
  theory: string,
  settings: object = {},
): Evidence =>
  analyseMade({
    columns,
    theory,
    settings: { engine: "generalised", interval: "delta", ...settings },
  });

const claimOf = (evidence: Evidence, label: string): HypothesisEvidence =>
  evidence.hypotheses.find((h) => h.label === label)!;
const sectionOf = ({ sections }: Evidence): ResponseSection =>
  sections.find((s) => s.kind === "responses")!;

/** Least squares has no product of the treatment and the mediator. */
const NO_PRODUCT = { treatment_product: "out" };
const seeds = fc.integer({ min: 1, max: 300 });
const RUNS = { numRuns: amount(2, 20) };
const STEPS = "H1: x raises y through m\nH2: w alters x to y through m";

describe("a moderated path of straight lines", () => {
  it.each([
    ["the first step", "x to m"],
    ["the second step", "m to y"],
    ["both steps", "x to m and m to y"],
  ])("changes as the product of slopes does: %s", (_, steps) =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const { columns } = columnsOf(seed);
        const theory = `${STEPS} on ${steps}\nmodel y as linear\nmodel m as linear`;
        const means = claimOf(run(columns, theory, { options: NO_PRODUCT }), "H2");
        const slopes = claimOf(run(columns, theory, { engine: "least_squares" }), "H2");
        expect(means.claim!.estimate).toBeCloseTo(slopes.claim!.estimate!, 9);
      }),
      RUNS,
    ),
  );

  it("through two moderators at once as the moderated moderation does", () => {
    const { columns } = columnsOf(5);
    const theory =
      "H1: x raises y through m\nH2: w with half alters x to y through m on x to m\nmodel y as linear";
    const means = claimOf(run(columns, theory, { options: NO_PRODUCT }), "H2");
    const slopes = claimOf(run(columns, theory, { engine: "least_squares" }), "H2");
    expect(means.claim!.estimate).toBeCloseTo(slopes.claim!.estimate!, 9);
  });
});

describe("a moderated path to a yes/no response", () => {
  it("changes as the natural effects at both values of a binary moderator do, errors included", () =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const evidence = run(
          columnsOf(seed).columns,
          "H1: x raises yes through m\nH2: half alters x to yes through m on x to m",
        );
        const own = claimOf(evidence, "H2").claim!;
        const [change] = sectionOf(evidence).changes;
        const natural = change!.effects.find((e) => e.name === "total_natural_indirect")!;
        expect(own.estimate).toBeCloseTo(natural.estimate!, 10);
        expect(own.se).toBeCloseTo(natural.model!.se!, 8);
      }),
      RUNS,
    ));

  it("changes per unit as the derivative of what each row would have had, averaged", () =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const { columns } = columnsOf(seed);
        const evidence = run(
          columns,
          "H1: x raises yes through advised\nH2: w alters x to yes through advised on x to advised and advised to yes",
        );
        const b = (outcome: string): ((...names: string[]) => number) => {
          const own = sectionOf(evidence).models.find((m) => m.outcome === outcome)!.coefficients;
          return (...names) =>
            own.find((c) => c.term.split(":").sort().join() === [...names].sort().join())
              ?.estimate ?? 0;
        };
        const [m, y] = [b("advised"), b("yes")];
        const share = (eta: number): number => 1 / (1 + Math.exp(-eta));
        // The treatment's natural indirect effect of a person with w, by hand.
        const indirect = (w: number): number => {
          const advised = (x: number): number =>
            share(m("(intercept)") + m("x") * x + m("w") * w + m("x", "w") * x * w);
          const yes = (a: number): number =>
            share(
              y("(intercept)") +
                y("x") +
                y("advised") * a +
                y("w") * w +
                y("advised", "w") * a * w +
                y("advised", "x") * a,
            );
          return (advised(1) - advised(0)) * (yes(1) - yes(0));
        };
        const step = 1e-4;
        const slopes = columns.w!.map(
          (w) => (indirect(w + step) - indirect(w - step)) / (2 * step),
        );
        const mean = slopes.reduce((a, v) => a + v, 0) / slopes.length;
        expect(claimOf(evidence, "H2").claim!.estimate).toBeCloseTo(mean, 7);
      }),
      RUNS,
    ));

  it("is the same wherever the moderator has its zero, and per unit of it", () => {
    const theory = "H1: x raises yes through m\nH2: w alters x to yes through m on x to m";
    const plain = claimOf(run(columnsOf(9).columns, theory), "H2");
    const moved = claimOf(run(columnsOf(9, 1e6, 10).columns, theory), "H2");
    expect(moved.claim!.estimate! * 10).toBeCloseTo(plain.claim!.estimate!, 7);
    expect(moved.claim!.p).toBeCloseTo(plain.claim!.p!, 5);
    expect(moved.verdict).toBe(plain.verdict);
  });

  it("is told in resamples as in the sample, and says what it rests on", () => {
    const evidence = run(
      columnsOf(9).columns,
      "H1: x raises yes through m\nH2: w strengthens x to yes through m on x to m",
      { interval: "percentile", replications: 200, seed: 3 },
    );
    const h2 = claimOf(evidence, "H2");
    expect(h2.measure).toBe("change of the difference in probability");
    expect(h2.reason).toContain("m alone is as under 1 instead of 0");
    expect(h2.report).toContain("change per unit of w");
    const { estimate, lower, upper } = h2.claim!;
    expect(lower!).toBeLessThan(estimate!);
    expect(upper!).toBeGreaterThan(estimate!);
    const own = evidence.effects.find((e) => e.id === h2.effects[0])!;
    // Six means, said to be a derivative; the difference of two values is said to be nothing of the
    // kind.
    const [made] = effectWorking(own, evidence).steps;
    expect(made!.formula!.split("mean(")).toHaveLength(13);
    expect(made!.source).toContain("derivative");
    // The faster means of resamples lose no more than the shift divided by its step lets them.
    expect(Math.abs(own.bootstrap!.bias)).toBeLessThan(own.bootstrap!.se! / 3);
    expect(own.bootstrap!.se!).toBeCloseTo(own.delta.joint.classical!.se, 1);
  });

  it("among several levels is tested together, whatever the reference", () => {
    const { columns, club } = columnsOf(11);
    const theory =
      "H1: x raises yes through m\nH2: club alters x to yes through m on x to m\nH3: club (west against north) strengthens x to yes through m on x to m";
    const settings = { interval: "percentile", replications: 100, seed: 5 };
    const first = run({ ...columns, club }, theory, settings);
    const renamed = club.map((c) => (c === "north" ? "zoo" : c));
    const other = run({ ...columns, club: renamed }, theory.replace("north", "zoo"), settings);
    const [a, b] = [claimOf(first, "H2"), claimOf(other, "H2")];
    expect(a.effects).toHaveLength(2);
    expect(b.claim!.joint!.statistic).toBeCloseTo(a.claim!.joint!.statistic, 5);
    expect(claimOf(other, "H3").claim!.estimate).toBeCloseTo(
      claimOf(first, "H3").claim!.estimate!,
      9,
    );
  });

  it("stands at every level of a category, and the levels differ by what is claimed", () => {
    const { columns, club } = columnsOf(12);
    const evidence = run(
      { ...columns, club },
      "H1: x raises yes through m\nH2: club (west against north) alters x to yes through m on x to m",
    );
    const { natural, changes } = sectionOf(evidence);
    expect(natural.map((n) => n.at?.level ?? null)).toEqual([null, ...CLUBS]);
    const told = evidence.effects.find((e) => e.id === claimOf(evidence, "H2").effects[0])!;
    expect(effectWorking(told, evidence).steps[0]!.source).toBeNull();
    const change = changes.find((c) => c.upperWords === "west" && c.lowerWords === "north")!;
    const own = change.effects.find((e) => e.name === "total_natural_indirect")!;
    const claim = claimOf(evidence, "H2").claim!;
    expect(own.estimate).toBeCloseTo(claim.estimate!, 10);
    expect(own.model!.se).toBeCloseTo(claim.se!, 8);
    expect(evidence.warnings.map((w) => w.code)).not.toContain("moderator_outside_range");
  });

  it("stands at values of one moderator at a time where two act on different steps", () => {
    const { columns } = columnsOf(13);
    const evidence = run(
      columns,
      "H1: x raises yes through m\nH2: w alters x to m\nH3: half alters m to yes",
    );
    const at = sectionOf(evidence).natural.map((n) => n.at?.name ?? null);
    expect(at).toEqual([null, "w", "w", "w", "half", "half"]);
    // With half set and w as it is, the average over halves as they are is the effect as it is.
    const of = (name: string | null, value?: number): number =>
      sectionOf(evidence)
        .natural.find((n) => (n.at?.name ?? null) === name && (!n.at || n.at.value === value))!
        .effects.difference!.find((e) => e.name === "total_natural_indirect")!.estimate;
    const [zero, one, whole] = [of("half", 0), of("half", 1), of(null)];
    expect(whole).toBeGreaterThan(Math.min(zero, one));
    expect(whole).toBeLessThan(Math.max(zero, one));
  });

  it("through one of several mediators is refused, with what to say instead", () => {
    const { columns } = columnsOf(3);
    const evidence = () =>
      run(
        columns,
        "H1: x raises yes through m\nH3: x raises yes through y\nH2: w alters x to yes through m on x to m",
      );
    expect(evidence).toThrow(/Say which single step is moderated/);
  });
});
