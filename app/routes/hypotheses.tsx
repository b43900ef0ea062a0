import { equationsOf } from "../../core";
import { useState } from "react";
import { parseTheory, unitWords, type Evidence, type HypothesisEvidence } from "../../core";
import { useStudy, type StudyContext } from "../analysis/use-study";
import { PathDiagram, stepKey, type DiagramOptions } from "../components/diagram/path-diagram";
import { EquationTable } from "../components/evidence/equation-table";
import { CloseIcon } from "../components/icons";
import { Segments } from "../components/segments";
import { Sentences } from "../components/theory/sentences";
import { TextView } from "../components/theory/text-view";
import { replaceLine } from "../components/theory/edit-text";
import "./hypotheses.css";

/** The sentences beside the picture they draw, with live estimates. */
export default function Hypotheses() {
  const context = useStudy();
  const { definition, edit, dataset, analysis } = context;
  const [view, setView] = useState<"sentences" | "text">("sentences");
  const [focus, setFocus] = useState<HypothesisEvidence | null>(null);
  const columns = dataset.table.columns.map((c) => c.name);
  const { statements, complaints } = parseTheory(
    definition.theory,
    columns.filter((name) => dataset.origins.get(name) !== "measure"),
  );
  const usable = columns.filter((_, j) => dataset.variables[j]!.level !== "identifier");
  const change = (theory: string): void => edit({ theory }, "theory");
  return (
    <div className="hypotheses">
      <section className="composer" aria-label="Composer">
        <div className="screen-head">
          <h1>What you expect</h1>
          <span className="spacer" />
          <div className="segments" role="group" aria-label="View">
            {(["sentences", "text"] as const).map((each) => (
              <button
                key={each}
                type="button"
                aria-pressed={view === each}
                onClick={() => setView(each)}
              >
                {each === "sentences" ? "Sentences" : "Text"}
              </button>
            ))}
          </div>
        </div>
        {view === "sentences" ? (
          <Sentences
            text={definition.theory}
            statements={statements}
            complaints={complaints}
            variables={usable}
            evidence={analysis.evidence}
            change={change}
            focus={setFocus}
          />
        ) : (
          <TextView text={definition.theory} complaints={complaints} change={change} />
        )}
        {analysis.problem && analysis.problem.code !== "nothing_to_estimate" && (
          <p className="note composer-problem" role="alert">
            {analysis.problem.message}
          </p>
        )}
      </section>
      <Picture context={context} focus={focus} />
    </div>
  );
}

function Picture({ context, focus }: { context: StudyContext; focus: HypothesisEvidence | null }) {
  const { analysis, definition } = context;
  const { evidence, problem } = analysis;
  const [options, setOptions] = useState<DiagramOptions>({ units: "raw", doubt: "interval" });
  const [selected, setSelected] = useState<{ from: string; to: string } | null>(null);
  if (!evidence) {
    return (
      <section className="picture empty" aria-label="Diagram">
        <p className="serif">
          {problem && problem.code !== "nothing_to_estimate"
            ? "The picture appears when the theory can be estimated."
            : "Write a sentence on the left: who or what raises, lowers or affects what, and through what. Its picture and its estimates appear here at once."}
        </p>
      </section>
    );
  }
  const shown =
    selected && evidence.paths.some((p) => p.from === selected.from && p.to === selected.to)
      ? selected
      : null;
  return (
    <section className={problem ? "picture stale" : "picture"} aria-label="Diagram">
      <div className="screen-head picture-head">
        <Segments
          label="Coefficients"
          value={options.units}
          choices={[
            ["raw", unitWords(definition.settings)],
            ["standardised", "standardised"],
          ]}
          choose={(units) => setOptions({ ...options, units })}
        />
        <Segments
          label="Doubt"
          value={options.doubt}
          choices={[
            ["interval", "intervals"],
            ["p", "p values"],
          ]}
          choose={(doubt) => setOptions({ ...options, doubt })}
        />
      </div>
      <PathDiagram
        evidence={evidence}
        definition={{ ...definition, variables: context.dataset.variables }}
        options={options}
        selected={shown}
        highlighted={stepsOf(focus)}
        select={setSelected}
      />
      {shown ? (
        <PathPanel
          context={context}
          evidence={evidence}
          path={shown}
          close={() => setSelected(null)}
        />
      ) : (
        <p className="picture-foot quiet">
          {adjustedFor(evidence)} Solid petrol arrows: the interval excludes zero; dashed: it
          contains zero. Choose an arrow to see its equation.
        </p>
      )}
    </section>
  );
}

/** Which equations hold which covariates, those with the same ones together. */
function adjustedFor(evidence: Evidence): string {
  const groups = new Map<string, string[]>();
  for (const equation of equationsOf(evidence)) {
    const covariates = equation.coefficients.filter((c) => c.covariate).map((c) => c.label);
    if (covariates.length > 0)
      groups.set(covariates.join(" and "), [
        ...(groups.get(covariates.join(" and ")) ?? []),
        equation.outcome,
      ]);
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

function PathPanel({
  context,
  evidence,
  path,
  close,
}: {
  context: StudyContext;
  evidence: Evidence;
  path: { from: string; to: string };
  close: () => void;
}) {
  const { definition, edit } = context;
  const equation = equationsOf(evidence).find((e) => e.outcome === path.to)!;
  const lines = evidence.paths.find((p) => p.from === path.from && p.to === path.to)!.lines;
  const text = definition.theory.split("\n");
  const means = evidence.groupMeans.find((g) => g.variable === path.from && g.outcome === path.to);
  const alone = lines.length === 1 && /^\s*also\b/.test(text[lines[0]! - 1] ?? "");
  return (
    <div className="path-panel">
      <div className="screen-head">
        <h2>
          {path.from} to {path.to}
        </h2>
        <p className="quiet">
          stands here because of {lines.map((l) => `line ${l}`).join(" and ")}
        </p>
        <span className="spacer" />
        {alone && (
          <button
            type="button"
            className="button"
            onClick={() =>
              edit({ theory: replaceLine(definition.theory, lines[0]!, null) }, "theory")
            }
          >
            Take this path out
          </button>
        )}
        <button
          type="button"
          className="button bare"
          aria-label="Close the equation"
          onClick={close}
        >
          <CloseIcon />
        </button>
      </div>
      {means && (
        <p>
          Mean {path.to}: {means.means[1].toFixed(2)} where {means.variable} is {means.levels[1]} (n
          = {means.counts[1]}), {means.means[0].toFixed(2)} where it is {means.levels[0]} (n ={" "}
          {means.counts[0]}).
        </p>
      )}
      <EquationTable equation={equation} evidence={evidence} highlight={path.from} />
    </div>
  );
}
