import Box from "@mui/material/Box";
import { useRef } from "react";
import { percent, plain, type Evidence, type NaturalEffectsEvidence } from "../../../core";
import { FigureTools } from "../figure/figure-tools";

const WIDTH = 640;
const HEIGHT = 190;
const LEFT = 250;
const RIGHT = 30;
const TOP = 18;
const ROW = 38;

/**
 * The four means of what would have been, one beneath the other, with their intervals on one scale.
 */
export function FourMeans({
  natural,
  evidence,
}: {
  natural: NaturalEffectsEvidence;
  evidence: Evidence;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const { means, treatment, mediator, outcome, upper, lower } = natural;
  const ends = means.flatMap((m) => [m.model.lower, m.model.upper]);
  const [min, max] = [Math.min(...ends), Math.max(...ends)];
  const x = (value: number): number =>
    LEFT + ((value - min) / (max - min || 1)) * (WIDTH - LEFT - RIGHT);
  const names: Record<string, [string, string]> = {
    x1_m_x1: [upper, upper],
    x1_m_x0: [upper, lower],
    x0_m_x1: [lower, upper],
    x0_m_x0: [lower, lower],
  };
  return (
    <Box sx={{ my: 1.5 }}>
      <div ref={frame}>
        <svg
          width={WIDTH}
          height={HEIGHT}
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          role="img"
          aria-label={`Mean of ${outcome}: ${means.map((m) => `${treatment} ${names[m.name]!.join(`, ${mediator} as under `)}: ${plain(m.estimate)}`).join("; ")}`}
          style={{ maxWidth: "100%", fontFamily: "var(--sans)" }}
        >
          {means.map((m, i) => {
            const y = TOP + i * ROW;
            const [own, as] = names[m.name]!;
            const same = own === as;
            const colour = same ? "var(--petrol)" : "var(--rust)";
            return (
              <g key={m.name}>
                <text x={LEFT - 14} y={y} textAnchor="end" fontSize={14} fill="var(--ink)">
                  {own}
                </text>
                <text x={LEFT - 14} y={y + 15} textAnchor="end" fontSize={12} fill="var(--quiet)">
                  {same ? `with its own ${mediator}` : `${mediator} as under ${as}`}
                </text>
                <path
                  d={`M${x(m.model.lower)} ${y}H${x(m.model.upper)}`}
                  stroke={colour}
                  strokeWidth={2}
                />
                <circle cx={x(m.estimate)} cy={y} r={5} fill={colour} />
                <text x={x(m.estimate)} y={y - 9} textAnchor="middle" fontSize={12} fill={colour}>
                  {plain(m.estimate)}
                </text>
              </g>
            );
          })}
          <path d={`M${LEFT} ${HEIGHT - 20}H${WIDTH - RIGHT}`} stroke="var(--line)" />
          {[min, (min + max) / 2, max].map((v) => (
            <text
              key={v}
              x={x(v)}
              y={HEIGHT - 5}
              textAnchor="middle"
              fontSize={12}
              fill="var(--quiet)"
            >
              {plain(v, 2)}
            </text>
          ))}
        </svg>
      </div>
      <FigureTools
        target={frame}
        name={`${outcome} what would have been`}
        caption={`Mean of ${outcome} if ${treatment} were the same for everybody, with the ${mediator} of the one or of the other treatment; ${percent(evidence.settings.level)} % intervals.`}
        numbers={() => [
          {
            title: `What would have been: ${outcome}`,
            head: [treatment, `${mediator} as under`, "mean", "SE", "CI lower", "CI upper"],
            rows: means.map((m) => [
              ...names[m.name]!,
              m.estimate,
              m.model.se,
              m.model.lower,
              m.model.upper,
            ]),
          },
        ]}
      />
    </Box>
  );
}
