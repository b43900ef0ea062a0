import { useMemo, useRef } from "react";
import { percent, type Evidence, type NaturalEffectsEvidence } from "../../../core";
import { bandPlot } from "../figure/band-plot";
import { FigureTools } from "../figure/figure-tools";
import { Plot } from "../figure/plot";

/**
 * The effect of a treatment with the mediator held, along the values that the mediator had, with
 * its band.
 */
export function HeldPicture({
  natural,
  evidence,
}: {
  natural: NaturalEffectsEvidence;
  evidence: Evidence;
}) {
  const picture = useRef<HTMLDivElement>(null);
  const { along, mediator, outcome, treatment, contrast } = natural;
  const level = percent(evidence.settings.level);
  const make = useMemo(
    () =>
      bandPlot({
        x: along.map((c) => c.at),
        estimate: along.map((c) => c.estimate),
        lower: along.map((c) => c.lower),
        upper: along.map((c) => c.upper),
        across: `${mediator}, the same for everybody`,
        up: `effect of ${treatment}`,
      }),
    [along, mediator, treatment],
  );
  if (along.length === 0) return null;
  return (
    <div>
      <div ref={picture}>
        <Plot
          label={`Effect of ${treatment} on ${outcome} with ${mediator} held, against the value it is held at`}
          height={220}
          make={make}
        />
      </div>
      <FigureTools
        target={picture}
        name={`effect of ${treatment} on ${outcome} with ${mediator} held`}
        caption={`Effect of ${treatment} (${contrast}) on ${outcome} if ${mediator} were the same for everybody, along the observed values of ${mediator}, with its ${level} % band.`}
        numbers={() => [
          {
            title: `Effect of ${treatment} with ${mediator} held`,
            head: [mediator, "effect", `${level} % CI lower`, `${level} % CI upper`],
            rows: along.map((c) => [c.at, c.estimate, c.lower, c.upper]),
          },
        ]}
      />
    </div>
  );
}
