import Box from "@mui/material/Box";
import { useRef, useState } from "react";
import { errorsName, percent, plain, pointwiseCritical } from "../../../core";
import { FigureTools } from "../figure/figure-tools";
import { Segments } from "../ui/segments";
import { placeOf, unitsOf } from "./lever-model";
import { LeverPlot } from "./lever-plot";
import { PanelHead, type PanelsProps } from "./panel-head";
import { panelTable } from "./probe-numbers";
import { TwoPanels } from "./two-panels";
import { PanelGrid } from "./layout";

const MOST = 12;

/** Pictures side by side: one for every probe, or two of one's own. */
export function Panels(props: PanelsProps) {
  const [which, setWhich] = useState<"all" | "two">("all");
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: "minmax(0, 1fr)",
        gap: 1.75,
        justifyItems: "start",
      }}
    >
      <Segments
        label="Which panels"
        value={which}
        choices={[
          ["all", "one for each value"],
          ["two", "two of my own"],
        ]}
        choose={setWhich}
      />
      {which === "all" ? <ProbePanels {...props} /> : <TwoPanels {...props} />}
    </Box>
  );
}

/**
 * One picture for every probe of the moderators: groups side by side, two moderators as a matrix.
 */
function ProbePanels({ moderation, evidence, points }: PanelsProps) {
  const figure = useRef<HTMLDivElement>(null);
  const { moderators, model } = moderation;
  const places = moderators.reduce<{ words: string[]; values: [string, number][] }[]>(
    (all, m) =>
      all.flatMap(({ words, values }) =>
        m.probes.map((probe) => ({
          words: [
            ...words,
            `${m.name} ${probe.value === null || m.kind !== "numeric" ? probe.label : plain(probe.value, 2)}`,
          ],
          values: [...values, ...placeOf(moderation, probe)],
        })),
      ),
    [{ words: [], values: [] }],
  );
  const panels = places
    .slice(0, MOST)
    .map(({ words, values }) => ({ words: words.join(", "), place: new Map(values) }));
  const units = unitsOf(moderation, null, false);
  const across =
    moderators.length > 1 ? moderators.at(-1)!.probes.length : Math.min(3, places.length);
  const { level } = evidence.settings;
  const errors = errorsName(evidence.errors);
  return (
    <>
      <PanelGrid
        ref={figure}
        style={{ gridTemplateColumns: `repeat(${Math.min(3, across)}, max-content)` }}
      >
        {panels.map(({ words, place }) => (
          <figure key={words}>
            <PanelHead {...{ moderation, evidence, words, place }} />
            <LeverPlot
              {...{ moderation, points, place, units }}
              critical={pointwiseCritical(model.df ?? Infinity, level)}
              pinned={[]}
              shown="near"
              label=""
              width={364}
              height={250}
            />
          </figure>
        ))}
      </PanelGrid>
      {places.length > MOST && (
        <p className="quiet">{places.length - MOST} more combinations are not drawn.</p>
      )}
      <FigureTools
        target={figure}
        name={`${moderation.focal} on ${moderation.outcome} in panels`}
        caption={`${moderation.outcome} against ${moderation.focalLabel} at values of ${moderators.map((m) => m.name).join(" and ")}, with pointwise ${percent(level)} % bands (${errors} errors); cases within half an SD of the value in full colour. ${evidence.sample.n} ${evidence.unit}, other predictors at their means.`}
        numbers={() => [panelTable(moderation, evidence, panels)]}
      />
    </>
  );
}
