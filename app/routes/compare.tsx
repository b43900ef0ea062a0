import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import {
  plain,
  ROBUST_RESAMPLES,
  specificationWorking,
  thousands,
  type Specification,
  VERDICT_WORDS,
} from "../../core";
import { useRobustness } from "../analysis/use-robustness";
import { useAnalysis } from "../analysis/use-analysis";
import { useStudy } from "../analysis/use-study";
import type { Route } from "./+types/compare";
import { KeptRuns } from "../components/checks/kept-runs";
import { answering } from "../actions/asking";
import { runsAction } from "../actions/runs-action";
import { keepingOf } from "../storage/open";
import { listRuns } from "../storage/studies";
import { CautionMark } from "../components/cautions";
import { VerdictMark } from "../components/verdict";
import { linear, padded } from "../../formats/figures";
import { isWaiting } from "../components/frame/fault";
import { Empty } from "../components/ui/empty";
import { Waiting } from "../components/ui/waiting";
import { Note, Screen, ScreenHead } from "../components/ui/layout";
import { NumberTable } from "../components/ui/number-table";

const WIDTH = 84;

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  const runs = await listRuns(params.id).catch((error: unknown) => {
    // What is open is shown without them.
    if (keepingOf().kind === "overtaken") return [];
    throw error;
  });
  return { runs };
}
clientLoader.hydrate = true as const;

export const clientAction = async ({ params, request }: Route.ClientActionArgs) =>
  answering(request, (body) => runsAction(params.id, body));

export default function Compare({ loaderData }: Route.ComponentProps) {
  const context = useStudy();
  const {
    found: specifications,
    status,
    total,
    old,
    problem,
    start,
    cancel,
  } = useRobustness(context);
  const analysis = useAnalysis(context.analysis);
  const { evidence } = analysis;
  if (!evidence && isWaiting(analysis)) return <Waiting title="Robustness" />;
  if (!evidence || evidence.hypotheses.length === 0) {
    return (
      <Empty title="Compare">
        There is nothing to compare yet. <Link to="../hypotheses">Write a hypothesis</Link> first.
      </Empty>
    );
  }
  const differing = new Set(
    specifications.flatMap((s) => s.claims.filter((c) => c.differs).map((c) => c.label)),
  );
  return (
    <Screen
      aria-busy={status === "running"}
      sx={{ display: "grid", gap: 1.75, gridTemplateColumns: "minmax(0, 1fr)" }}
    >
      <ScreenHead as="div">
        <Typography variant="h1">Robustness</Typography>
        <p className="quiet">
          Every verdict with one thing changed at a time: interval, standard errors, centring,
          covariates, influential cases; with up to {thousands(ROBUST_RESAMPLES)} bootstrap samples
          each. A verdict that is only unsettled does not count as another one.
        </p>
      </ScreenHead>
      {problem && <Note role="alert">{problem.message}</Note>}
      <div>
        {status === "running" ? (
          <>
            <span aria-live="polite">
              {total === 0
                ? "Drawing bootstrap samples …"
                : `${specifications.length} of ${total} specifications tried.`}
            </span>{" "}
            <Button onClick={cancel}>Stop</Button>
          </>
        ) : (
          <Button variant={status === "idle" ? "contained" : "outlined"} onClick={start}>
            {status === "idle" ? "Try the other specifications" : "Try again"}
          </Button>
        )}{" "}
        {old && <span>The study has changed since these specifications were tried.</span>}
      </div>
      {specifications.length > 0 && (
        <>
          <p className="serif" hidden={status === "running"}>
            {specifications.length < total &&
              `Stopped after ${specifications.length} of ${total} specifications. `}
            {differing.size === 0
              ? `All ${specifications.length < total ? "these " : ""}specifications agree on ${evidence.hypotheses.length === 1 ? "the hypothesis" : `each of the ${evidence.hypotheses.length} hypotheses`}.`
              : `The verdict on ${[...differing].join(", ")} depends on the specification; where it differs is marked.`}
          </p>
          {specifications.some((s) => s.group === "measures") && (
            <p className="quiet">
              Averages and composites carry the errors of their items, which usually weakens the
              effects among them (attenuation); latent variables take these errors out, at the price
              of a model that has to fit. Among composites and latent variables effects are in other
              units than among averages: compare verdicts, not sizes.
            </p>
          )}
          <RobustnessTable specifications={specifications} sentences={evidence.hypotheses} />
        </>
      )}
      <KeptRuns context={context} runs={loaderData.runs} />
    </Screen>
  );
}

interface TableProps {
  specifications: Specification[];
  sentences: { label: string; sentence: string }[];
}

function RobustnessTable({ specifications, sentences }: TableProps) {
  const scales = new Map(
    sentences.map(({ label }) => {
      const all = specifications.flatMap((s) =>
        s.claims.filter((c) => c.label === label).flatMap((c) => [c.lower, c.upper, c.estimate]),
      );
      return [
        label,
        linear(padded([...all.filter((v): v is number => v !== null), 0], 0.05), [4, WIDTH - 4]),
      ] as const;
    }),
  );
  return (
    <NumberTable
      title="Verdicts by specification"
      columns={[
        "specification",
        "n",
        ...sentences.map(({ label, sentence }) => (
          <Box key={label} sx={{ whiteSpace: "normal", minWidth: 150, maxWidth: 300 }}>
            <strong>{label}</strong> {sentence}
          </Box>
        )),
      ]}
      names={["specification", "n", ...sentences.map(({ label }) => label)]}
      words={sentences.map((_, j) => j + 2)}
      rows={specifications.map((s) => ({
        key: s.name,
        marked: s.claims.some((claim) => claim.differs),
        ...(s.problem === null && { working: () => specificationWorking(s, specifications[0]) }),
        cells: [
          { shown: <Box sx={{ minWidth: 136 }}>{s.name}</Box>, value: s.name },
          s.n === null ? null : { shown: String(s.n), value: s.n },
          ...(s.problem ? [{ shown: s.problem, value: s.problem, span: sentences.length }] : []),
          ...s.claims.map((claim) => ({
            shown: <ClaimCell claim={claim} scale={scales.get(claim.label)!} />,
            value: [VERDICT_WORDS[claim.verdict], estimateWords(claim)].filter(Boolean).join(", "),
          })),
        ],
      }))}
      note="Intervals are drawn to one scale for each hypothesis; the line is zero. Where a verdict differs it stands on a tint."
    />
  );
}

/** An interval to scale beside its verdict. */
function ClaimCell({
  claim,
  scale,
}: {
  claim: Specification["claims"][number];
  scale: (v: number) => number;
}) {
  return (
    <Box
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1.25,
        m: "-5px -8px",
        p: "5px 8px",
        backgroundColor: claim.differs ? "var(--rust-wash)" : "transparent",
      }}
    >
      <Interval claim={claim} scale={scale} />
      <Box component="span" sx={{ display: "grid", lineHeight: 1.25 }}>
        <span>
          <VerdictMark verdict={claim.verdict} /> <CautionMark hypothesis={claim} />
        </span>
        <Box component="small" className="quiet" sx={{ whiteSpace: "nowrap" }}>
          {estimateWords(claim)}
        </Box>
      </Box>
    </Box>
  );
}

/** The estimate and its limits in words; empty where there is none. */
function estimateWords({ estimate, lower, upper }: Specification["claims"][number]): string {
  if (estimate === null) return "";
  if (lower === null && upper === null) return plain(estimate);
  return `${plain(estimate)} [${lower === null ? "−∞" : plain(lower)}, ${upper === null ? "∞" : plain(upper)}]`;
}

function Interval({
  claim,
  scale,
}: {
  claim: Specification["claims"][number];
  scale: (v: number) => number;
}) {
  const { lower, upper, estimate } = claim;
  if ((lower === null && upper === null) || estimate === null) return null;
  const words =
    lower !== null && upper !== null
      ? `${plain(lower)} to ${plain(upper)}`
      : lower !== null
        ? `above ${plain(lower)}`
        : `below ${plain(upper)}`;
  return (
    <svg width={WIDTH} height={16} role="img" aria-label={`${plain(estimate)}, ${words}`}>
      <path stroke="var(--quiet)" d={`M${scale(0)} 0V16`} />
      <path
        stroke="var(--petrol)"
        strokeWidth={2.4}
        d={`M${lower === null ? 0 : scale(lower)} 8H${upper === null ? WIDTH : scale(upper)}`}
      />
      <circle cx={scale(estimate)} cy={8} r={3.5} fill="var(--petrol)" />
    </svg>
  );
}
