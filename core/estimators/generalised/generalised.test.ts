import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { analyse } from "../../analysis";
import type { Evidence } from "../../evidence";
import { analyseMade, madeStudy, normals } from "../../test-kit";
import type { NaturalEffectsEvidence, ResponseSection } from "./types";
import { FAMILIES, familyOf, type FamilyId } from "./families";
import { innerMean, innerRule } from "./inner-means";
import { separationOf } from "./separation";
import { Base, designOf } from "./terms";

const N = 150;

/** A treatment by lot, a mediator, a covariate, and outcomes of every kind. */
function columnsOf(seed: number): Record<string, number[]> {
  const e = Array.from({ length: 6 }, (_, at) => normals(N, seed * 50 + at));
  const x = e[0]!.map((v) => (v > 0 ? 1 : 0));
  const c = e[1]!;
  const m = x.map((v, i) => 1 + 0.7 * v + 0.3 * c[i]! + e[2]![i]!);
  const eta = x.map((v, i) => -0.8 + 0.3 * v + 0.5 * m[i]! + 0.2 * c[i]!);
  return {
    x,
    c,
    m,
    y: eta.map((v, i) => v + e[3]![i]!),
    yes: eta.map((v, i) => (v + 1.7 * e[4]![i]! > 0 ? 1 : 0)),
    some: m.map((v, i) => (v + e[5]![i]! > 1.3 ? 1 : 0)),
    count: eta.map((v, i) => Math.max(0, Math.round(Math.exp(v / 2) + e[4]![i]!))),
  };
}

const run = (
  columns: Record<string, number[]>,
  theory: string,
  settings: Parameters<typeof analyseMade>[0]["settings"] = {},
): Evidence =>
  analyseMade({
    columns,
    theory,
    settings: { engine: "generalised", interval: "delta", ...settings },
  });

const sectionOf = ({ sections }: Evidence): ResponseSection =>
  sections.find((s) => s.kind === "responses")!;
const naturalOf = (e: Evidence): NaturalEffectsEvidence => sectionOf(e).natural[0]!;
const effect = (
  n: NaturalEffectsEvidence,
  name: string,
  scale: "difference" | "risk_ratio" = "difference",
): number => n.effects[scale]!.find((f) => f.name === name)!.estimate;

const seeds = fc.integer({ min: 1, max: 500 });
const RUNS = { numRuns: 8 };

describe("straight lines without a product", () => {
  it("are the least-squares mediation, in estimate and errors of coefficients", () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const columns = columnsOf(seed);
        const theory = "H1: x raises y through m\nadjust m, y for c";
        const own = run(columns, theory, { options: { treatment_product: "out" } });
        const squares = analyseMade({ columns, theory, settings: { interval: "delta" } });
        for (const id of ["direct x > y", "indirect x > m > y", "total x > y", "direct x > m"]) {
          const of = (e: Evidence): number => e.effects.find((f) => f.id === id)!.estimate!;
          expect(of(own)).toBeCloseTo(of(squares), 9);
        }
        const n = naturalOf(own);
        expect(effect(n, "pure_natural_direct")).toBeCloseTo(effect(n, "total_natural_direct"), 9);
      }),
      RUNS,
    );
  });
});

describe("decompositions", () => {
  it.each(["y", "yes", "count"])("add up, whatever the outcome: %s", (outcome) => {
    fc.assert(
      fc.property(seeds, fc.constantFrom("m", "some"), (seed, mediator) => {
        const kind = { y: "linear", yes: "logistic", count: "poisson" }[outcome]!;
        const n = naturalOf(
          run(
            columnsOf(seed),
            `H1: x raises ${outcome} through ${mediator}\nmodel ${outcome} as ${kind}\ncontrol ${mediator} at 0, 1`,
          ),
        );
        const of = (name: string): number => effect(n, name);
        expect(of("pure_natural_direct") + of("total_natural_indirect")).toBeCloseTo(
          of("total_effect"),
          10,
        );
        expect(of("total_natural_direct") + of("pure_natural_indirect")).toBeCloseTo(
          of("total_effect"),
          10,
        );
        for (const m of [0, 1])
          expect(
            of(`controlled_direct[m=${m}]`) +
              of(`reference_interaction[m=${m}]`) +
              of("mediated_interaction") +
              of("pure_natural_indirect"),
          ).toBeCloseTo(of("total_effect"), 10);
        if (outcome === "yes")
          expect(
            effect(n, "pure_natural_direct", "risk_ratio") *
              effect(n, "total_natural_indirect", "risk_ratio"),
          ).toBeCloseTo(effect(n, "total_effect", "risk_ratio"), 10);
      }),
      RUNS,
    );
  });

  it("turn round with the treatment", () => {
    const columns = columnsOf(3);
    const flipped = { ...columns, x: columns.x!.map((v) => 1 - v) };
    const theory = "H1: x raises yes through m";
    const [a, b] = [naturalOf(run(columns, theory)), naturalOf(run(flipped, theory))];
    expect(effect(a, "total_effect")).toBeCloseTo(-effect(b, "total_effect"), 9);
    expect(effect(a, "total_natural_indirect")).toBeCloseTo(-effect(b, "pure_natural_indirect"), 9);
  });

  it("do not care for units and origins of mediator and covariates", () => {
    const columns = columnsOf(4);
    const moved = {
      ...columns,
      m: columns.m!.map((v) => 1e6 + 250 * v),
      c: columns.c!.map((v) => 0.001 * v - 40),
    };
    const theory = "H1: x raises yes through m\nadjust m, yes for c";
    const [a, b] = [naturalOf(run(columns, theory)), naturalOf(run(moved, theory))];
    for (const name of ["total_effect", "total_natural_indirect", "pure_natural_direct"])
      expect(effect(b, name)).toBeCloseTo(effect(a, name), 6);
  });
});

describe("resamples", () => {
  it("are the analyses of their rows", () => {
    const columns = columnsOf(5);
    const theory = "H1: x raises yes through m\nadjust m, yes for c";
    const rows = normals(N, 9).map((v) => Math.floor(Math.abs(v * 1e6)) % N);
    const { definition, table } = madeStudy({
      columns,
      theory,
      settings: { engine: "generalised", replications: 1, interval: "percentile" },
    });
    const given = analyse({ ...definition, resamples: [rows] }, table);
    const drawn = Object.fromEntries(
      Object.entries(columns).map(([k, v]) => [k, rows.map((i) => v[i]!)]),
    );
    const analysed = run(drawn, theory);
    for (const id of ["indirect x > m > yes", "total x > yes", "direct x > m"]) {
      const one = given.effects.find((f) => f.id === id)!.bootstrap!.percentile!.lower;
      // The integral of a resample is coarser.
      expect(one).toBeCloseTo(analysed.effects.find((f) => f.id === id)!.estimate!, 5);
    }
  });
});

describe("means over a mediator", () => {
  const pairs = FAMILIES.flatMap((m) => FAMILIES.map((y): [FamilyId, FamilyId] => [m, y]));
  it.each(pairs)(
    "have the derivatives of differences: mediator %s, outcome %s",
    (mediator, outcome) => {
      const rule = innerRule(mediator, outcome);
      const at = [0.3, 0.4, 0.2, 0.9] as const;
      const value = (change: number[]): number => {
        const out = innerMean();
        const [a, b, l, s] = at.map((v, i) => v + (change[i] ?? 0)) as [
          number,
          number,
          number,
          number,
        ];
        rule(a, b, l, s, out);
        return out.value;
      };
      const out = innerMean();
      rule(...at, out);
      const step = 1e-5;
      [out.da, out.db, out.dl, out.ds].forEach((own, i) => {
        const change = (by: number): number[] => at.map((_, k) => (k === i ? by : 0));
        expect(own).toBeCloseTo((value(change(step)) - value(change(-step))) / (2 * step), 6);
      });
    },
  );

  it.each(FAMILIES)("families have the derivatives of differences: %s", (id) => {
    const f = familyOf(id);
    for (const eta of [-1.2, 0, 0.7]) {
      expect(f.slope(eta)).toBeCloseTo((f.mean(eta + 1e-5) - f.mean(eta - 1e-5)) / 2e-5, 7);
      expect(f.curvature(eta)).toBeCloseTo((f.slope(eta + 1e-5) - f.slope(eta - 1e-5)) / 2e-5, 6);
      expect(f.slopeAt(eta, f.mean(eta))).toBeCloseTo(f.slope(eta), 12);
    }
  });
});

describe("separation", () => {
  const of = (x: number[], y: number[], family: FamilyId = "logistic") => {
    const n = x.length;
    const base = new Base([["x", Float64Array.from(x)]]);
    const design = designOf([[], ["x"]], base, n);
    return separationOf({ family, design, columns: 2, y: Float64Array.from(y), offset: null });
  };

  it("is told from overlap, however steep, on every scale", () => {
    const x = [1, 2, 3, 4, 5, 6];
    for (const unit of [1, 1e-4, 1e4])
      for (const shift of [0, 1000]) {
        const own = x.map((v) => unit * v + shift);
        expect(of(own, [0, 0, 0, 1, 1, 1])).toBe("separation_complete");
        expect(of(own, [0, 0, 1, 0, 1, 1])).toBeNull();
      }
    expect(of([1, 2, 3, 3, 4, 5], [0, 0, 0, 1, 1, 1])).toBe("separation_quasi");
    expect(of([0, 0, 0, 1, 1, 1], [0, 0, 0, 2, 0, 1], "poisson")).toBe("separation_counts");
    expect(of([0, 0, 0, 1, 1, 1], [0, 1, 0, 2, 0, 1], "poisson")).toBeNull();
  });
});
