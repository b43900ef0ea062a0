import { plain, type EffectEvidence } from "../../core";

/** The common scale on which several intervals are drawn. */
export interface Scale {
  min: number;
  max: number;
}

/** A scale that holds zero and every interval. */
export function scaleOf(effects: EffectEvidence[]): Scale {
  const ends = effects
    .flatMap((e) => [e.shown.lower, e.shown.upper, e.estimate])
    .filter((v): v is number => v !== null && Number.isFinite(v));
  return { min: Math.min(0, ...ends), max: Math.max(0, ...ends) };
}

/** An interval to scale, with zero marked; dashed while the delta method stands in for the bootstrap. */
export function IntervalBar({
  effect,
  scale,
  width = 120,
  unsettled = false,
}: {
  effect: EffectEvidence;
  scale: Scale;
  width?: number;
  unsettled?: boolean;
}) {
  const { lower, upper, provisional } = effect.shown;
  const estimate = effect.estimate;
  if (lower === null || upper === null || estimate === null) return null;
  const pad = 6;
  const span = scale.max - scale.min || 1;
  const x = (value: number): number => pad + ((Math.max(scale.min, Math.min(scale.max, value)) - scale.min) / span) * (width - 2 * pad);
  const containsZero = lower <= 0 && upper >= 0;
  const y = 9;
  return (
    <svg
      className={`interval ${unsettled ? "unsettled" : containsZero ? "contains-zero" : ""}`}
      width={width}
      height={18}
      role="img"
      aria-label={`${plain(estimate)}, interval ${plain(lower)} to ${plain(upper)}`}
    >
      <line className="zero" x1={x(0)} x2={x(0)} y1={1} y2={17} />
      <path className={provisional ? "bar provisional" : "bar"} d={`M${x(lower)} ${y}H${x(upper)}`} />
      <path className="bar" d={`M${x(lower)} ${y - 4}v8M${x(upper)} ${y - 4}v8`} />
      <path className="dot" d={`M${x(estimate)} ${y - 5}l5 5-5 5-5-5z`} />
    </svg>
  );
}
