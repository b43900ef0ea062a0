import Box from "@mui/material/Box";
import { styled } from "@mui/material/styles";
import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from "chart.js";
import { Bar } from "react-chartjs-2";
import { intervalName, plain, thousands, type EffectEvidence } from "../../../core";
import { useLook } from "../../theme/theme";
import { LOOKS } from "../../theme/tokens";

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

/** The bootstrap distribution of one effect: inside the interval dark, outside pale, with zero and the limits marked. */
export function Distribution({ effect }: { effect: EffectEvidence }) {
  const { look } = useLook();
  const { bootstrap, shown } = effect;
  if (!shown) return <p className="quiet">{effect.withheld}</p>;
  if (!bootstrap) return <p className="quiet">The bootstrap samples have not arrived yet.</p>;
  const { min, max, counts } = bootstrap.histogram;
  const step = (max - min) / counts.length;
  const centre = (i: number): number => min + (i + 0.5) * step;
  const colours = LOOKS[look];
  const inside = counts.map(
    (_, i) => shown.lower !== null && centre(i) >= shown.lower && centre(i) <= shown.upper!,
  );
  const pale = colours["muted-bar"];
  return (
    <Box component="figure" sx={{ m: 0, minWidth: 0 }}>
      <Box sx={{ height: 150, position: "relative", "& canvas": { maxWidth: "100%" } }}>
        <Bar
          aria-label={`Distribution of ${thousands(bootstrap.used)} bootstrap samples of ${effect.label}, from ${plain(min)} to ${plain(max)}, middle ${plain(effect.estimate)}`}
          role="img"
          data={{
            labels: counts.map((_, i) => plain(centre(i))),
            datasets: [
              {
                data: counts,
                backgroundColor: inside.map((yes) => (yes ? colours.petrol : pale)),
                barPercentage: 1,
                categoryPercentage: 0.92,
              },
            ],
          }}
          options={{
            animation: false,
            maintainAspectRatio: false,
            plugins: {
              legend: { display: false },
              tooltip: { callbacks: { label: (item) => `${item.parsed.y} bootstrap samples` } },
            },
            scales: { x: { display: false }, y: { display: false, beginAtZero: true } },
          }}
        />
      </Box>
      <Axis
        min={min}
        max={max}
        marks={[
          [0, "0", "zero"],
          [shown.lower, plain(shown.lower), "limit"],
          [effect.estimate, plain(effect.estimate), "estimate"],
          [shown.upper, plain(shown.upper), "limit"],
        ]}
      />
      <Box component="figcaption" className="quiet" sx={{ fontSize: 13 }}>
        {thousands(bootstrap.used)} bootstrap samples; dark within the {intervalName(shown)} limits.{" "}
        {agreement(effect)}
      </Box>
    </Box>
  );
}

const Ruler = styled("div")({
  position: "relative",
  height: 24,
  borderTop: "1px solid var(--ink)",
  fontSize: 13,
  "& span": { position: "absolute", transform: "translateX(-50%)", top: 3 },
  "& .zero": { color: "var(--rust)" },
  "& i.zero": {
    position: "absolute",
    bottom: "100%",
    height: 150,
    borderLeft: "2px dashed var(--rust)",
  },
  "& span > i.zero": { bottom: 24 },
});

/** Marks under the bars; a mark that would cover another is left out. */
function Axis({
  min,
  max,
  marks,
}: {
  min: number;
  max: number;
  marks: [number | null, string, string][];
}) {
  const span = max - min || 1;
  const placed: number[] = [];
  return (
    <Ruler aria-hidden>
      {[...marks]
        .sort((a, b) => Number(b[2] === "limit") - Number(a[2] === "limit"))
        .map(([value, text, kind], i) => {
          if (value === null || value < min || value > max) return null;
          const share = (value - min) / span;
          if (placed.some((other) => Math.abs(other - share) < 0.13))
            return kind === "zero" ? (
              <i key={i} className="zero" style={{ left: `${100 * share}%` }} />
            ) : null;
          placed.push(share);
          return (
            <span key={i} className={kind} style={{ left: `${100 * share}%` }}>
              {kind === "zero" && <i className="zero" style={{ left: "50%" }} />}
              {text}
            </span>
          );
        })}
    </Ruler>
  );
}

/** Do the interval methods agree on whether zero is left out? */
function agreement({ bootstrap }: EffectEvidence): string {
  if (!bootstrap) return "";
  const known = (
    [
      ["percentile", bootstrap.percentile],
      ["bias-corrected", bootstrap.bc],
      ["BCa", bootstrap.bca],
    ] as const
  ).filter(([, i]) => i !== null);
  const out = known.filter(([, i]) => i!.lower > 0 || i!.upper < 0).map(([name]) => name);
  if (out.length === 0) return "All methods: the interval contains zero.";
  if (out.length === known.length) return "All methods: the interval excludes zero.";
  return `The methods disagree: ${out.join(" and ")} alone exclude${out.length === 1 ? "s" : ""} zero.`;
}
