import { indirectId, type EffectPair, type Quantity } from "../effects";
import { byCovariance, normalTest, parameterAt, sdLabel, type Expression } from "../model";
import type { Prepared } from "../preparation";
import type { CovarianceKind } from "../study";
import type { EffectEvidence, TwoPathEvidence } from "./types";

type Route = EffectPair["indirect"][number];

const indexOf = (e: Expression): number => (e.op === "parameter" ? e.index : -1);

/**
 * Sobel's (1982), Aroian's (1947) and Goodman's (1960) standard errors of a product of two paths,
 * classical and with cov(a, b) = 0, and the adjusted explained variance of Lachowicz et al. (2018).
 */
export function twoPath(
  prepared: Prepared,
  pair: EffectPair,
  route: Route,
  level: number,
): TwoPathEvidence | null {
  const v = prepared.fit.covariances.classical;
  if (route.coefficients.length !== 2) return null;
  const [ia, ib] = route.coefficients.map(indexOf) as [number, number];
  if (ia < 0 || ib < 0) return null;
  const a = prepared.theta[ia]!;
  const b = prepared.theta[ib]!;
  const va = v.values[ia * v.size + ia]!;
  const vb = v.values[ib * v.size + ib]!;
  if (!Number.isFinite(va + vb)) return null;
  const first = a * a * vb + b * b * va;
  const test = (variance: number): { se: number; z: number; p: number } => {
    const { se, z, p } = normalTest(a * b, variance, level);
    return { se, z, p };
  };
  const goodman = first - va * vb;
  return {
    a,
    seA: Math.sqrt(va),
    b,
    seB: Math.sqrt(vb),
    sobel: test(first),
    aroian: test(first + va * vb),
    goodman: goodman >= 0 ? test(goodman) : null,
    upsilonAdjusted: pair.categorical
      ? null
      : adjustedUpsilon(prepared, pair, route, { a, b, va, vb }),
  };
}

function adjustedUpsilon(
  prepared: Prepared,
  pair: EffectPair,
  route: Route,
  { a, b, va, vb }: Record<"a" | "b" | "va" | "vb", number>,
): number {
  const sd = (name: string): number =>
    prepared.theta[parameterAt(prepared.fit.parameters, sdLabel(name))]!;
  const first = (sd(pair.from) / sd(route.nodes[1]!)) ** 2;
  const second = (sd(route.nodes[1]!) / sd(pair.to)) ** 2;
  return first * (a * a - va) * second * (b * b - vb);
}

/**
 * Joint significance (MacKinnon et al. 2002): every path significant by its t test; p is the
 * largest of them.
 */
export const jointSignificance = (
  { fit }: Prepared,
  route: Route,
  alpha: number,
): EffectEvidence["jointSignificance"] =>
  byCovariance((kind) => jointTestOf(fit, route, kind, alpha));

/** The same by one kind of errors; null where a path has no t test. */
export function jointTestOf(
  fit: Prepared["fit"],
  route: Route,
  kind: CovarianceKind,
  alpha: number,
): { p: number; significant: boolean } | null {
  if (route.coefficients.length === 0) return null;
  const p = Math.max(...route.coefficients.map((e) => fit.tTest?.(e, kind, 1 - alpha)?.p ?? NaN));
  return Number.isNaN(p) ? null : { p, significant: p < alpha };
}

/** The route of an indirect effect. */
export function routeOf(
  { context }: Prepared,
  quantity: Quantity,
): { pair: EffectPair; route: Route } {
  const pair = context.pairs.find((p) => p.from === quantity.from && p.to === quantity.to)!;
  const route = pair.indirect.find((r) => indirectId(pair.from, r.nodes) === quantity.id)!;
  return { pair, route };
}
