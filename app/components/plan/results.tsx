import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMemo, useRef } from "react";
import {
  failedWords,
  INTERVAL_WORDS,
  percent,
  percentWords,
  plain,
  plannedWorking,
  planSentences,
  shareWords,
  thousands,
  togetherWords,
  type PlanFound,
  type SimulatedShare,
  type StudyDefinition,
  type StudyPlan,
} from "../../../core";
import type { PlanningState } from "../../analysis/planning";
import { FigureTools } from "../figure/figure-tools";
import { Plot } from "../figure/plot";
import { Disclosure } from "../ui/disclosure";
import { Note } from "../ui/layout";
import { NumberTable, type Cell } from "../ui/number-table";
import { powerPlot, type PowerCurve } from "./power-plot";

interface Props {
  definition: StudyDefinition;
  plan: StudyPlan;
  state: PlanningState;
  /** The sentences of the theory, in words. */
  claims: readonly string[];
  /** Takes a number of people that was found over into the plan. */
  planWith: (people: number) => void;
}

/** What the simulation has found so far: in sentences, as a table, as a curve. */
export function Results({ definition, plan, state, claims, planWith }: Props) {
  const { points, problem, smallest, sizes, question } = state;
  // The table is about what was asked last: the smallest sample that was found, else the planned
  // one.
  const wanted = question?.kind === "smallest" ? (smallest?.people ?? plan.n) : plan.n;
  const shown = points.find((p) => p.point.people === wanted) ?? points.at(-1) ?? null;
  return (
    <Box sx={{ opacity: state.old ? 0.55 : 1 }}>
      {problem && (
        <Note role="alert" severity="warning">
          {problem.message}
        </Note>
      )}
      {state.old && points.length > 0 && (
        <Note>The study has changed since; ask again for what it says now.</Note>
      )}
      <Answers {...{ definition, plan, state, planWith }} />
      {shown && <PointOf found={shown} {...{ definition, plan, claims }} />}
      <Box sx={{ display: "grid", gridTemplateColumns: { lg: "1fr 1fr" }, gap: 3, mt: 2 }}>
        {points.length > 1 && <OverPeople {...{ definition, plan, points }} />}
        {sizes.length > 1 && <OverSize {...{ definition, plan, state }} />}
      </Box>
    </Box>
  );
}

/** What was asked for, in a sentence to be read first. */
function Answers({ definition, plan, state, planWith }: Omit<Props, "claims">) {
  const { smallest, effect, noEffect, question } = state;
  const lines: string[] = [];
  if (smallest && question?.kind === "smallest") {
    const [low, high] = smallest.range;
    const goal =
      question.goal.kind === "width"
        ? `for an interval of ${question.goal.label} no wider than ${plain(question.goal.most)} on average`
        : `for a power of ${percent(plan.target)} % ${question.goal.kind === "all" ? "of all sentences together" : `of ${question.goal.kind === "joint" ? "joint significance of " : ""}${question.goal.label}`}`;
    lines.push(
      `${thousands(smallest.people)} ${definition.unit} are the fewest ${goal}.${low < high ? ` The simulation cannot tell ${thousands(low)} to ${thousands(high)} from it.` : ""}`,
    );
  }
  if (question?.kind === "effect" && effect)
    lines.push(
      `With ${thousands(plan.n)} ${definition.unit} the smallest effect of ${question.label} that is found with a power of ${percent(plan.target)} % is about ${plain(effect.effect)}: ${plain(effect.factor, 3)} times what is expected (power there ${shareWords(effect.power)}).`,
    );
  if (question?.kind === "effect" && noEffect)
    lines.push(
      `With ${thousands(plan.n)} ${definition.unit} no effect of ${question.label} that is possible reaches a power of ${percent(plan.target)} %.`,
    );
  const found = smallest && question?.kind === "smallest" && !state.old ? smallest.people : null;
  return (
    <>
      {lines.map((line) => (
        <Typography
          key={line}
          sx={{ fontFamily: "var(--serif)", fontSize: 21, my: 1, maxWidth: "70ch" }}
        >
          {line}
        </Typography>
      ))}
      {found !== null && found !== plan.n && (
        <Button onClick={() => planWith(found)}>
          Plan with {thousands(found)} {definition.unit}
        </Button>
      )}
    </>
  );
}

const shareCell = (share: SimulatedShare | null): Cell =>
  share ? { shown: shareWords(share), value: share.share } : null;

function PointOf({
  found,
  definition,
  plan,
  claims,
}: { found: PlanFound } & Omit<Props, "state" | "planWith">) {
  const { point, exact } = found;
  const sentences = planSentences(found, claims, plan.target, definition.unit);
  const together = togetherWords(found);
  const failed = failedWords(found);
  const { settings } = definition;
  return (
    <>
      <Box sx={{ fontFamily: "var(--serif)", my: 1.5, maxWidth: "90ch" }}>
        {sentences.map(({ label, text, enough }) => (
          <p key={label} style={{ margin: "0 0 6px" }}>
            <span aria-hidden style={{ color: enough ? "var(--petrol)" : "var(--rust)" }}>
              {enough ? "▲ " : "△ "}
            </span>
            {text}
          </p>
        ))}
        {together && <p style={{ margin: "0 0 6px" }}>{together}</p>}
        {failed && <p style={{ margin: "0 0 6px", color: "var(--rust)" }}>{failed}</p>}
      </Box>
      <NumberTable
        title={`Power with ${point.people} ${definition.unit}`}
        heading={
          <Typography variant="h3">
            {thousands(point.people)} {definition.unit}, {thousands(point.samples)} samples
          </Typography>
        }
        columns={[
          "hypothesis",
          "effect in the population",
          "power",
          "exact power",
          "joint significance",
          "coverage",
          `${percent(settings.level)} % CI width`,
          "bias",
          "SD over samples",
          "mean SE",
        ]}
        rows={point.sentences.map((s, j) => ({
          key: s.label,
          working: () => plannedWorking(found, j, settings.level),
          cells: [
            s.label,
            s.truth,
            shareCell(s.power),
            exact[j] === null || exact[j] === undefined
              ? null
              : { shown: percentWords(exact[j]), value: exact[j] },
            shareCell(s.joint),
            shareCell(s.coverage),
            s.width,
            s.bias,
            s.sd,
            s.meanSe,
          ],
        }))}
        note={`Power: supported by the ${INTERVAL_WORDS[settings.interval]} interval${settings.tail === "one" ? ", one-tailed where a direction is claimed" : ""}. Exact power: of the t test of a path, or of joint significance, where variables are normal. Shares with 1.96 simulation errors. Effects in the units of the data, where what has none is in SDs.`}
      />
      <Disclosure summary="Would each kind of interval have covered?">
        <NumberTable
          title={`Intervals with ${point.people} ${definition.unit}`}
          columns={["hypothesis", "interval", "coverage", "power", "width"]}
          words={[1]}
          rows={point.sentences.flatMap((s) =>
            s.intervals.map((i) => ({
              key: `${s.label} ${i.kind}`,
              cells: [
                s.label,
                INTERVAL_WORDS[i.kind]!,
                shareCell(i.coverage),
                shareCell(i.power),
                i.width,
              ],
            })),
          )}
          note={`How often an interval at ${percent(settings.level)} % held the effect of the population, excluded zero, and how wide it was on average.`}
        />
      </Disclosure>
    </>
  );
}

/** Every sentence, and all of them together, over the numbers of people that were simulated. */
function OverPeople({
  definition,
  plan,
  points,
}: Pick<Props, "definition" | "plan"> & { points: readonly PlanFound[] }) {
  const figure = useRef<HTMLDivElement>(null);
  const curves = useMemo((): PowerCurve[] => {
    const labels = points[0]!.point.sentences.map((s) => s.label);
    const own = labels.map((label, j): PowerCurve => ({
      label,
      points: points.map(({ point }) => ({ x: point.people, power: point.sentences[j]!.power })),
      exact: points.flatMap(({ point, exact }) =>
        exact[j] === null || exact[j] === undefined ? [] : [{ x: point.people, y: exact[j] }],
      ),
    }));
    const all = {
      label: "all",
      points: points.map(({ point }) => ({ x: point.people, power: point.all })),
      exact: [],
    };
    return labels.length > 1 ? [...own, all] : own;
  }, [points]);
  const make = useMemo(
    () => powerPlot(curves, plan.target, definition.unit),
    [curves, plan.target, definition.unit],
  );
  return (
    <Box>
      <Typography variant="h3">Power over the number of {definition.unit}</Typography>
      <div ref={figure}>
        <Plot label={`Power over ${definition.unit}`} height={300} make={make} />
      </div>
      <FigureTools
        target={figure}
        name={`${definition.title}, power over ${definition.unit}`}
        caption={`Share of ${thousands(plan.samples)} simulated samples in which each hypothesis is supported, with 1.96 simulation errors; dashed: ${percent(plan.target)} %. Thin lines: exact power.`}
        numbers={() => [
          {
            title: "Power",
            head: ["hypothesis", definition.unit, "power", "simulation error"],
            rows: curves.flatMap((c) =>
              c.points.map((p) => [c.label, p.x, p.power.share, p.power.se]),
            ),
          },
        ]}
      />
    </Box>
  );
}

function OverSize({ definition, plan, state }: Omit<Props, "claims" | "planWith">) {
  const figure = useRef<HTMLDivElement>(null);
  const { sizes, question } = state;
  const label = question?.kind === "effect" ? question.label : "";
  const curves = useMemo((): PowerCurve[] => {
    const points = sizes.flatMap(({ found }) => {
      const s = found.point.sentences.find((one) => one.label === label);
      return s && s.truth !== null ? [{ x: s.truth, power: s.power }] : [];
    });
    return [{ label, points, exact: [] }];
  }, [sizes, label]);
  const make = useMemo(
    () => powerPlot(curves, plan.target, "effect in the population"),
    [curves, plan.target],
  );
  if (curves[0]!.points.length < 2) return null;
  return (
    <Box>
      <Typography variant="h3">Power of {label} over its size</Typography>
      <div ref={figure}>
        <Plot label={`Power of ${label} over its size`} height={300} make={make} />
      </div>
      <FigureTools
        target={figure}
        name={`${definition.title}, power of ${label} over size`}
        caption={`Power of ${label} with ${thousands(plan.n)} ${definition.unit} over the size of its effect, with 1.96 simulation errors; dashed: ${percent(plan.target)} %.`}
        numbers={() => [
          {
            title: "Power",
            head: ["effect", "power", "simulation error"],
            rows: curves[0]!.points.map((p) => [p.x, p.power.share, p.power.se]),
          },
        ]}
      />
    </Box>
  );
}
