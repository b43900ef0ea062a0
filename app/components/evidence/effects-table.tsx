import { useState } from "react";
import { percent, plain, pValue, type EffectEvidence, type EffectKind, type Evidence } from "../../../core";
import { IntervalBar, scaleOf } from "../interval-bar";

type Units = "raw" | "partially_standardised" | "completely_standardised" | "sizes";

const UNITS: [Units, string][] = [
  ["raw", "raw units"],
  ["partially_standardised", "outcome in SDs"],
  ["completely_standardised", "both in SDs"],
  ["sizes", "shares and own quantities"],
];

const SIZES: EffectKind[] = ["proportion_mediated", "ratio_to_direct", "explained_variance", "own", "curve"];
const STANDARDISED: EffectKind[] = ["partially_standardised", "completely_standardised"];

const KIND_WORDS: Record<EffectKind, string> = {
  direct: "direct",
  specific_indirect: "specific indirect",
  total_indirect: "total indirect",
  total: "total",
  contrast: "contrast",
  proportion_mediated: "proportion mediated",
  ratio_to_direct: "indirect / direct",
  partially_standardised: "partially standardised",
  completely_standardised: "completely standardised",
  explained_variance: "explained variance",
  claim: "combined indirect",
  interaction: "interaction",
  conditional_direct: "conditional direct",
  conditional_indirect: "conditional indirect",
  conditional_contrast: "difference of conditional effects",
  conditional_index: "conditional index",
  index: "index",
  curve: "curve",
  own: "own quantity",
};

interface Props {
  evidence: Evidence;
  selected: string | null;
  select: (id: string) => void;
}

/** Every effect that exists, grouped by predictor and outcome; estimate, SE, interval and p in one row. */
export function EffectsTable({ evidence, selected, select }: Props) {
  const [units, setUnits] = useState<Units>("raw");
  const listed = evidence.effects.filter((e) => inUnits(e, units));
  const groups = new Map<string, EffectEvidence[]>();
  for (const effect of listed) {
    const key = effect.from && effect.to ? `${effect.label.split(" on ")[0]} on ${effect.to}` : "stated quantities";
    groups.set(key, [...(groups.get(key) ?? []), effect]);
  }
  const level = percent(evidence.effects[0]?.shown.level ?? evidence.settings.level);
  return (
    <section aria-labelledby="every-effect">
      <div className="screen-head section-head">
        <h2 id="every-effect">Every effect</h2>
        <span className="spacer" />
        <div className="segments" role="group" aria-label="Units">
          {UNITS.map(([key, words]) => (
            <button key={key} type="button" aria-pressed={units === key} onClick={() => setUnits(key)}>
              {words}
            </button>
          ))}
        </div>
      </div>
      {listed.length === 0 && <p className="quiet">No such quantity exists in this theory.</p>}
      {[...groups].map(([group, effects]) => (
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
              <th scope="col" aria-label="Interval to scale" />
            </tr>
          </thead>
          <tbody>
            {effects.map((e) => (
              <tr key={e.id} className={selected === e.id ? "selected" : undefined}>
                <td>
                  <button type="button" className="row-button" aria-pressed={selected === e.id} onClick={() => select(e.id)}>
                    {wordsOf(e, units, evidence)}
                  </button>
                </td>
                <td>{plain(e.estimate)}</td>
                <td>{plain(e.shown.se)}</td>
                <td>{plain(e.shown.lower)}</td>
                <td>{plain(e.shown.upper)}</td>
                <td>{pValue(e.shown.p, e.shown.pIsBound)}</td>
                <td>
                  <IntervalBar
                    effect={e}
                    scale={scaleOf(effects.filter((x) => x.kind !== "ratio_to_direct" || effects.length === 1))}
                    width={110}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ))}
    </section>
  );
}

function inUnits(effect: EffectEvidence, units: Units): boolean {
  if (units === "sizes") return SIZES.includes(effect.kind) || (effect.kind === "contrast" && effect.from === null);
  if (units === "raw") return !SIZES.includes(effect.kind) && !STANDARDISED.includes(effect.kind);
  return effect.kind === units;
}

const CONDITIONAL: EffectKind[] = [
  "conditional_direct",
  "conditional_indirect",
  "conditional_contrast",
  "conditional_index",
  "index",
  "curve",
  "interaction",
];

/** Through what, and at which values: all of a conditional effect's label but the pair it belongs to. */
function conditionalTail({ label, kind, to }: EffectEvidence): string {
  if (kind === "interaction") return `, ${label.slice(0, label.lastIndexOf(" on "))}`;
  const rest = label.slice(label.indexOf(` on ${to}`) + ` on ${to}`.length);
  return rest.replace(/: index( of moderated mediation)?( by)/, "$2").replace(/^: /, ", ");
}

function wordsOf(effect: EffectEvidence, units: Units, evidence: Evidence): string {
  const kind =
    STANDARDISED.includes(effect.kind) && units !== "raw"
      ? (evidence.effects.find((e) => e.id === effect.of)?.kind ?? effect.kind)
      : effect.kind;
  const tail = effect.label.includes(":")
    ? effect.label.slice(effect.label.indexOf(":") + 1)
    : effect.via.length > 0
      ? `through ${effect.via.join(", then ")}`
      : "";
  if (effect.from === null) return effect.label;
  if (CONDITIONAL.includes(kind)) return `${KIND_WORDS[kind]}${conditionalTail(effect)}`;
  return kind === "contrast"
    ? `contrast: ${effect.label.split(": ").pop()}`
    : `${KIND_WORDS[kind]}${kind === "specific_indirect" && tail ? `, ${tail}` : ""}`;
}
