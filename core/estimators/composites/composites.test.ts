import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Evidence } from "../../evidence";
import { analyse } from "../../analysis";
import { analyseMade, madeStudy, normals, problemOf } from "../../test-kit";
import { columnsOf, COMBINES, MEDIATION, N, run, sectionOf } from "../../test-kit/composites";

const resultOf = (evidence: Evidence) => sectionOf(evidence).groups[0]!.result;
const numbers = ({ effects }: Evidence): (number | null)[] => effects.map((e) => e.estimate);

const seeds = fc.integer({ min: 1, max: 2000 });
const RUNS = { numRuns: 12 };

describe("identities of composite models", () => {
  it("of single items the paths are standardised least squares", () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const columns = columnsOf(seed);
        const theory = ["H1: x1 raises y1 through m1", "adjust m1, y1 for w1"];
        const own = run(columns, theory);
        const z = analyseMade({
          columns,
          theory: theory.join("\n"),
          settings: { centring: "standardised" },
        });
        for (const id of ["direct x1 > y1", "indirect x1 > m1 > y1", "total x1 > y1"]) {
          const of = (e: Evidence): number => e.effects.find((f) => f.id === id)!.estimate!;
          expect(of(own)).toBeCloseTo(of(z), 10);
        }
      }),
      RUNS,
    );
  });

  it("two blocks by regression have the first canonical correlation", () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const columns = columnsOf(seed);
        const evidence = run(columns, [
          "measure a combines x1, x2, x3 weighted by regression",
          "measure b combines y1, y2 weighted by regression",
          "H1: a affects b",
        ]);
        const path = Math.abs(resultOf(evidence).paths.b!.a!);
        // No weights correlate higher: nudging either set of weights lowers the correlation.
        const { weights } = resultOf(evidence);
        const z = (name: string): number[] => standardised(columns[name]!);
        const score = (w: Record<string, number>, nudge: number, at: string): number[] => {
          const names = Object.keys(w);
          return z(names[0]!).map((_, i) =>
            names.reduce(
              (sum, name) => sum + (w[name]! + (name === at ? nudge : 0)) * z(name)[i]!,
              0,
            ),
          );
        };
        for (const at of ["x1", "x2", "x3", "y1", "y2"])
          for (const nudge of [-0.02, 0.02])
            expect(
              Math.abs(correlation(score(weights.a!, nudge, at), score(weights.b!, nudge, at))),
            ).toBeLessThanOrEqual(path + 1e-9);
      }),
      RUNS,
    );
  });

  it("scores have variance one: w' R w = 1 for every block", () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const { standardised: scores } = sectionOf(run(columnsOf(seed), MEDIATION)).scores;
        for (const list of Object.values(scores)) {
          const mean = list.reduce((a, b) => a + b, 0) / N;
          expect(mean).toBeCloseTo(0, 9);
          expect(list.reduce((a, b) => a + (b - mean) ** 2, 0) / (N - 1)).toBeCloseTo(1, 9);
        }
      }),
      RUNS,
    );
  });

  it("products of centred and of standardised single items agree with two stages", () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const theory = ["H1: x1 affects y1", "M1: w1 alters x1 to y1"];
        const columns = columnsOf(seed);
        const [two, centred, own] = ["two_stage", "centred", "standardised"].map((interactions) =>
          run(columns, theory, { interactions }),
        );
        const of = (e: Evidence): number =>
          e.effects.find((f) => f.kind === "interaction")!.estimate!;
        expect(of(centred!)).toBeCloseTo(of(two!), 8);
        expect(of(own!)).toBeCloseTo(of(two!), 8);
      }),
      RUNS,
    );
  });
});

const standardised = (values: number[]): number[] => {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  const sd = Math.sqrt(values.reduce((a, b) => a + (b - mean) ** 2, 0) / (values.length - 1));
  return values.map((v) => (v - mean) / sd);
};

function correlation(a: number[], b: number[]): number {
  const [x, y] = [standardised(a), standardised(b)];
  return x.reduce((sum, v, i) => sum + v * y[i]!, 0) / (a.length - 1);
}

describe("composite models do not care", () => {
  const MODERATED = [...MEDIATION, "measure w combines w1, w2", "H2: w strengthens x to m"];

  it.each<[string, (columns: Record<string, number[]>) => Record<string, number[]>]>([
    ["for units", (c) => each(c, (v, at) => v * (at % 2 === 0 ? 1000 : 0.003))],
    ["for a shift by a million", (c) => each(c, (v) => v + 1e6)],
    [
      "for the order of rows",
      (c) => Object.fromEntries(Object.entries(c).map(([k, v]) => [k, v.toReversed()])),
    ],
    ["for the order of columns", (c) => Object.fromEntries(Object.entries(c).toReversed())],
  ])("%s", (_, change) => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const columns = columnsOf(seed);
        const [before, after] = [columns, change(columns)].map((c) => run(c, MODERATED));
        numbers(before!).forEach((v, i) => expect(numbers(after!)[i]).toBeCloseTo(v!, 6));
      }),
      RUNS,
    );
  });

  it("for the order of sentences and items", () => {
    fc.assert(
      fc.property(seeds, fc.shuffledSubarray(COMBINES, { minLength: 3 }), (seed, measures) => {
        const columns = columnsOf(seed);
        const before = run(columns, MEDIATION);
        const shuffled = measures.map((m) => m.replace("x1, x2, x3", "x3, x1, x2"));
        const after = run(columns, [MEDIATION.at(-1)!, ...shuffled]);
        const of = (e: Evidence): Map<string, number | null> =>
          new Map(e.effects.map((f) => [f.id, f.estimate]));
        for (const [id, v] of of(before)) expect(of(after).get(id)).toBeCloseTo(v!, 7);
      }),
      RUNS,
    );
  });

  it("which way an item is keyed, once it is said", () => {
    const columns = columnsOf(7);
    const turned = { ...columns, x2: columns.x2!.map((v) => -v) };
    const before = run(columns, MEDIATION);
    const after = run(turned, [
      "measure x combines x1, reversed x2, x3 on -100 to 100",
      ...MEDIATION.slice(1),
    ]);
    numbers(before).forEach((v, i) => expect(numbers(after)[i]).toBeCloseTo(v!, 8));
  });

  it("where the limits of a reversed item stand; without any it is not reversed", () => {
    const columns = columnsOf(7);
    const theory = ["measure x combines x1, reversed x2, x3", ...MEDIATION.slice(1)].join("\n");
    const settings = { engine: "composites", options: { folds: 0 }, replications: 20 };
    const raw = (range?: [number, number], line = theory) => {
      const made = {
        columns,
        theory: line,
        settings,
        ...(range ? { variables: { x2: { range } } } : {}),
      };
      return range || line !== theory ? resultOf(analyseMade(made)) : problemOf(made);
    };
    expect(raw([-100, 100])).toEqual(raw(undefined, theory.replace("x3", "x3 on -100 to 100")));
    expect(raw()).toMatchObject({ message: expect.stringContaining("“x2” cannot be reversed") });
    const beyond = problemOf({ columns, theory, settings, variables: { x2: { range: [0, 1] } } });
    expect(beyond.message).toMatch(/“x2” is .* in row \d+, beyond its scale from 0 to 1/);
  });

  it("which of two values of a moderator is 1, but for the sign", () => {
    const columns = columnsOf(8);
    const theory = [...MEDIATION, "H2: z alters x to m"];
    const flipped = { ...columns, z: columns.z!.map((v) => 1 - v) };
    const of = (e: Evidence): number => e.effects.find((f) => f.kind === "interaction")!.estimate!;
    expect(of(run(flipped, theory))).toBeCloseTo(-of(run(columns, theory)), 9);
  });
});

function each(
  columns: Record<string, number[]>,
  change: (v: number, at: number) => number,
): Record<string, number[]> {
  return Object.fromEntries(
    Object.entries(columns).map(([name, values], at) => [
      name,
      name === "z" ? values : values.map((v) => change(v, at)),
    ]),
  );
}

describe("correction for reliability", () => {
  const REFLECTS = MEDIATION.map((line) => line.replace("combines", "reflects"));

  it("makes paths among common factors what loadings and correlations of items say", () => {
    const columns = columnsOf(3);
    const corrected = resultOf(run(columns, REFLECTS));
    const plain = resultOf(run(columns, REFLECTS, { correction: "none" }));
    const own = corrected.consistent!;
    const { rho } = own;
    expect(plain.consistent).toBeNull();
    expect(own.constructCorrelations.x!.m!).toBeCloseTo(
      plain.constructCorrelations.x!.m! / Math.sqrt(rho.x! * rho.m!),
      10,
    );
    expect(Object.values(rho).every((r) => r > 0.4 && r < 1)).toBe(true);
    expect(own.paths.m!.x!).toBeGreaterThan(plain.paths.m!.x!);
  });

  it("is given up for all where a reliability is not positive, and everything else is said", () => {
    const columns = columnsOf(9);
    // Both items go with their neighbours, and yet against each other.
    const t = columns.m1!.map((v, i) => v + columns.m2![i]!);
    const apart = normals(N, 77);
    const broken = {
      ...columns,
      m1: t.map((v, i) => v + 2.5 * apart[i]!),
      m2: t.map((v, i) => v - 2.5 * apart[i]!),
    };
    const factors = MEDIATION.map((line) => line.replace("combines", "reflects"));
    const evidence = run(broken, factors, { correction: "reflective" }, 20);
    const [found] = evidence.warnings.filter((w) => w.code === "rho_a_nonpositive");
    expect(found!.about).toEqual(["m"]);
    expect(found!.message).toMatch(/its reliability \(rho_A\) is −[\d.]+, not above zero/);
    const plain = run(broken, factors, { correction: "none" }, 20);
    expect(resultOf(evidence).consistent).toBeNull();
    expect(numbers(evidence)).toEqual(numbers(plain));
    expect(evidence.bootstrap).toMatchObject({ failed: 0 });
    const grouped = run(broken, [...factors, "groups by z"], {
      correction: "reflective",
      permutations: 0,
    });
    expect(sectionOf(grouped).groups.map((g) => g.result.consistent)).toEqual([null, null]);
  });

  it("leaves composites beside factors as they are", () => {
    const columns = columnsOf(4);
    const mixed = resultOf(run(columns, [COMBINES[0]!, ...REFLECTS.slice(1)]));
    expect(mixed.consistent!.rho.x).toBe(1);
    expect(mixed.consistent!.rho.m).toBeLessThan(1);
  });
});

it("exact fit is that of the first stage, the same with an interaction by two stages as without", () => {
  const columns = columnsOf(7);
  const measures = [...MEDIATION, "measure w combines w1, w2", "w affects m"];
  const options = { exact_fit: 15 };
  const plain = sectionOf(run(columns, measures, options)).exactFit!;
  const moderated = sectionOf(run(columns, [...measures, "H2: w strengthens x to m"], options));
  expect(plain.measures.length).toBe(6);
  expect(moderated.exactFit).toEqual(plain);
});

it("a main effect of a variable of several levels is said to be added once, by its name", () => {
  const columns = { ...columnsOf(7), place: Array.from({ length: N }, (_, i) => "abc"[i % 3]!) };
  const evidence = run(columns as never, [...MEDIATION, "H2: place alters x to m"]);
  const added = evidence.warnings.filter((w) => w.code === "main_effect_added");
  expect(added.map((w) => w.about)).toEqual([["place", "m"]]);
});

describe("resamples of composite models", () => {
  it("are the analyses of their rows, interactions, weights and all", () => {
    const columns = columnsOf(5);
    const theory = [...MEDIATION, "measure w combines w1, w2", "H2: w strengthens x to m"];
    const ways: Record<string, string>[] = [
      {},
      { interactions: "centred" },
      { scheme: "centroid" },
    ];
    for (const options of ways) {
      const whole = run(columns, theory, options, 40);
      const rows = normals(N, 77).map((v) => Math.floor(Math.abs(v * 1e6)) % N);
      const drawn = Object.fromEntries(
        Object.entries(columns).map(([k, v]) => [k, rows.map((i) => v[i]!)]),
      );
      const analysed = run(drawn, theory, options);
      const given = resampledOnce(columns, theory, options, rows);
      for (const effect of analysed.effects) {
        if (effect.estimate === null || effect.at) continue;
        const other = given.effects.find((e) => e.id === effect.id)!;
        expect(other.bootstrap!.percentile!.lower, effect.id).toBeCloseTo(effect.estimate, 8);
      }
      expect(whole.bootstrap).toMatchObject({ done: 40, failed: 0 });
    }
  });

  it("keep groups apart and their sizes", () => {
    const columns = columnsOf(6);
    const evidence = run(columns, [...MEDIATION, "groups by z"], { permutations: 0 }, 60);
    expect(evidence.bootstrap).toMatchObject({ resampling: "strata", failed: 0 });
    const [zero, one] = [0, 1].map((value) => {
      const rows = columns.z!.flatMap((z, i) => (z === value ? [i] : []));
      return run(
        Object.fromEntries(Object.entries(columns).map(([k, v]) => [k, rows.map((i) => v[i]!)])),
        MEDIATION,
      );
    });
    const { groups } = sectionOf(evidence);
    expect(groups.map((g) => g.result.paths.m!.x!)).toEqual([
      expect.closeTo(resultOf(zero!).paths.m!.x!, 9),
      expect.closeTo(resultOf(one!).paths.m!.x!, 9),
    ]);
  });
});

/** The same model with one resample, made of these rows. */
function resampledOnce(
  columns: Record<string, number[]>,
  theory: string[],
  options: Record<string, string | number>,
  rows: number[],
): Evidence {
  const { definition, table } = madeStudy({
    columns,
    theory: theory.join("\n"),
    settings: {
      engine: "composites",
      options: { folds: 0, ...options },
      replications: 1,
      interval: "percentile",
    },
  });
  return analyse({ ...definition, resamples: [rows] }, table);
}
