import type { Evidence } from "../evidence";
import { analyseMade, normals } from ".";
import type { CompositeSection } from "../estimators";

export const N = 120;

/**
 * Items of three constructs that go together, a moderator of two values and a group, from a seed.
 */
export function columnsOf(seed: number): Record<string, number[]> {
  const draw = (at: number): number[] => normals(N, seed * 100 + at);
  const e = Array.from({ length: 14 }, (_, at) => draw(at));
  const [x, w] = [e[0]!, e[1]!];
  const m = x.map((v, i) => 0.5 * v + 0.3 * w[i]! + 0.25 * v * w[i]! + 0.8 * e[2]![i]!);
  const y = m.map((v, i) => 0.5 * v + 0.2 * x[i]! + 0.8 * e[3]![i]!);
  const item = (f: number[], loading: number, at: number): number[] =>
    f.map((v, i) => loading * v + Math.sqrt(1 - loading ** 2) * e[at]![i]!);
  return {
    x1: item(x, 0.8, 4),
    x2: item(x, 0.7, 5),
    x3: item(x, 0.75, 6),
    w1: item(w, 0.8, 7),
    w2: item(w, 0.8, 8),
    m1: item(m, 0.8, 9),
    m2: item(m, 0.8, 10),
    y1: item(y, 0.85, 11),
    y2: item(y, 0.75, 12),
    z: e[13]!.map((v) => (v > 0.2 ? 1 : 0)),
  };
}

export const COMBINES = [
  "measure x combines x1, x2, x3",
  "measure m combines m1, m2",
  "measure y combines y1, y2",
];
export const MEDIATION = [...COMBINES, "H1: x raises y through m"];

export const run = (
  columns: Record<string, number[]>,
  theory: string[],
  options: Record<string, string | number> = {},
  replications = 0,
): Evidence =>
  analyseMade({
    columns,
    theory: theory.join("\n"),
    settings: { engine: "composites", options: { folds: 0, ...options }, replications },
  });

export const sectionOf = ({ sections }: Evidence): CompositeSection =>
  sections.find((s) => s.kind === "composites")!;
