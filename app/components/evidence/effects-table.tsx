import { useState } from "react";
import {
  percent,
  plain,
  pValue,
  referenceName,
  type EffectEvidence,
  type Evidence,
} from "../../../core";
import { drawnOf, IntervalBar, scaleOf } from "../interval-bar";
import { Segments } from "../segments";
import { inUnits, unitChoices, wordsOf, type Units } from "./effect-words";
import { Forest } from "./forest";

interface Props {
  evidence: Evidence;
  selected: string | null;
  select: (id: string) => void;
}

/** Every effect that exists, grouped by predictor and outcome; estimate, SE, interval and p in one row. */
export function EffectsTable({ evidence, selected, select }: Props) {
  const [units, setUnits] = useState<Units>("raw");
  const [form, setForm] = useState<"table" | "forest">("table");
  const listed = evidence.effects.filter((e) => inUnits(e, units));
  const groups = new Map<string, EffectEvidence[]>();
  for (const effect of listed) {
    const key =
      effect.from && effect.to
        ? `${effect.label.split(" on ")[0]} on ${effect.to}`
        : "stated quantities";
    groups.set(key, [...(groups.get(key) ?? []), effect]);
  }
  const level = percent(evidence.settings.level);
  return (
    <section aria-labelledby="every-effect">
      <div className="screen-head section-head">
        <h2 id="every-effect">Every effect</h2>
        <span className="spacer" />
        <Segments label="Units" value={units} choices={unitChoices(evidence)} choose={setUnits} />
        <Segments
          label="Table or picture"
          value={form}
          choices={[
            ["table", "table"],
            ["forest", "forest"],
          ]}
          choose={setForm}
        />
      </div>
      {listed.length === 0 && <p className="quiet">No such quantity exists in this theory.</p>}
      {form === "forest" && <Forest effects={listed} evidence={evidence} units={units} />}
      {form === "table" &&
        [...groups].map(([group, effects]) => (
          <table className="numbers effects" key={group}>
            <caption>{group}</caption>
            <thead>
              <tr>
                <th scope="col">effect</th>
                <th scope="col">estimate</th>
                <th scope="col">SE</th>
                <th scope="col">{level} % CI lower</th>
                <th scope="col">upper</th>
                <th scope="col">p</th>
                <th scope="col">rests on</th>
                <th scope="col" aria-label="Interval to scale" />
              </tr>
            </thead>
            <tbody>
              {effects.map((e) => (
                <tr key={e.id} className={selected === e.id ? "selected" : undefined}>
                  <td>
                    <button
                      type="button"
                      className="row-button"
                      aria-pressed={selected === e.id}
                      onClick={() => select(e.id)}
                    >
                      {wordsOf(e, units, evidence)}
                    </button>
                  </td>
                  {e.shown ? (
                    <>
                      <td>{plain(e.estimate)}</td>
                      <td>{plain(e.shown.se)}</td>
                      <td>{plain(e.shown.lower)}</td>
                      <td>{plain(e.shown.upper)}</td>
                      <td>{pValue(e.shown.p, e.shown.pIsBound)}</td>
                      <td className="quiet">{referenceName(e.shown)}</td>
                      <td>
                        <IntervalBar
                          interval={drawnOf(e)}
                          scale={scaleOf(
                            effects
                              .filter((x) => x.kind !== "ratio_to_direct" || effects.length === 1)
                              .map(drawnOf),
                          )}
                          width={110}
                        />
                      </td>
                    </>
                  ) : (
                    <td colSpan={7} className="quiet withheld">
                      {e.withheld}
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
        ))}
    </section>
  );
}
