import type { EquationEvidence } from "../estimators";
import { equationsOf } from "../evidence";
import { describe, expect, it } from "vitest";
import type { EffectEvidence, Evidence } from "../evidence";
import { analyseMade, normals } from "../test-kit";

const N = 150;
const [a, b, c, d, e, f] = [51, 52, 53, 54, 55, 56].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
  number[],
  number[],
];
const x = a.map((v) => 10 + 3 * v);
const w = b.map((v) => 4 + v);
const z = c.map((v) => 50 + 8 * v);
const g = x.map((_, i) => "abc"[i % 3]!);
const m = x.map(
  (v, i) => 1 + 0.3 * v + 0.2 * w[i]! + 0.05 * (v - 10) * (w[i]! - 4) + 0.4 * (i % 3) + d[i]!,
);
const m2 = m.map((v, i) => 0.4 * v + 0.2 * x[i]! + e[i]!);
const y = m.map(
  (v, i) =>
    2 +
    0.1 * x[i]! +
    0.4 * v +
    0.1 * (v - 4) * (w[i]! - 4) +
    0.02 * (v - 4) * (z[i]! - 50) +
    0.3 * m2[i]! +
    f[i]! * (1 + 0.2 * Math.abs(a[i]!)),
);
const columns = { x, w, z, g, m, m2, y };

type Coefficient = (outcome: string, term: string) => number;
/** A second route to an effect: its formula in the coefficients of raw columns. */
type Formula = (of: Coefficient) => number;

const mean = (v: number[]): number => v.reduce((sum, one) => sum + one, 0) / v.length;
const sd = (v: number[]): number =>
  Math.sqrt(v.reduce((sum, one) => sum + (one - mean(v)) ** 2, 0) / (v.length - 1));
const [low, high] = [(v: number[]) => mean(v) - sd(v), (v: number[]) => mean(v) + sd(v)];

/** Rows of an equation's raw columns, an intercept first. */
function designOf(equation: EquationEvidence): number[][] {
  const value = (name: string, i: number): number =>
    name === "g.1"
      ? Number(g[i] === "b")
      : name === "g.2"
        ? Number(g[i] === "c")
        : columns[name as "x"][i]!;
  return x.map((_, i) =>
    equation.coefficients.map(({ term }) =>
      term === "intercept" ? 1 : term.split(":").reduce((all, part) => all * value(part, i), 1),
    ),
  );
}

/** Inverse of X'X by Gauss and Jordan with pivoting. */
function inverseGram(rows: number[][]): number[][] {
  const p = rows[0]!.length;
  const work = Array.from({ length: p }, (_, i) => [
    ...Array.from({ length: p }, (__, j) => rows.reduce((sum, row) => sum + row[i]! * row[j]!, 0)),
    ...Array.from({ length: p }, (__, j) => Number(i === j)),
  ]);
  for (let k = 0; k < p; k++) {
    const best = work
      .slice(k)
      .reduce((at, row, i) => (Math.abs(row[k]!) > Math.abs(work[at]![k]!) ? k + i : at), k);
    [work[k], work[best]] = [work[best]!, work[k]!];
    const pivot = work[k]![k]!;
    work[k] = work[k]!.map((v) => v / pivot);
    for (let i = 0; i < p; i++)
      if (i !== k) work[i] = work[i]!.map((v, j) => v - work[i]![k]! * work[k]![j]!);
  }
  return work.map((row) => row.slice(p));
}

/**
 * Delta-method error with HC3 over all equations: every row's pull on the effect, squared and
 * summed.
 */
function standardError(evidence: Evidence, formula: Formula): number {
  const value = (shift: { outcome: string; term: string; by: number } | null): number =>
    formula((outcome, term) => {
      const found = equationsOf(evidence)
        .find((q) => q.outcome === outcome)!
        .coefficients.find((k) => k.term === term)!.b;
      return found + (shift?.outcome === outcome && shift.term === term ? shift.by : 0);
    });
  const pulls = new Array<number>(N).fill(0);
  for (const equation of equationsOf(evidence)) {
    const rows = designOf(equation);
    const inverse = inverseGram(rows);
    const slopes = equation.coefficients.map(({ term, b: own }) => {
      const by = 1e-4 * Math.max(0.01, Math.abs(own));
      return (
        (value({ outcome: equation.outcome, term, by }) -
          value({ outcome: equation.outcome, term, by: -by })) /
        (2 * by)
      );
    });
    rows.forEach((row, i) => {
      const unit = inverse.map((line) => line.reduce((sum, v, j) => sum + v * row[j]!, 0));
      const leverage = unit.reduce((sum, v, j) => sum + v * row[j]!, 0);
      const residual =
        columns[equation.outcome as "y"][i]! -
        row.reduce((sum, v, j) => sum + v * equation.coefficients[j]!.b, 0);
      pulls[i] =
        pulls[i]! +
        (unit.reduce((sum, v, j) => sum + v * slopes[j]!, 0) * residual) / (1 - leverage);
    });
  }
  return Math.sqrt(pulls.reduce((sum, v) => sum + v * v, 0));
}

const CASES: [theory: string, effects: Record<string, Formula>][] = [
  [
    "H1: w with z alters x to y through m on m to y",
    {
      "conditional indirect x > m > y at w mean+sd, z mean-sd": (k) =>
        k("m", "x") *
        (k("y", "m") +
          k("y", "m:w") * high(w) +
          k("y", "m:z") * low(z) +
          k("y", "m:w:z") * high(w) * low(z)),
      "conditional index x > m > y by w at z mean+sd": (k) =>
        k("m", "x") * (k("y", "m:w") + k("y", "m:w:z") * high(z)),
      "index of moderated moderated mediation x > m > y by w and z": (k) =>
        k("m", "x") * k("y", "m:w:z"),
    },
  ],
  [
    "H1: w alters x to y through m on x to m\nH2: z alters x to y through m on m to y",
    {
      "conditional indirect x > m > y at w mean-sd, z mean+sd": (k) =>
        (k("m", "x") + k("m", "x:w") * low(w)) * (k("y", "m") + k("y", "m:z") * high(z)),
      "conditional index x > m > y by w at z mean-sd": (k) =>
        k("m", "x:w") * (k("y", "m") + k("y", "m:z") * low(z)),
      "contrast conditional indirect x > m > y at w mean+sd minus mean-sd, z mean": (k) =>
        (high(w) - low(w)) * k("m", "x:w") * (k("y", "m") + k("y", "m:z") * mean(z)),
    },
  ],
  [
    "H1: w alters x to y through m on x to m and m to y\nH2: w alters x to y",
    {
      "quadratic q1 x > m > y by w": (k) =>
        k("m", "x") * k("y", "m:w") + k("m", "x:w") * k("y", "m"),
      "derivative x > m > y at w mean+sd": (k) =>
        k("m", "x") * k("y", "m:w") +
        k("m", "x:w") * k("y", "m") +
        2 * k("m", "x:w") * k("y", "m:w") * high(w),
      "conditional direct x > y at w mean-sd": (k) => k("y", "x") + k("y", "x:w") * low(w),
    },
  ],
  [
    "H1: x alters x to y through m on m to y",
    {
      "conditional indirect x > m > y at x mean+sd": (k) =>
        k("m", "x") * (k("y", "m") + k("y", "m:x") * high(x)),
    },
  ],
  [
    "H1: g alters x to y through m on x to m",
    {
      "contrast conditional indirect x > m > y at g c minus b": (k) =>
        k("y", "m") * (k("m", "x:g.2") - k("m", "x:g.1")),
    },
  ],
  [
    "H1: w alters g to y through m on g to m",
    {
      "conditional indirect g.2 > m > y at w mean-sd": (k) =>
        k("y", "m") * (k("m", "g.2") + k("m", "g.2:w") * low(w)),
    },
  ],
  [
    "H1: w alters x to y through m then m2 on m to m2",
    {
      "conditional indirect x > m > m2 > y at w mean": (k) =>
        k("m", "x") * (k("m2", "m") + k("m2", "m:w") * mean(w)) * k("y", "m2"),
      "index of moderated mediation x > m > m2 > y by w": (k) =>
        k("m", "x") * k("m2", "m:w") * k("y", "m2"),
    },
  ],
];

describe("moderated effects by a second route: formulas in raw coefficients, errors from every row's pull", () => {
  it.each(CASES)("%s", (theory, effects) => {
    const evidence = analyseMade({ columns, theory, variables: { g: { level: "categorical" } } });
    for (const [id, formula] of Object.entries(effects)) {
      const found: EffectEvidence | undefined = evidence.effects.find((one) => one.id === id);
      const own = formula(
        (outcome, term) =>
          equationsOf(evidence)
            .find((q) => q.outcome === outcome)!
            .coefficients.find((k) => k.term === term)!.b,
      );
      expect(found?.estimate, id).toBeCloseTo(own, 9);
      expect(found!.delta.joint.HC3!.se / standardError(evidence, formula), id).toBeCloseTo(1, 6);
    }
  });
});
