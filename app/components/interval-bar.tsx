import { plain, type EffectEvidence } from "../../core";

/** An estimate with its limits; a one-sided bound has one of them. */
export interface Drawn {
  estimate: number | null;
  lower: number | null;
  upper: number | null;
  provisional: boolean;
}

/** What may be drawn of an effect: nothing where the number is withheld. */
export const drawnOf = ({ estimate, shown }: EffectEvidence): Drawn =>
  shown ? { estimate, ...shown } : { estimate: null, lower: null, upper: null, provisional: false };

/** The common scale on which several intervals are drawn. */
export interface Scale {
  min: number;
  max: number;
}

/** A scale that holds zero and every interval. */
export function scaleOf(intervals: Drawn[]): Scale {
  const ends = intervals
    .flatMap((e) => [e.lower, e.upper, e.estimate])
    .filter((v): v is number => v !== null && Number.isFinite(v));
  return { min: Math.min(0, ...ends), max: Math.max(0, ...ends) };
}

/**
 * An interval to scale, with zero marked; a one-sided bound is a ray with an arrow at its open end;
 * dashed while the delta method stands in for the bootstrap.
 */
export function IntervalBar({
  interval,
  scale,
  width = 120,
  unsettled = false,
}: {
  interval: Drawn;
  scale: Scale;
  width?: number;
  unsettled?: boolean;
}) {
  const { lower, upper, provisional, estimate } = interval;
  if ((lower === null && upper === null) || estimate === null) return null;
  const pad = 6;
  const span = scale.max - scale.min || 1;
  const x = (value: number): number =>
    pad +
    ((Math.max(scale.min, Math.min(scale.max, value)) - scale.min) / span) * (width - 2 * pad);
  const containsZero = (lower === null || lower <= 0) && (upper === null || upper >= 0);
  const y = 9;
  const colour = unsettled ? "var(--rust)" : containsZero ? "var(--quiet)" : "var(--petrol)";
  const [left, right] = [lower === null ? pad : x(lower), upper === null ? width - pad : x(upper)];
  const words =
    lower !== null && upper !== null
      ? `interval ${plain(lower)} to ${plain(upper)}`
      : lower !== null
        ? `above ${plain(lower)}, one-sided`
        : `below ${plain(upper)}, one-sided`;
  return (
    <svg
      style={{ display: "block" }}
      width={width}
      height={18}
      stroke={colour}
      strokeWidth={2}
      fill="none"
      role="img"
      aria-label={`${plain(estimate)}, ${words}`}
    >
      <path d={`M${x(0)} 1V17`} stroke="var(--faint)" strokeWidth={1} strokeDasharray="2 2.5" />
      <path d={`M${left} ${y}H${right}`} strokeDasharray={provisional ? "4 2" : undefined} />
      <path
        d={`M${left} ${y - 4}${lower === null ? `m4 0l-4 4 4 4` : "v8"}M${right} ${y - 4}${upper === null ? `m-4 0l4 4-4 4` : "v8"}`}
      />
      <path fill={colour} stroke="none" d={`M${x(estimate)} ${y - 5}l5 5-5 5-5-5z`} />
    </svg>
  );
}
