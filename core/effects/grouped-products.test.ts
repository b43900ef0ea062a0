import { describe, expect, it } from "vitest";
import type { Evidence } from "../evidence";
import { analyseMade, normals } from "../test-kit";

const N = 240;
const [f, g, d, ...noise] = Array.from({ length: 12 }, (_, k) => normals(N, 900 + k)) as [
  number[],
  number[],
  number[],
  ...number[][],
];
/** Two sites of different size, in which G moderates with a different strength. */
const site = f.map((_, i) => (i % 3 === 0 ? "north" : "south"));
const h = f.map(
  (v, i) => 0.4 * v + 0.3 * g[i]! + (site[i] === "north" ? 0.5 : 0.1) * v * g[i]! + 0.7 * d[i]!,
);
const items = (of: number[], from: number): number[][] =>
  [0, 1, 2].map((j) => of.map((v, i) => 0.8 * v + 0.5 * noise[from + j]![i]!));
const [x, w, y] = [items(f, 0), items(g, 3), items(h, 6)] as [number[][], number[][], number[][]];
const columns: Record<string, (number | string)[]> = {
  ...Object.fromEntries(x.map((c, j) => [`x${j + 1}`, c])),
  ...Object.fromEntries(w.map((c, j) => [`w${j + 1}`, c])),
  ...Object.fromEntries(y.map((c, j) => [`y${j + 1}`, c])),
  site,
};

const interactionOf = ({ effects }: Evidence) => effects.find((e) => e.kind === "interaction")!;

/** The same sentences of everybody in groups, and of one group alone. */
function analysed(form: string, only: string | null): Evidence {
  const keep = site.map((s) => only === null || s === only);
  return analyseMade({
    columns: Object.fromEntries(
      Object.entries(columns).map(([name, values]) => [name, values.filter((_, i) => keep[i])]),
    ),
    theory: [
      `measure F ${form} x1, x2, x3`,
      `measure G ${form} w1, w2, w3`,
      `measure H ${form} y1, y2, y3`,
      "H1: F raises H",
      "H2: G alters F to H",
      ...(only === null ? ["groups by site"] : []),
    ].join("\n"),
    settings: { interval: form === "reflects" ? "delta" : "percentile" },
  });
}

describe.each(["reflects", "combines"])(
  "an interaction in groups, of what %s its items",
  (form) => {
    it("is the average of what it is in each group, by their shares", () => {
      const whole = interactionOf(analysed(form, null));
      const [north, south] = ["north", "south"].map(
        (name) => interactionOf(analysed(form, name)).estimate!,
      ) as [number, number];
      expect(Math.abs(north - south)).toBeGreaterThan(0.1);
      const share = site.filter((s) => s === "north").length / N;
      expect(whole.estimate).toBeCloseTo(share * north + (1 - share) * south, 6);
      expect(whole.label).toMatch(/on H, on average$/);
    });

    it("is what the claim is decided on", () => {
      const evidence = analysed(form, null);
      const { claim } = evidence.hypotheses.find((one) => one.label === "H2")!;
      expect(claim!.estimate).toBeCloseTo(interactionOf(evidence).estimate!, 9);
    });
  },
);
