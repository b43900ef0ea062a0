import Typography from "@mui/material/Typography";
import { useState } from "react";
import {
  codingWords,
  effectWorking,
  percent,
  pValue,
  pairWords,
  referenceName,
  repeatsCodeColumn,
  type EffectEvidence,
  type Evidence,
  inUnits,
  unitChoices,
  wordsOf,
  type Units,
} from "../../../core";
import { drawnOf, IntervalBar, scaleOf, type Scale } from "../interval-bar";
import { Segments } from "../ui/segments";
import { Forest } from "./forest";
import { ScreenHead, Spacer } from "../ui/layout";
import { NumberTable, type Cell } from "../ui/number-table";

interface Props {
  evidence: Evidence;
  selected: string | null;
  select: (id: string) => void;
}

/**
 * Every effect that exists, grouped by predictor and outcome; estimate, SE, interval and p in one
 * row.
 */
export function EffectsTable({ evidence, selected, select }: Props) {
  const [units, setUnits] = useState<Units>("raw");
  const [form, setForm] = useState<"table" | "forest">("table");
  const claimed = new Set(evidence.hypotheses.flatMap((h) => h.effects));
  // What a hypothesis claims, or somebody has chosen, stands here under the name it was called by.
  const listed = evidence.effects.filter(
    (e) =>
      inUnits(e, units) &&
      (claimed.has(e.id) || e.id === selected || !repeatsCodeColumn(evidence, e)),
  );
  const groups = new Map<string, EffectEvidence[]>();
  for (const effect of listed) {
    const key = pairWords(evidence, effect) || "stated quantities";
    groups.set(key, [...(groups.get(key) ?? []), effect]);
  }
  const coding = codingWords(evidence);
  return (
    <section aria-labelledby="every-effect">
      <ScreenHead as="div" style={{ margin: "30px 0 8px" }}>
        <Typography variant="h2" id="every-effect">
          Every effect
        </Typography>
        <Spacer />
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
      </ScreenHead>
      {coding !== "" && <p className="quiet">{coding}</p>}
      {listed.length === 0 && <p className="quiet">No such quantity exists in this theory.</p>}
      {form === "forest" && <Forest effects={listed} evidence={evidence} units={units} />}
      {form === "table" &&
        [...groups].map(([group, effects]) => (
          <GroupOfEffects key={group} {...{ group, effects, units, evidence, selected, select }} />
        ))}
    </section>
  );
}

interface GroupProps extends Props {
  group: string;
  effects: EffectEvidence[];
  units: Units;
}

/** The effects of one predictor on one outcome. */
function GroupOfEffects({ group, effects, units, evidence, selected, select }: GroupProps) {
  const level = percent(evidence.settings.level);
  const scale = scaleOf(
    effects.filter((x) => x.kind !== "ratio_to_direct" || effects.length === 1).map(drawnOf),
  );
  return (
    <NumberTable
      inLine
      title={`Effects, ${group}`}
      heading={
        <Typography variant="h3" sx={{ pt: 1.5 }}>
          {group}
        </Typography>
      }
      columns={["effect", "estimate", "SE", `${level} % CI lower`, "upper", "p", "rests on", ""]}
      names={["effect", "estimate", "SE", `${level} % CI lower`, "upper", "p", "rests on"]}
      rows={effects.map((e) => ({
        key: e.id,
        selected: selected === e.id,
        label: `${wordsOf(e, units, evidence)}: ${e.label}`,
        cells: cellsOf(e, wordsOf(e, units, evidence), scale),
        working: () => effectWorking(e, evidence),
        choose: () => select(e.id),
      }))}
    />
  );
}

function cellsOf(e: EffectEvidence, words: string, scale: Scale): Cell[] {
  if (!e.shown) return [words, { shown: e.withheld, value: e.withheld, span: 7 }];
  return [
    words,
    e.estimate,
    e.shown.se,
    e.shown.lower,
    e.shown.upper,
    { shown: pValue(e.shown.p, e.shown.pIsBound), value: e.shown.p },
    referenceName(e.shown),
    {
      shown: <IntervalBar interval={drawnOf(e)} scale={scale} width={110} />,
      value: null,
    },
  ];
}
