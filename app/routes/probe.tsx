import { own } from "../../core";
import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link } from "react-router";
import type { Evidence, ModerationEvidence, RegionEvidence } from "../../core";
import { isStopped, isWaiting } from "../components/frame/fault";
import { useAnalysis } from "../analysis/use-analysis";
import { useStudy } from "../analysis/use-study";
import { EffectMap, ResponseMap } from "../components/probe/planes";
import { Panels } from "../components/probe/panels";
import { Segments } from "../components/ui/segments";
import { IndirectStrip } from "../components/probe/indirect-strip";
import { Lever } from "../components/probe/lever";
import { usePoints } from "../components/probe/use-points";
import { Select } from "../components/ui/select";
import { Empty } from "../components/ui/empty";
import { Waiting } from "../components/ui/waiting";
import { Screen, ScreenHead, Spacer } from "../components/ui/layout";

const UNDERLINED = { "& em": { fontStyle: "normal", borderBottom: "2px solid var(--petrol)" } };

/** How one effect moves with another variable. */
export default function Probe() {
  const { analysis: running, definition, edit } = useStudy();
  const analysis = useAnalysis(running);
  const { evidence, problem } = analysis;
  const [chosen, setChosen] = useState<string | null>(null);
  const [wanted, setView] = useState<View>("lever");
  if (!evidence && isWaiting(analysis)) return <Waiting title="Probe" />;
  if (!evidence || evidence.moderations.length === 0)
    return <Nothing stopped={!evidence && isStopped(problem)} groups={groupsIn(evidence)} />;
  const paths = evidence.moderations.filter((m) => m.path);
  const mirrors = evidence.moderations.filter((m) => !m.path);
  const region = evidence.regions.find((r) => r.id === chosen);
  const moderation = region
    ? null
    : ([...paths, ...mirrors].find((m) => m.id === chosen) ?? paths[0] ?? mirrors[0]!);
  const { settings } = definition;
  // Another effect may lack the picture that was chosen last.
  const view = moderation && viewsOf(moderation).some(([key]) => key === wanted) ? wanted : "lever";
  return (
    <Screen sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr)", gap: 1.5 }}>
      <ScreenHead as="div">
        <Typography variant="h1" sx={UNDERLINED}>
          {moderation ? (
            <>
              How <em>{moderation.focalLabel}</em> moves <em>{moderation.outcome}</em> as{" "}
              <em>{moderation.moderators.map((m) => m.name).join(" and ")}</em> moves
            </>
          ) : (
            <>
              How the indirect effect of <em>{region!.from}</em> on <em>{region!.to}</em> moves with{" "}
              <em>{region!.over}</em>
            </>
          )}
        </Typography>
        <Spacer />
        <EffectChoice
          paths={paths}
          mirrors={mirrors}
          regions={evidence.regions}
          chosen={moderation?.id ?? region!.id}
          choose={setChosen}
        />
      </ScreenHead>
      {moderation && <Views moderation={moderation} view={view} setView={setView} />}
      {moderation && view !== "lever" && (
        <Picture
          key={`${moderation.id} ${view}`}
          moderation={moderation}
          evidence={evidence}
          view={view}
        />
      )}
      {moderation && view === "lever" && (
        <Lever
          key={moderation.id}
          moderation={moderation}
          evidence={evidence}
          probes={own(settings.probes, moderation.moderators[0]!.name) ?? ["mean_sd"]}
          setProbes={(over, probes) =>
            edit(
              { settings: { ...settings, probes: { ...settings.probes, [over]: probes } } },
              `probes ${over}`,
            )
          }
        />
      )}
      {region && <Indirect key={region.id} region={region} evidence={evidence} />}
    </Screen>
  );
}

type View = "lever" | "panels" | "surface" | "map";

/** The pictures that this effect has. */
function viewsOf({ moderators, focalVariable }: ModerationEvidence): [View, string][] {
  // A variable that moderates its own effect has one curve: no panels at other values, no surface
  // over itself.
  if (moderators.some((m) => m.name === focalVariable)) return [["lever", "lever"]];
  const numeric = moderators.filter((m) => m.kind === "numeric").length;
  return [
    ["lever", "lever"],
    ["panels", "panels"],
    ...(moderators[0]!.kind === "numeric" ? [["surface", "surface"] as [View, string]] : []),
    ...(numeric === 2 && moderators.length === 2
      ? [["map", "map of both moderators"] as [View, string]]
      : []),
  ];
}

function Views({
  moderation,
  view,
  setView,
}: {
  moderation: ModerationEvidence;
  view: View;
  setView: (view: View) => void;
}) {
  return (
    <div>
      <Segments label="Picture" value={view} choices={viewsOf(moderation)} choose={setView} />
    </div>
  );
}

function Picture({
  moderation,
  evidence,
  view,
}: {
  moderation: ModerationEvidence;
  evidence: Evidence;
  view: View;
}) {
  const points = usePoints(moderation, evidence);
  if (view === "panels") return <Panels {...{ moderation, evidence, points }} />;
  return view === "surface" ? (
    <ResponseMap {...{ moderation, evidence, points }} />
  ) : (
    <EffectMap {...{ moderation, evidence, points }} />
  );
}

/** The people along the moderator come from the equation that it acts in. */
function Indirect({ region, evidence }: { region: RegionEvidence; evidence: Evidence }) {
  const holder =
    evidence.moderations.find((m) => m.moderators.some((w) => w.columns.includes(region.over))) ??
    null;
  const points = usePoints(holder, evidence);
  return (
    <IndirectStrip
      region={region}
      evidence={evidence}
      values={points?.columns[region.over] ?? null}
    />
  );
}

interface ChoiceProps {
  paths: ModerationEvidence[];
  mirrors: ModerationEvidence[];
  regions: RegionEvidence[];
  chosen: string;
  choose: (id: string) => void;
}

function EffectChoice({ paths, mirrors, regions, chosen, choose }: ChoiceProps) {
  const option = (m: ModerationEvidence) => (
    <option key={m.id} value={m.id}>
      {m.focalLabel} on {m.outcome}, by {m.moderators.map((w) => w.name).join(" and ")}
    </option>
  );
  return (
    <Box component="label" className="quiet" sx={{ "& select": { maxWidth: 330 } }}>
      effect{" "}
      <Select value={chosen} onChange={(e) => choose(e.target.value)}>
        {paths.map(option)}
        {regions.length > 0 && (
          <optgroup label="indirect effects">
            {regions.map((r) => (
              <option key={r.id} value={r.id}>
                {r.label}, by {r.over}
              </option>
            ))}
          </optgroup>
        )}
        {mirrors.length > 0 && (
          <optgroup label="seen from the moderator">{mirrors.map(option)}</optgroup>
        )}
      </Select>
    </Box>
  );
}

/** The column that tells the groups of a theory apart; null where it has none. */
const groupsIn = (evidence: Evidence | null): string | null =>
  evidence?.sections.flatMap((s) =>
    s.kind === "structure" || s.kind === "composites" ? [s.groupVariable] : [],
  )[0] ?? null;

/**
 * @param stopped what stops the analysis is said above; then there is nothing to add
 * @param groups every path may differ between these, and that stands elsewhere
 */
function Nothing({ stopped, groups }: { stopped: boolean; groups: string | null }) {
  return (
    <Empty title="Probe">
      {groups !== null ? (
        <>
          The theory is estimated in each level of <em>{groups}</em>: paths and effects of every
          group, and how they differ, stand on <Link to="../evidence">Evidence</Link>. Slopes and
          regions are drawn along a variable that moderates a path without groups.
        </>
      ) : (
        !stopped && (
          <>
            Nothing is moderated yet. <Link to="../hypotheses">Write a sentence</Link> such as
            “support strengthens hours to confidence”, and here you can move support and watch the
            effect of hours change.
          </>
        )
      )}
    </Empty>
  );
}
