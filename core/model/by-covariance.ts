import { COVARIANCES, type CovarianceKind } from "../study";

/** One entry for each kind of error; null where it does not exist. */
export type ByCovariance<T> = Record<CovarianceKind, T | null>;

/** Builds a record with one entry per covariance kind. */
export function byCovariance<T>(make: (kind: CovarianceKind) => T | null): ByCovariance<T> {
  return Object.fromEntries(COVARIANCES.map((kind) => [kind, make(kind)])) as ByCovariance<T>;
}

/**
 * The same where an entry costs something and most are never asked for: each is made when it is
 * first read, and kept.
 */
export function whenAsked<T>(make: (kind: CovarianceKind) => T): Record<CovarianceKind, T> {
  const made = new Map<CovarianceKind, T>();
  const record = {} as Record<CovarianceKind, T>;
  for (const kind of COVARIANCES)
    Object.defineProperty(record, kind, {
      enumerable: true,
      get: () => {
        let value = made.get(kind);
        if (value === undefined) made.set(kind, (value = make(kind)));
        return value;
      },
    });
  return record;
}
