import Box from "@mui/material/Box";
import { styled } from "@mui/material/styles";
import { useDeferredValue, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import {
  arrowScales,
  completePlan,
  equationsOf,
  variablesOf,
  unitWords,
  type Evidence,
  type HypothesisEvidence,
} from "../../../core";
import { useAnalysis } from "../../analysis/use-analysis";
import type { StudyContext } from "../../analysis/use-study";
import { PathDiagram, stepKey, type DiagramOptions } from "../diagram/path-diagram";
import { PictureTools } from "../figure/picture-tools";
import { PaperFigure } from "../diagram/paper-figure";
import { isWaiting } from "../frame/fault";
import { Check } from "../ui/check";
import { ScreenHead, Spacer } from "../ui/layout";
import { Segments } from "../ui/segments";
import { cardWords, readTheory } from "../plan/read-theory";
import { SizesDiagram } from "../plan/sizes-diagram";
import { PathPanel } from "./path-panel";

const Side = styled("section")({
  display: "flex",
  flexDirection: "column",
  minWidth: 0,
  overflow: "hidden",
  "@media (max-width: 900px)": { minHeight: 440 },
});

/** The picture that the sentences draw, with live estimates on its arrows. */
export function Picture({ context, focus }: { context: StudyContext; focus: number | null }) {
  const { definition } = context;
  const { evidence: latest, problem } = useAnalysis(context.analysis);
  // The sentence that is being typed goes first; the picture follows.
  const evidence = useDeferredValue(latest, latest);
  const [options, setOptions] = useState<DiagramOptions>({ units: "raw", doubt: "interval" });
  const [selected, setSelected] = useState<{ from: string; to: string } | null>(null);
  const frame = useRef<HTMLDivElement>(null);
  if (!evidence) return <NoPicture context={context} />;
  const shown =
    selected && evidence.paths.some((p) => p.from === selected.from && p.to === selected.to)
      ? selected
      : null;
  const pointed = evidence.hypotheses.find((h) => h.line === focus) ?? null;
  const foot = `${adjustedFor(evidence)} Solid petrol arrows: the interval excludes zero; dashed: it contains zero.${aboutModerated(evidence)}`;
  return (
    <Side aria-label="Diagram">
      <ScreenHead as="div" style={{ padding: "16px 24px 8px" }}>
        <Segments
          label="Coefficients"
          value={options.units}
          choices={[
            ["raw", unitWords(evidence)],
            ["standardised", "standardised"],
          ]}
          choose={(units) => setOptions({ ...options, units })}
        />
        <Segments
          label="Uncertainty on the arrows"
          value={options.doubt}
          choices={[
            ["interval", "intervals"],
            ["p", "p values"],
          ]}
          choose={(doubt) => setOptions({ ...options, doubt })}
        />
        {evidence.latent.length > 0 && (
          <Check
            label="items"
            checked={options.items ?? false}
            onChange={(items) => setOptions({ ...options, items })}
          />
        )}
        <Spacer />
        <PaperFigure evidence={evidence} title={definition.title} />
        <PictureTools
          target={frame}
          name={`${definition.title} path diagram`}
          caption={foot.trim()}
        />
      </ScreenHead>
      <Box
        ref={frame}
        sx={{ flex: 1, minHeight: 300, display: "flex", opacity: problem ? 0.5 : 1 }}
      >
        <PathDiagram
          evidence={evidence}
          definition={{ ...definition, variables: context.dataset.variables }}
          options={options}
          selected={shown}
          highlighted={stepsOf(pointed)}
          select={setSelected}
        />
      </Box>
      {shown ? (
        <PathPanel
          context={context}
          evidence={evidence}
          path={shown}
          close={() => setSelected(null)}
        />
      ) : (
        <Box component="p" sx={{ p: "8px 24px 14px", fontSize: 13, color: "var(--quiet)" }}>
          {foot} Choose an arrow to see what stands behind it.
        </Box>
      )}
    </Side>
  );
}

function NoPicture({ context }: { context: StudyContext }) {
  const { analysis: running, study } = context;
  const analysis = useAnalysis(running);
  const { problem } = analysis;
  const words = isWaiting(analysis)
    ? "Estimating …"
    : problem && problem.code !== "nothing_to_estimate"
      ? "The picture appears when the theory can be estimated."
      : study.rows === 0
        ? "Bring data, or declare the variables there will be: open Data on the left, or drop a file anywhere on this page. Then write who or what raises, lowers or affects what."
        : "Write a sentence on the left: who or what raises, lowers or affects what, and through what. Its picture and its estimates appear here at once.";
  if (study.rows === 0 && problem?.condition === "no_rows") return <Planned context={context} />;
  return (
    <Side aria-label="Diagram" sx={{ display: "grid", placeContent: "center" }}>
      <Box
        component="p"
        sx={{
          maxWidth: "44ch",
          p: 3,
          fontFamily: "var(--serif)",
          fontSize: "1.1rem",
          color: "var(--quiet)",
          textAlign: "center",
        }}
      >
        {words}
      </Box>
    </Side>
  );
}

/** Before there are data the picture holds the sizes that are expected. */
function Planned({ context: { definition, edit } }: { context: StudyContext }) {
  const read = useMemo(() => readTheory(definition), [definition]);
  if (!read.theory) return <Side aria-label="Diagram" />;
  return (
    <Side aria-label="Diagram" sx={{ p: "16px 24px", overflow: "auto" }}>
      <SizesDiagram
        theory={read.theory}
        plan={completePlan(definition.plan)}
        detail={(name) => cardWords(definition, read.measures, name)}
        change={(plan) => edit({ plan }, "plan")}
      />
      <Box component="p" sx={{ fontSize: 14, color: "var(--quiet)" }}>
        There are no data yet. Say in the fields how large you expect every effect to be, in SDs;{" "}
        <Link to="../plan">the plan</Link> then says how many {definition.unit} it takes to see it.
      </Box>
    </Side>
  );
}

/** What the number on the arrow of a moderated path is. */
const aboutModerated = (evidence: Evidence): string =>
  [
    ...(evidence.moderations.length === 0
      ? []
      : [" The number on a moderated arrow is the average effect over the sample."]),
    arrowScales(evidence),
  ]
    .join(" ")
    .trimEnd();

/** Which equations hold which covariates, those with the same ones together. */
function adjustedFor(evidence: Evidence): string {
  const { covariates } = evidence.roles;
  if (equationsOf(evidence).length === 0)
    return covariates.length > 0 ? `Adjusted for ${covariates.join(" and ")}.` : "";
  const groups = new Map<string, string[]>();
  for (const equation of equationsOf(evidence)) {
    const covariates = variablesOf(equation.coefficients.filter((c) => c.covariate));
    if (covariates.length === 0) continue;
    const key = covariates.join(" and ");
    groups.set(key, [...(groups.get(key) ?? []), equation.outcome]);
  }
  return [...groups]
    .map(([covariates, outcomes]) => `Adjusted for ${covariates}: ${outcomes.join(", ")}.`)
    .join(" ");
}

/** The steps a hypothesis goes along, while it is pointed at. */
function stepsOf(hypothesis: HypothesisEvidence | null): Set<string> | null {
  if (!hypothesis) return null;
  const chains = hypothesis.chains.length > 0 ? hypothesis.chains : [[]];
  return new Set(
    chains.flatMap((chain) => {
      const nodes = [hypothesis.from, ...chain, hypothesis.to];
      return nodes.slice(1).map((to, i) => stepKey(nodes[i]!, to));
    }),
  );
}
