import { log10 } from "../numerics/elementary";

/** Smaller sizes are written with a power of ten. */
const TINY = 1e-5;

/**
 * A number for reading: so many decimals at ordinary sizes, fewer for large ones, and never fewer
 * than two significant digits, so that nothing small is printed as nothing.
 * @example plain(0.0357) // "0.036"; plain(0.00123, 2) // "0.0012"; plain(123.4) // "123.4"
 */
export function plain(value: number | null | undefined, digits = 3): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return "–";
  const size = Math.abs(value);
  if (size !== 0 && (size >= 1e6 || size < TINY))
    return value.toExponential(2).replaceAll("-", "−");
  const usual = size >= 1000 ? 0 : size >= 100 ? 1 : size >= 10 ? Math.min(2, digits) : digits;
  const placesOf = (of: number): number =>
    of === 0 ? usual : Math.max(usual, 1 - Math.floor(log10(of)));
  const first = value.toFixed(placesOf(size));
  // Rounding may have brought a digit more before the last ones: 0.00996 is 0.010, not 0.0100.
  const text = value.toFixed(placesOf(Math.abs(Number(first))));
  return minus(Number(text) === 0 ? text.replace("-", "") : text);
}

/** A number that cannot be beyond 1, as tables print it: two places, no leading zero. */
export const withoutZero = (r: number): string =>
  minus(
    r
      .toFixed(2)
      .replace(/^-(?=0\.00$)/, "")
      .replace(/^(-?)0\./, "$1."),
  );

/** A p value in the way journals print it: no leading zero, three places, a bound below .001. */
export function pValue(p: number | null | undefined, isBound = false): string {
  if (p === null || p === undefined || Number.isNaN(p)) return "–";
  if (p < 0.001) return "< .001";
  // A bound is rounded up, or it would promise more than is known.
  if (isBound) return `< ${(Math.ceil(p * 1000 - 1e-9) / 1000).toFixed(3).replace(/^0/, "")}`;
  return p >= 0.9995 ? "1.000" : p.toFixed(3).replace(/^0/, "");
}

/** A p value as a clause: “p = .031”, “p < .001”. */
export function pClause(p: number | null | undefined, isBound = false): string {
  const text = pValue(p, isBound);
  return text.startsWith("<") ? `p ${text}` : `p = ${text}`;
}

/** An error rate as somebody chose it, in the way of p values: .05, .025. */
export const errorRate = (alpha: number): string =>
  String(Number(alpha.toFixed(4))).replace(/^0/, "");

/** Degrees of freedom: whole as they are, those of cluster-robust tests with one decimal. */
export const dfWords = (df: number | null): string =>
  df === null ? "–" : Number.isInteger(df) ? String(df) : df.toFixed(1);

/** A percentage without needless decimals: 95, 97.5. */
export const percent = (share: number): string => String(Number((100 * share).toFixed(2)));

export const minus = (text: string): string => text.replace("-", "−");

export const thousands = (value: number): string =>
  String(value).replace(/\B(?=(\d{3})+(?!\d))/g, ",");
