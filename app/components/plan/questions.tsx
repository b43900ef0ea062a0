import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import { useState } from "react";
import { thousands, type Goal, type StudyDefinition, type StudyPlan } from "../../../core";
import type { Planning, PlanningState } from "../../analysis/planning";
import { Labelled, Row } from "../ui/layout";
import { Select } from "../ui/select";
import { SizeField } from "./size-field";

interface Props {
  definition: StudyDefinition;
  plan: StudyPlan;
  labels: string[];
  /** Labels of sentences about an indirect effect, whose paths can be tested jointly. */
  indirect: readonly string[];
  /** Variables on which it may depend which answers are missing. */
  nodes: readonly string[];
  planning: Planning;
  state: PlanningState;
  change: (plan: StudyPlan) => void;
}

/** Around the planned number of people, so that the curve shows where it is steep. */
const AROUND = [0.25, 0.5, 0.75, 1, 1.5, 2];
const LEAST = 10;

const peopleAround = (n: number): number[] => [
  ...new Set(AROUND.map((share) => Math.max(LEAST, Math.round(share * n)))),
];

/** How sure the study is to be, and what can be asked of its plan. */
export function Questions({
  definition,
  plan,
  labels,
  indirect,
  nodes,
  planning,
  state,
  change,
}: Props) {
  const [goal, setGoal] = useState("all");
  const [width, setWidth] = useState<number | null>(0.2);
  const [label, setLabel] = useState(labels[0] ?? "");
  const running = state.status === "running";
  const goalOf = (): Goal | null => {
    if (goal === "all") return { kind: "all" };
    const [kind, of = ""] = goal.split(" ");
    if (kind === "joint") return { kind: "joint", label: of };
    if (kind !== "width") return { kind: "sentence", label: of };
    return width === null ? null : { kind: "width", label: of, most: width };
  };
  const shown = labels.includes(label) ? label : (labels[0] ?? "");
  return (
    <>
      <Numbers {...{ definition, plan, nodes, change }} />
      <Row sx={{ gap: 1.25 }}>
        <Button
          variant="contained"
          disabled={running}
          onClick={() => void planning.ask(definition, { kind: "power", people: [plan.n] })}
        >
          Power with {thousands(plan.n)}
        </Button>
        <Button
          variant="outlined"
          disabled={running}
          onClick={() =>
            void planning.ask(definition, { kind: "power", people: peopleAround(plan.n) })
          }
        >
          Draw power over people
        </Button>
        <Row sx={{ gap: 0.75, borderLeft: "1px solid var(--line)", pl: 1.25 }}>
          <Button
            variant="outlined"
            disabled={running || goalOf() === null}
            onClick={() => {
              const wanted = goalOf();
              if (wanted) void planning.ask(definition, { kind: "smallest", goal: wanted });
            }}
          >
            How many people for
          </Button>
          <Select aria-label="Goal" value={goal} onChange={(e) => setGoal(e.target.value)}>
            <option value="all">all sentences together</option>
            {labels.map((l) => (
              <option key={l} value={`sentence ${l}`}>
                {l}
              </option>
            ))}
            {indirect.map((l) => (
              <option key={`j ${l}`} value={`joint ${l}`}>
                joint significance of {l}
              </option>
            ))}
            {labels.map((l) => (
              <option key={`w ${l}`} value={`width ${l}`}>
                an interval of {l} no wider than
              </option>
            ))}
          </Select>
          {goal.startsWith("width") && (
            <SizeField
              label="Wanted width"
              value={width}
              from={0.0001}
              to={100}
              onValue={setWidth}
            />
          )}
        </Row>
        <Row sx={{ gap: 0.75, borderLeft: "1px solid var(--line)", pl: 1.25 }}>
          <Button
            variant="outlined"
            disabled={running || shown === ""}
            onClick={() => void planning.ask(definition, { kind: "effect", label: shown })}
          >
            Smallest effect of
          </Button>
          <Select
            aria-label="Sentence whose smallest effect is wanted"
            value={shown}
            onChange={(e) => setLabel(e.target.value)}
          >
            {labels.map((l) => (
              <option key={l} value={l}>
                {l}
              </option>
            ))}
          </Select>
        </Row>
      </Row>
      <Box sx={{ mt: 1.5 }}>
        <Progress {...{ definition, planning, state }} />
      </Box>
    </>
  );
}

/** People, power, samples: what is simulated, and how closely. */
function Numbers({
  definition,
  plan,
  nodes,
  change,
}: Pick<Props, "definition" | "plan" | "nodes" | "change">) {
  const numbers: [
    keyof StudyPlan & ("n" | "target" | "samples" | "replications"),
    string,
    number,
    number,
  ][] = [
    ["n", definition.unit || "people", 10, 20000],
    ["target", "wanted power", 0.05, 0.999],
    ["samples", "simulated samples", 10, 100000],
    ["replications", "bootstrap samples in each", 0, 20000],
  ];
  return (
    <Row sx={{ alignItems: "end", gap: 2, mb: 1.5 }}>
      {numbers.map(([name, words, from, to]) => (
        <Labelled key={name}>
          <span>{words}</span>
          <SizeField
            label={words}
            value={plan[name]}
            from={from}
            to={to}
            width={84}
            onValue={(value) =>
              value !== null &&
              change({ ...plan, [name]: name === "target" ? value : Math.round(value) })
            }
          />
        </Labelled>
      ))}
      <Labelled>
        <span>answers missing</span>
        <SizeField
          label="Share of answers missing in outcomes"
          value={plan.missing.share || null}
          from={0}
          to={0.8}
          placeholder="0"
          width={84}
          onValue={(share) => change({ ...plan, missing: { ...plan.missing, share: share ?? 0 } })}
        />
      </Labelled>
      {plan.missing.share > 0 && (
        <Labelled>
          <span>more of them where it is high</span>
          <Select
            aria-label="What missing answers depend on"
            value={plan.missing.on ?? ""}
            onChange={(e) =>
              change({ ...plan, missing: { ...plan.missing, on: e.target.value || null } })
            }
          >
            <option value="">at random</option>
            {nodes.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </Select>
        </Labelled>
      )}
    </Row>
  );
}

function Progress({
  definition,
  planning,
  state,
}: Pick<Props, "definition" | "planning" | "state">) {
  const { status, done, total, secondsLeft } = state;
  if (status === "running") {
    const share = total ? Math.min(1, done / total) : null;
    return (
      <Row>
        <Box sx={{ flex: "1 1 200px", maxWidth: 420 }}>
          <LinearProgress
            aria-label="Simulated so far"
            {...(share === null ? {} : { variant: "determinate", value: 100 * share })}
          />
        </Box>
        <span role="status">
          {thousands(done)}
          {total ? ` of ${thousands(total)}` : ""} samples
          {secondsLeft !== null && done > 0 ? `, ${leftWords(secondsLeft)}` : ""}
        </span>
        <Button variant="text" onClick={() => planning.stop()}>
          Stop
        </Button>
      </Row>
    );
  }
  if (status !== "stopped" || state.old) return null;
  return (
    <Row>
      <span>Stopped after {thousands(done)} samples; they are kept.</span>
      <Button variant="text" onClick={() => planning.goOn(definition)}>
        Go on
      </Button>
    </Row>
  );
}

/** "about 40 seconds left" */
export const leftWords = (seconds: number): string =>
  seconds < 90
    ? `about ${thousands(Math.max(1, Math.round(seconds)))} seconds left`
    : `about ${thousands(Math.round(seconds / 60))} minutes left`;
