import { useRef, useState } from "react";
import {
  bandKind,
  bandWorking,
  INTERVAL_WORDS,
  percent,
  plain,
  thousands,
  type Evidence,
  type RegionEvidence,
} from "../../../core";
import { WorkingView } from "../ui/working-view";
import { FigureTools } from "../figure/figure-tools";
import { EffectStrip, interpolate, type StripRegion } from "./effect-strip";
import { indirectTable } from "./probe-numbers";
import { Beside, ReadingBox } from "./layout";
import { Pictures } from "./pictures";

/** A conditional indirect effect along its moderator, with its bootstrap band and the handle. */
export function IndirectStrip({
  region,
  evidence,
  values,
}: {
  region: RegionEvidence;
  evidence: Evidence;
  values: Float64Array | null;
}) {
  const kind = bandKind(evidence.settings.interval);
  const band = region.bands?.[kind] ?? null;
  const [value, setValue] = useState((region.grid[0]! + region.grid.at(-1)!) / 2);
  const none = region.grid.map(() => null);
  const lower = band?.lower ?? none;
  const upper = band?.upper ?? none;
  const here = interpolate(region.grid, region.estimate, value);
  const [low, high] = [
    interpolate(region.grid, lower, value),
    interpolate(region.grid, upper, value),
  ];
  const regions = band ? regionsOf(region, band, values) : [];
  const share = region.percentSignificant?.[kind];
  const figure = useRef<HTMLDivElement>(null);
  return (
    <Beside>
      <Pictures ref={figure}>
        <EffectStrip
          over={region.over}
          unit={evidence.unit}
          effectName="indirect effect"
          grid={region.grid}
          estimate={region.estimate}
          lower={lower}
          upper={upper}
          regions={regions}
          values={values}
          marks={[]}
          value={value}
          valueWords={`${region.over} ${plain(value, 2)}: indirect effect ${plain(here)}`}
          show={(v) => v}
          change={setValue}
        />
      </Pictures>
      <ReadingBox role="status" aria-live="off">
        <p className="quiet">where {region.over} is</p>
        <p className="value">{plain(value, 2)}</p>
        <p className="serif">
          the indirect effect of {region.label} is <strong>{plain(here)}</strong>
        </p>
        <p className="quiet">
          {band
            ? `${percent(evidence.settings.level)} % band ${plain(low)} to ${plain(high)}, from the bootstrap samples, one value at a time`
            : "the band follows with the bootstrap samples"}
        </p>
        {share !== undefined && (
          <p className="serif">
            The band excludes zero for <strong>{Math.round(share)} %</strong> of the{" "}
            {evidence.sample.n} {evidence.unit}.
          </p>
        )}
        <WorkingView working={bandWorking(region, evidence)} />
        <FigureTools
          target={figure}
          name={`indirect effect of ${region.label} by ${region.over}`}
          caption={`The indirect effect of ${region.label} along ${region.over}${band ? `, with a pointwise ${percent(evidence.settings.level)} % ${INTERVAL_WORDS[kind]} bootstrap band from ${thousands(evidence.bootstrap?.done ?? 0)} bootstrap samples` : ""}. ${evidence.sample.n} ${evidence.unit}.`}
          numbers={() => [indirectTable(region, kind, evidence)]}
        />
      </ReadingBox>
    </Beside>
  );
}

function regionsOf(
  region: RegionEvidence,
  band: NonNullable<RegionEvidence["bands"]>["bca"],
  values: Float64Array | null,
): StripRegion[] {
  const edges = [region.grid[0]!, ...band.boundaries, region.grid.at(-1)!];
  return edges.slice(1).map((to, i) => {
    const from = edges[i]!;
    const middle = (from + to) / 2;
    const look =
      interpolate(region.grid, band.lower, middle) > 0
        ? "more"
        : interpolate(region.grid, band.upper, middle) < 0
          ? "less"
          : "unclear";
    const inside = values
      ? values.filter((v) => (v > from || i === 0) && v <= to).length / values.length
      : 0;
    const words =
      look === "unclear"
        ? "not significant"
        : look === "more"
          ? "positive indirect effect"
          : "negative indirect effect";
    return { from, to, look, words, percent: 100 * inside };
  });
}
