import type { Settings } from "../study";
import { analyseMade, normals, type MadeStudy } from ".";
import type { Evidence, HypothesisEvidence } from "../evidence/types";

/**
 * Tests only: the made-up study in which verdicts could go wrong, and ways to look at what is said
 * of it.
 */
export const N = 160;
export const [e1, e2, e3, e4, e5] = [61, 62, 63, 64, 65].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
  number[],
];
export const mean = (v: number[]): number => v.reduce((sum, one) => sum + one, 0) / v.length;

export const hypothesis = (evidence: Evidence, label: string): HypothesisEvidence =>
  evidence.hypotheses.find((h) => h.label === label)!;
export const effect = (evidence: Evidence, id: string) =>
  evidence.effects.find((e) => e.id === id)!;

export const x = e1;
export const w = e2.map((v) => 5 + v);
export const m = x.map((v, i) => 0.18 * v + e3[i]!);
export const k = x.map((v, i) => 0.5 * v + e4[i]!);
export const y = m.map((v, i) => 0.2 * v + 0.4 * k[i]! + 0.1 * x[i]! + e5[i]!);
export const columns = { x, w, m, k, y };
export const run = (
  theory: string,
  settings: Partial<Settings> = {},
  more: Partial<MadeStudy> = {},
): Evidence =>
  analyseMade({ columns, theory, settings: { replications: 600, seed: 5, ...settings }, ...more });
