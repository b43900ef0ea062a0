import Button from "@mui/material/Button";
import ButtonBase from "@mui/material/ButtonBase";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import { Wide } from "../components/wide";
import { Link } from "react-router";
import { plain, ROBUST_RESAMPLES, thousands, type Specification } from "../../core";
import { useRobustness } from "../analysis/use-robustness";
import { useStudy } from "../analysis/use-study";
import type { Route } from "./+types/compare";
import { KeptRuns } from "../components/checks/kept-runs";
import { keepRun, listRuns, removeRun } from "../storage/studies";
import { VerdictMark } from "../components/verdict";
import { linear, padded } from "../components/figure/scale";
import "../components/checks/checks.css";
import { Note, Screen, ScreenHead } from "../components/ui/layout";

const WIDTH = 150;

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  return { runs: await listRuns(params.id) };
}
clientLoader.hydrate = true as const;

export async function clientAction({ params, request }: Route.ClientActionArgs) {
  const { intent, name, run, evidence, id } = await request.json();
  if (intent === "keep") await keepRun(params.id, name, run, evidence);
  if (intent === "remove") await removeRun(id);
  return { ok: true };
}

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
  const { evidence } = context.analysis;
  if (!evidence || evidence.hypotheses.length === 0) {
    return (
      <Screen className="evidence-empty">
        <h1>Compare</h1>
        <p className="serif">
          There is nothing to compare yet. <Link to="../hypotheses">Write a hypothesis</Link> first.
        </p>
      </Screen>
    );
  }
  const differing = new Set(
    specifications.flatMap((s) => s.claims.filter((c) => c.differs).map((c) => c.label)),
  );
  return (
    <Screen className="compare" aria-busy={status === "running"}>
      <ScreenHead as="div">
        <h1>Does it hold?</h1>
        <p className="quiet">
          Every verdict with one thing changed at a time: interval, standard errors, centring,
          covariates, influential cases; with up to {thousands(ROBUST_RESAMPLES)} resamples each. A
          verdict that is only unsettled does not count as another one.
        </p>
      </ScreenHead>
      {problem && <Note role="alert">{problem.message}</Note>}
      <p className="compare-run">
        {status === "running" ? (
          <>
            <span aria-live="polite">
              {total === 0 ? "Resampling …" : `${specifications.length} of ${total} ways tried.`}
            </span>{" "}
            <Button onClick={cancel}>Stop</Button>
          </>
        ) : (
          <ButtonBase className={status === "idle" ? "button main" : "button"} onClick={start}>
            {status === "idle" ? "Try the other ways" : "Try again"}
          </ButtonBase>
        )}{" "}
        {old && <span>The study has changed since these ways were tried.</span>}
      </p>
      {specifications.length > 0 && (
        <>
          <p className="serif" hidden={status === "running"}>
            {specifications.length < total &&
              `Stopped after ${specifications.length} of ${total} ways. `}
            {differing.size === 0
              ? `All ${specifications.length < total ? "these " : ""}ways agree on ${evidence.hypotheses.length === 1 ? "the hypothesis" : `each of the ${evidence.hypotheses.length} hypotheses`}.`
              : `The verdict on ${[...differing].join(", ")} depends on the way; where it differs is marked.`}
          </p>
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
    <Wide label="Verdicts by way of analysing">
      <Table className="numbers robustness">
        <TableHead>
          <TableRow>
            <TableCell scope="col">way</TableCell>
            <TableCell scope="col">n</TableCell>
            {sentences.map(({ label, sentence }) => (
              <TableCell key={label} scope="col" title={sentence}>
                <strong>{label}</strong> {sentence}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {specifications.map((s) => (
            <TableRow key={s.name}>
              <TableCell>{s.name}</TableCell>
              <TableCell>{s.n ?? "–"}</TableCell>
              {s.problem && <TableCell colSpan={sentences.length}>{s.problem}</TableCell>}
              {s.claims.map((claim) => (
                <TableCell key={claim.label} className={claim.differs ? "differs" : undefined}>
                  <Interval claim={claim} scale={scales.get(claim.label)!} />
                  <VerdictMark verdict={claim.verdict} />
                </TableCell>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <p className="quiet">
        Intervals are drawn to one scale for each hypothesis; the line is zero.
      </p>
    </Wide>
  );
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
      <path className="zero" d={`M${scale(0)} 0V16`} />
      <path
        className="reach"
        d={`M${lower === null ? 0 : scale(lower)} 8H${upper === null ? WIDTH : scale(upper)}`}
      />
      <circle cx={scale(estimate)} cy={8} r={3.5} />
    </svg>
  );
}
