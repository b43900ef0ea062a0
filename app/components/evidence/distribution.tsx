import Box from "@mui/material/Box";
import { useMemo, useRef } from "react";
import { intervalName, plain, thousands, type EffectEvidence, type Evidence } from "../../../core";
import { FigureTools } from "../figure/figure-tools";
import { Plot } from "../figure/plot";
import { distributionPlot } from "./distribution-plot";

/** The bootstrap distribution of one effect, with its numbers to take along. */
export function Distribution({ effect, evidence }: { effect: EffectEvidence; evidence: Evidence }) {
  const picture = useRef<HTMLDivElement>(null);
  const make = useMemo(() => distributionPlot(effect), [effect]);
  const { bootstrap, shown } = effect;
  if (!shown) return <p className="quiet">{effect.withheld}</p>;
  if (!bootstrap) return <p className="quiet">The bootstrap samples have not arrived yet.</p>;
  const { min, max, counts } = bootstrap.histogram;
  const step = (max - min) / counts.length;
  const samples = `${thousands(bootstrap.used)} bootstrap samples`;
  return (
    <Box component="figure" sx={{ m: 0, minWidth: 0 }}>
      <div ref={picture}>
        <Plot
          label={`Distribution of ${samples} of ${effect.label}, from ${plain(min)} to ${plain(max)}, middle ${plain(effect.estimate)}`}
          height={176}
          make={make}
        />
      </div>
      <Box component="figcaption" className="quiet" sx={{ fontSize: 13, mb: 1 }}>
        {samples}; dark within the {intervalName(shown)} limits. {agreement(effect, evidence)}
      </Box>
      <FigureTools
        target={picture}
        name={`bootstrap distribution of ${effect.label}`}
        caption={`Bootstrap distribution of ${effect.label}: ${samples}; dark within the ${intervalName(shown)} limits ${plain(shown.lower)} and ${plain(shown.upper)}, estimate ${plain(effect.estimate)}.`}
        numbers={() => [
          {
            title: "Bootstrap distribution",
            head: ["from", "to", "bootstrap samples"],
            rows: counts.map((count, i) => [min + i * step, min + (i + 1) * step, count]),
          },
        ]}
      />
    </Box>
  );
}

/** Do the interval methods agree on whether zero is left out? */
function agreement(
  { bootstrap }: EffectEvidence,
  { withheldIntervals }: Pick<Evidence, "withheldIntervals">,
): string {
  if (!bootstrap) return "";
  const known = (
    [
      ...("percentile" in withheldIntervals ? [] : [["percentile", bootstrap.percentile] as const]),
      ["bias-corrected", bootstrap.bc],
      ["BCa", bootstrap.bca],
    ] as const
  ).filter(([, i]) => i !== null);
  const out = known.filter(([, i]) => i!.lower > 0 || i!.upper < 0).map(([name]) => name);
  if (out.length === 0) return "All methods: the interval contains zero.";
  if (out.length === known.length) return "All methods: the interval excludes zero.";
  return `The methods disagree: ${out.join(" and ")} alone exclude${out.length === 1 ? "s" : ""} zero.`;
}
