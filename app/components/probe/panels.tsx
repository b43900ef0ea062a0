import { pClause, plain, pointwiseCritical, testOf, type Evidence, type ModerationEvidence } from "../../../core";
import { placeOf, slopeHere, unitsOf } from "./lever-model";
import { LeverPlot } from "./lever-plot";
import type { Points } from "./use-points";

const MOST = 12;

/** One picture for every probe of the moderators: groups side by side, two moderators as a matrix. */
export function Panels({ moderation, evidence, points }: { moderation: ModerationEvidence; evidence: Evidence; points: Points | null }) {
  const { moderators, model } = moderation;
  const places = moderators.reduce<{ words: string[]; values: [string, number][] }[]>(
    (all, m) =>
      all.flatMap(({ words, values }) =>
        m.probes.map((probe) => ({
          words: [...words, `${m.name} ${probe.value === null || m.kind !== "numeric" ? probe.label : plain(probe.value, 2)}`],
          values: [...values, ...placeOf(moderation, probe)],
        })),
      ),
    [{ words: [], values: [] }],
  );
  const units = unitsOf(moderation, null, null, false);
  const across = moderators.length > 1 ? moderators.at(-1)!.probes.length : Math.min(3, places.length);
  const { level } = evidence.settings;
  return (
    <div className="panels" style={{ gridTemplateColumns: `repeat(${Math.min(3, across)}, 1fr)` }}>
      {places.slice(0, MOST).map(({ words, values }) => {
        const place = new Map(values);
        const reading = slopeHere(moderation, place);
        const test = testOf(reading, model, level);
        return (
          <figure key={words.join()} className="panel">
            <figcaption>
              <strong>{words.join(", ")}</strong>
              <span className="quiet">
                slope {plain(reading.estimate)}
                {test && `, ${plain(test.lower, 2)} to ${plain(test.upper, 2)}, ${pClause(test.p)}`}
              </span>
            </figcaption>
            <div className="panel-picture">
              <LeverPlot
                {...{ moderation, points, place, units }}
                critical={pointwiseCritical(model.df, level)}
                pinned={[]}
                shown="near"
                label=""
              />
            </div>
          </figure>
        );
      })}
      {places.length > MOST && <p className="quiet">{places.length - MOST} more combinations are not drawn.</p>}
    </div>
  );
}
