import { createRoutesStub } from "react-router";
import { beforeAll, describe, expect, it } from "vitest";
import {
  completePlan,
  DEFAULT_SETTINGS,
  inThisThread,
  newDefinition,
  percent,
  Planner,
  plain,
  shareWords,
  type PlanFound,
  type StudyDefinition,
} from "../../../core";
import { IDLE, type PlanningState } from "../../analysis/planning";
import { markupOf, textOf } from "../test-kit";
import { Results } from "./results";

const plan = completePlan({
  sizes: [
    { from: ["x"], to: "m", size: 0.4 },
    { from: ["m"], to: "y", size: 0.4 },
  ],
  n: 60,
  samples: 40,
  replications: 60,
});
const study: StudyDefinition = {
  ...newDefinition(
    "planned",
    ["x", "m", "y"].map((name) => ({ name, level: "continuous" as const })),
  ),
  unit: "gardeners",
  theory: "H1: x raises y through m\nH2: x raises m",
  settings: { ...DEFAULT_SETTINGS, level: 0.9, replications: 60, interval: "percentile" },
  plan,
};
const CLAIMS = ["x raises y through m", "x raises m"];

const state = (own: Partial<PlanningState>): PlanningState => ({
  ...IDLE,
  status: "done",
  question: { kind: "power", people: [40, 60] },
  ...own,
});

function shown(own: Partial<PlanningState>): string {
  const Stub = createRoutesStub([
    {
      path: "/",
      Component: () => (
        <Results
          definition={study}
          plan={plan}
          state={state(own)}
          planWith={() => undefined}
          claims={CLAIMS}
        />
      ),
    },
  ]);
  return markupOf(<Stub initialEntries={["/"]} />);
}

let points: PlanFound[] = [];
beforeAll(async () => {
  const planner = new Planner({ study, plan, every: true }, inThisThread);
  points = [];
  for (const people of [40, 60])
    points.push({ point: await planner.evaluate(people), exact: [0.5, null] });
});

describe("what a plan has found", () => {
  it("is the table of the number of people that was planned, with simulation errors", () => {
    const text = textOf(shown({ points }));
    const { point } = points[1]!;
    expect(text).toContain("60 gardeners, 40 samples");
    for (const s of point.sentences) {
      expect(text).toContain(shareWords(s.power));
      expect(text).toContain(shareWords(s.coverage!));
      expect(text).toContain(plain(s.truth));
      expect(text).toContain(plain(s.bias));
    }
    expect(text).toContain("90 % CI width");
    // Exact power stands where there is one.
    expect(text).toContain("Without simulation: 50.0 %");
  });

  it("is about the smallest sample where that was asked for", () => {
    const text = textOf(
      shown({
        points,
        question: { kind: "smallest", goal: { kind: "sentence", label: "H1" } },
        smallest: { people: 40, range: [36, 47] } as PlanningState["smallest"],
      }),
    );
    expect(text).toContain("40 gardeners, 40 samples");
    expect(text).toContain(
      `40 gardeners are the fewest for a power of ${percent(plan.target)} % of H1. The simulation cannot tell 36 to 47 from it.`,
    );
  });

  it("says so where no effect that is possible is large enough", () => {
    const text = textOf(
      shown({ points, question: { kind: "effect", label: "H1" }, noEffect: true }),
    );
    expect(text).toContain("With 60 gardeners no effect of H1 that is possible reaches a power of");
  });

  it("lists how every kind of interval would have done", () => {
    const html = shown({ points });
    const from = html.indexOf("Intervals with 60 gardeners");
    const rows = html
      .slice(from)
      .match(/<tbody.*?<\/tbody>/s)![0]
      .match(/<tr/g)!;
    const wanted = points[1]!.point.sentences.reduce((n, s) => n + s.intervals.length, 0);
    expect(rows).toHaveLength(wanted);
    expect(wanted).toBeGreaterThan(6);
  });

  it("warns that the study has changed since, and says what went wrong", () => {
    expect(textOf(shown({ points, old: true }))).toContain("The study has changed since");
    const problem = { message: "The sizes have no population." } as PlanningState["problem"];
    const html = shown({ problem });
    expect(html).toContain('role="alert"');
    expect(textOf(html)).toContain("The sizes have no population.");
  });

  it("draws a curve over people once there are two numbers of them", () => {
    expect(textOf(shown({ points: points.slice(1) }))).not.toContain("Power over the number");
    expect(textOf(shown({ points }))).toContain("Power over the number of gardeners");
  });
});
