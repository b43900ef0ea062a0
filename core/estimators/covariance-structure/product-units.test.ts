import { describe, expect, it } from "vitest";
import type { Evidence } from "../../evidence";
import { analyseMade, normals } from "../../test-kit";
import type { StructureSection } from "./types";

const n = 220;
const e = Array.from({ length: 16 }, (_, k) => normals(n, 210 + k));
const [x, w] = [e[0]!, e[1]!.map((v, i) => 0.3 * e[0]![i]! + v)];
const m = x.map((v, i) => 0.4 * v + 0.2 * w[i]! + 0.35 * v * w[i]! + 0.8 * e[2]![i]!);
const y = m.map((v, i) => 0.5 * v + 0.2 * x[i]! + 0.8 * e[3]![i]!);
const item = (of: readonly number[], k: number, loading: number): number[] =>
  of.map((v, i) => loading * v + 0.6 * e[k]![i]!);
const columns = {
  x1: item(x, 4, 1),
  x2: item(x, 5, 0.7),
  x3: item(x, 6, 1.4),
  w1: item(w, 7, 0.8),
  w2: item(w, 8, 1.3),
  w3: item(w, 9, 1),
  m1: item(m, 10, 1),
  m2: item(m, 11, 0.8),
  m3: item(m, 12, 1.2),
  y,
  v: w,
};
const SENTENCES = [
  "H1: fx raises y through fm",
  "H2: fw strengthens fx to fm",
  "H3: fw strengthens fx to y through fm on fx to fm",
];

type Scaling = "" | "with variance 1" | `scaled by ${string}`;
const measures = (xs: Scaling, ws: Scaling, xItems = "x1, x2, x3", wItems = "w1, w2, w3"): string =>
  `measure fx reflects ${xItems} ${xs}\nmeasure fw reflects ${wItems} ${ws}\nmeasure fm reflects m1, m2, m3`;

const run = (lines: string, options: object = {}, made: object = columns): Evidence =>
  analyseMade({
    columns: made as Record<string, number[]>,
    theory: [lines, ...SENTENCES].join("\n"),
    settings: { interval: "delta", options } as object,
  });

const sectionOf = ({ sections }: Evidence) =>
  sections.find((s) => s.kind === "structure") as StructureSection;

/** What no scaling may change. */
function unchanging(evidence: Evidence) {
  const [interaction] = sectionOf(evidence).interactions;
  const [moderation] = evidence.moderations;
  const sdOf = (name: string): number =>
    Math.sqrt(sectionOf(evidence).arrows.length > 0 ? impliedVariance(evidence, name) : NaN);
  const standard = evidence.effects.filter((f) => /^completely standardised/.test(f.id));
  return {
    chi2: sectionOf(evidence).fit!.plain.chi2,
    interaction: interaction!.standardised.estimate,
    se: interaction!.standardised.se.expected,
    verdicts: evidence.hypotheses.map((h) => h.verdict),
    index: standard.map((f) => f.estimate),
    slopes: moderation!.slopes.map((s) => (s.estimate! * sdOf("fx")) / sdOf("fm")),
    full: sectionOf(evidence)
      .arrows.filter((p) => p.kind === "path" && p.free && !/:/.test(p.arrow))
      .filter((p) => p.to === "fm" || p.to === "y")
      .map((p) => p.full.estimate),
  };
}

/** Variance of an exogenous factor, or of one with its paths, by its standardised residual. */
function impliedVariance(evidence: Evidence, name: string): number {
  const { arrows } = sectionOf(evidence);
  const own = arrows.find((p) => p.arrow === `${name} <-> ${name}`)!;
  return own.estimate / own.full.estimate!;
}

const closeTo = (found: object, expected: object, digits: number): void => {
  const flat = (of: object): unknown[] => Object.values(of).flat();
  flat(expected).forEach((value, at) => {
    const own = flat(found)[at];
    if (typeof value === "number") expect(own).toBeCloseTo(value, digits);
    else expect(own).toBe(value);
  });
};

describe("an interaction of latent variables", () => {
  const OPTIONS = [
    { interactions: "matched_double" },
    { interactions: "all_double" },
    { interactions: "matched_residual" },
  ];
  it.each(OPTIONS)("is the same whatever scales its factors: %o", (options) => {
    const plain = unchanging(run(measures("", ""), options));
    expect(Math.abs(plain.interaction)).toBeGreaterThan(0.1);
    expect(plain.index.length).toBeGreaterThan(0);
    for (const [xs, ws] of [
      ["with variance 1", ""],
      ["", "with variance 1"],
      ["with variance 1", "with variance 1"],
      ["scaled by x3", ""],
      ["scaled by x2", "scaled by w2"],
    ] as const)
      closeTo(unchanging(run(measures(xs, ws), options)), plain, 5);
    closeTo(unchanging(run(measures("", ""), { ...options, scaling: "variance" })), plain, 5);
  });

  it("is the same with items that are keyed the other way, and in another unit", () => {
    const turned = {
      ...columns,
      x1: columns.x1.map((v) => -v),
      w2: columns.w2.map((v) => 10 * v + 1000),
    };
    const scales = ["with variance 1", "scaled by w2"] as const;
    const plain = unchanging(run(measures(...scales)));
    const keyed = unchanging(run(measures(...scales, "reversed x1, x2, x3"), {}, turned));
    closeTo(keyed, plain, 5);
  });

  it("tells its products in the unit of the product of its factors, everywhere alike", () => {
    const evidence = run(measures("with variance 1", "with variance 1"));
    const { arrows, interactions } = sectionOf(evidence);
    const arrow = (name: string): number => arrows.find((p) => p.arrow === name)!.estimate;
    expect(arrow("fx:fw -> x1:w1")).toBeCloseTo(arrow("fx -> x1") * arrow("fw -> w1"), 10);
    expect(arrow("fx:fw -> fm")).toBeCloseTo(interactions[0]!.estimate, 10);
    const own = evidence.effects.find((f) => f.id === evidence.hypotheses[1]!.effects[0])!;
    expect(own.estimate).toBeCloseTo(interactions[0]!.estimate, 10);
  });

  it("is the same for an observed moderator", () => {
    const of = (xs: Scaling) =>
      unchanging(
        analyseMade({
          columns,
          theory: `measure fx reflects x1, x2, x3 ${xs}\nmeasure fm reflects m1, m2, m3\nH1: fx raises y through fm\nH2: v strengthens fx to fm\nH3: v strengthens fx to y through fm on fx to fm`,
          settings: { interval: "delta" },
        }),
      );
    closeTo(of("with variance 1"), of(""), 5);
    closeTo(of("scaled by x3"), of(""), 5);
  });

  it("has the same limits from resamples", () => {
    // Not those at values of the moderator: these are fixed in the unit of its factor.
    const limits = (xs: Scaling, ws: Scaling) => {
      const evidence = analyseMade({
        columns,
        theory: [measures(xs, ws), ...SENTENCES].join("\n"),
        settings: { interval: "percentile", replications: 60, seed: 4 },
      });
      return evidence.effects
        .filter((f) => /^completely standardised direct/.test(f.id))
        .flatMap((f) => [f.shown!.lower, f.shown!.upper]);
    };
    const plain = limits("", "");
    expect(plain.length).toBeGreaterThan(3);
    limits("with variance 1", "scaled by w2").forEach((value, at) =>
      expect(value).toBeCloseTo(plain[at]!, 4),
    );
  });
});
