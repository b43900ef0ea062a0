import type { RefObject } from "react";
import {
  plain,
  changeShown,
  regionSentence,
  scaleWords,
  unitWords,
  type Evidence,
  type JohnsonNeyman,
  type ModerationEvidence,
  type ProbeChoice,
  type RegionRule,
} from "../../../core";
import { FigureTools } from "../figure/figure-tools";
import { Segments } from "../ui/segments";
import { captionOf, Explained, ReadingHere, ZeroSlope } from "./lever-words";
import type { ShownPoints } from "./people-layer";
import { OwnProbes, ProbeTable } from "./probe-controls";
import { slopeTables, stripTable } from "./probe-numbers";
import type { LeverState, Moderator } from "./use-lever";
import { Select } from "../ui/select";
import { Labelled } from "../ui/layout";
import { Controls, Sentence, Side } from "./layout";

export interface LeverProps {
  moderation: ModerationEvidence;
  evidence: Evidence;
  probes: ProbeChoice[];
  setProbes: (over: string, probes: ProbeChoice[]) => void;
}

type SideProps = LeverProps & {
  lever: LeverState;
  shown: ShownPoints;
  setShown: (shown: ShownPoints) => void;
  figure: RefObject<HTMLDivElement | null>;
};

/** What is read at the handle, and everything that can be set. */
export function LeverSide({
  moderation,
  evidence,
  probes,
  setProbes,
  lever,
  shown,
  setShown,
  figure,
}: SideProps) {
  const { first, numeric, found, units, heldProbes, heldPlace, rule } = lever;
  return (
    <Side aria-label="Reading at the handle">
      {!numeric && (
        <Segments
          label={`Level of ${first.name}`}
          value={String(lever.level)}
          choices={first.probes.map((p, i) => [String(i), p.label])}
          choose={(i) => lever.setLevel(Number(i))}
        />
      )}
      <ReadingHere moderation={moderation} evidence={evidence} lever={lever} />
      {heldProbes.map(({ moderator, probe }) => (
        <Held
          key={moderator.name}
          moderator={moderator}
          at={moderator.probes.indexOf(probe)}
          choose={(i) => lever.setHeld(moderator.name, i)}
        />
      ))}
      <ProbeTable
        {...{ moderation, evidence, units, heldPlace }}
        moderator={first}
        pinned={lever.shownPins}
        pin={lever.pin}
        go={(probe, i) => (numeric ? lever.setValue(probe.value) : lever.setLevel(i))}
      />
      <ZeroSlope moderation={moderation} evidence={evidence} lever={lever} />
      <Explained moderation={moderation} evidence={evidence} />
      <Controls>
        {moderation.model.link === "identity" ? (
          <Segments
            label="Units"
            value={lever.standardised ? "sd" : "raw"}
            choices={[
              ["raw", unitWords(evidence)],
              ["sd", "standardised"],
            ]}
            choose={(v) => lever.setStandardised(v === "sd")}
          />
        ) : (
          <Segments
            label="Scale of the picture"
            value={lever.response ? "response" : "predictor"}
            choices={SCALES[moderation.model.link]}
            choose={(v) => lever.setResponse(v === "response")}
          />
        )}
        <Segments
          label="Cases"
          value={shown}
          choices={[
            ["none", "no points"],
            ["near", "near"],
            ["all", "all"],
          ]}
          choose={setShown}
        />
        {numeric && (
          <OwnProbes
            key={JSON.stringify(probes)}
            probes={probes}
            units={unitWords(evidence)}
            set={(next) => setProbes(first.name, next)}
          />
        )}
        {numeric && found && (
          <Segments
            label="Region"
            value={rule}
            choices={[
              ["pointwise", "pointwise"],
              ["simultaneous", "simultaneous"],
              ["falseDiscovery", "false discovery"],
            ]}
            choose={lever.setRule}
          />
        )}
      </Controls>
      {found && <RegionStory {...{ moderation, evidence, found, rule, first }} />}
      <FigureTools
        target={figure}
        name={`${moderation.focal} on ${moderation.outcome} by ${first.name}`}
        caption={captionOf(moderation, evidence, lever)}
        numbers={() => [
          ...slopeTables(moderation, evidence),
          ...(numeric && found
            ? [
                stripTable(
                  moderation,
                  evidence,
                  { name: first.name, column: first.columns[0]!, range: found.range },
                  heldPlace,
                ),
              ]
            : []),
        ]}
      />
    </Side>
  );
}

/** The two scales of a response with a link, the picture's own first. */
const SCALES: Record<
  Exclude<ModerationEvidence["model"]["link"], "identity">,
  ["response" | "predictor", string][]
> = {
  logit: [
    ["response", "probabilities"],
    ["predictor", "log odds"],
  ],
  probit: [
    ["response", "probabilities"],
    ["predictor", "probit index"],
  ],
  log: [
    ["response", "counts"],
    ["predictor", "log counts"],
  ],
};

/** Another moderator, kept at one of its probes while the first one moves. */
function Held({
  moderator,
  at,
  choose,
}: {
  moderator: Moderator;
  at: number;
  choose: (i: number) => void;
}) {
  const words = ({ label, value }: Moderator["probes"][number]): string =>
    value === null
      ? label
      : label.startsWith("=")
        ? label.slice(1)
        : `${label} (${plain(value, 2)})`;
  return (
    <Labelled style={{ maxWidth: 240 }}>
      <span>while {moderator.name} is held at</span>
      <Select value={at} onChange={(e) => choose(Number(e.target.value))}>
        {moderator.probes.map((probe, i) => (
          <option key={probe.label} value={i}>
            {words(probe)}
          </option>
        ))}
      </Select>
    </Labelled>
  );
}

/** Where the slope differs from zero along its first moderator, in a sentence. */
function RegionStory({
  moderation,
  evidence,
  found,
  rule,
  first,
}: {
  moderation: ModerationEvidence;
  evidence: Evidence;
  found: JohnsonNeyman;
  rule: RegionRule;
  first: ModerationEvidence["moderators"][number];
}) {
  const { model, outcome, moderators } = moderation;
  const { sample, unit, errors, settings } = evidence;
  const alone = moderators.length === 1;
  return (
    <Sentence>
      {regionSentence(
        found,
        { ...moderation, outcome: scaleWords(model.link, outcome).predictor },
        first.name,
        { n: sample.n, unit },
        {
          rule,
          errors,
          level: settings.level,
          shown: alone ? changeShown(evidence, moderation, first.columns[0]!) : null,
        },
      )}
    </Sentence>
  );
}
