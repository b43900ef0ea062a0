import { COVARIANCES, type CovarianceKind } from "../study";

/** One entry for each kind of error; null where it does not exist. */
export type ByCovariance<T> = Record<CovarianceKind, T | null>;

/** Builds a record with one entry per covariance kind. */
export function byCovariance<T>(make: (kind: CovarianceKind) => T | null): ByCovariance<T> {
  return Object.fromEntries(COVARIANCES.map((kind) => [kind, make(kind)])) as ByCovariance<T>;
}
