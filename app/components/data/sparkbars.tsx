import type { ColumnSummary } from "../../../core";

/** The shape of a column's distribution, small. */
export function Sparkbars({
  summary,
  width,
  height,
}: {
  summary: ColumnSummary;
  width: number;
  height: number;
}) {
  const { bars } = summary;
  const most = Math.max(1, ...bars.map((b) => b.count));
  const step = width / Math.max(1, bars.length);
  const words =
    bars.length > 0 ? bars.map((b) => `${b.label}: ${b.count}`).join(", ") : "no distribution";
  return (
    <svg
      style={{ display: "block", marginLeft: "auto" }}
      width={width}
      height={height}
      role="img"
      aria-label={`Distribution of ${summary.name}: ${words}`}
    >
      {bars.map((bar, i) => {
        const h = Math.max(bar.count > 0 ? 1.5 : 0, (bar.count / most) * (height - 1));
        return (
          <rect
            key={bar.label}
            x={i * step + 0.5}
            y={height - h}
            width={Math.max(1, Math.min(step - 1.5, 26))}
            height={h}
            fill="var(--petrol)"
            opacity={0.75}
          >
            <title>{`${bar.label}: ${bar.count}`}</title>
          </rect>
        );
      })}
      <path stroke="var(--line)" d={`M0 ${height - 0.5}H${width}`} />
    </svg>
  );
}
