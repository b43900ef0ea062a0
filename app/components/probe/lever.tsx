import { useRef, useState } from "react";
import { pClause, plain, regionWorking, slopeWorking } from "../../../core";
import { WorkingView } from "../ui/working-view";
import { LeverPlot } from "./lever-plot";
import { LeverSide, type LeverProps } from "./lever-side";
import type { ShownPoints } from "./people-layer";
import { SlopeStrip } from "./slope-strip";
import { useLever } from "./use-lever";
import { Beside } from "./layout";
import { Pictures } from "./pictures";

/**
 * The lever: move the moderator, and the line of predictor and outcome tilts; beneath, where its
 * slope differs from zero.
 */
export function Lever(props: LeverProps) {
  const { moderation, evidence } = props;
  const lever = useLever(moderation, evidence);
  const { first, numeric, found, points, place, critical, pinned, units, label, at } = lever;
  const [shown, setShown] = useState<ShownPoints>("near");
  const { test, reading } = lever;
  const figure = useRef<HTMLDivElement>(null);
  const set =
    found &&
    moderation.johnsonNeyman.find((one) =>
      Object.values(one.tests[evidence.errors] ?? {}).includes(found),
    );
  const region = set ? regionWorking(moderation, set, lever.heldPlace, evidence) : null;
  return (
    <Beside>
      <div>
        <Pictures ref={figure}>
          <LeverPlot
            {...{ moderation, points, place, critical, pinned, shown, units, label }}
            height={numeric ? 372 : 480}
          />
          {numeric && found && (
            <SlopeStrip
              {...{ moderation, found, points, units }}
              critical={found.critical}
              heldPlace={lever.heldPlace}
              over={first.name}
              unit={evidence.unit}
              value={at}
              change={lever.setValue}
              valueWords={`${first.name} ${plain(at, 2)}: slope ${plain(reading.estimate)}, ${test ? pClause(test.p) : ""}`}
              marks={first.probes.map((p) => ({ value: p.value!, label: p.label }))}
              columnKey={first.columns[0]!}
            />
          )}
        </Pictures>
        <WorkingView
          working={slopeWorking(moderation, place, evidence)}
          summary="Show the working of the slope"
        />
        {region && <WorkingView working={region} summary="Show the working of the region" />}
      </div>
      <LeverSide {...props} {...{ lever, shown, setShown, figure }} />
    </Beside>
  );
}
