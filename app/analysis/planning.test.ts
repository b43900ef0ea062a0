import { beforeEach, describe, expect, it, vi } from "vitest";
import {
  basisOf,
  completePlan,
  DEFAULT_SETTINGS,
  newDefinition,
  PieceMaker,
  PiecePool,
  Planner,
  inThisThread,
  Simulator,
  type PieceThread,
  type SimulationTask,
  type StudyDefinition,
  type StudyPlan,
} from "../../core";
import { attempt } from "../workers/attempt";
import { Planning, planningOf, type PlanningState } from "./planning";

/** Threads in this thread: the same work, a count of pieces, and a fault on demand. */
let pieces = 0;
let pools = 0;
let closed = 0;
let eachPiece: () => void | Promise<void> = () => undefined;

function thread(): PieceThread {
  const maker = new PieceMaker((task) => new Simulator(task));
  return {
    make: async (key, task, piece) => {
      pieces += 1;
      await eachPiece();
      return maker.make(key, structuredClone(task), piece);
    },
    end: () => void (closed += 1),
  };
}

vi.mock("../workers/planning-threads", () => ({
  planningPool: () => {
    pools += 1;
    return new PiecePool(thread, 1);
  },
  findBasis: async (task: SimulationTask) => attempt(() => basisOf(task)),
}));

const study = (plan: Partial<StudyPlan> = {}): StudyDefinition & { plan: StudyPlan } => ({
  ...newDefinition(
    "planned",
    ["x", "m", "y"].map((name) => ({ name, level: "continuous" as const })),
  ),
  theory: "H1: x raises y through m",
  settings: { ...DEFAULT_SETTINGS, replications: 60, interval: "percentile" },
  plan: completePlan({
    sizes: [
      { from: ["x"], to: "m", size: 0.4 },
      { from: ["m"], to: "y", size: 0.4 },
    ],
    n: 60,
    samples: 40,
    replications: 60,
    ...plan,
  }),
});

/** Every state told while something is done. */
async function watched(planning: Planning, task: () => Promise<void>): Promise<PlanningState[]> {
  const states: PlanningState[] = [];
  const off = planning.subscribe(() => states.push(planning.snapshot()));
  await task();
  off();
  return states;
}

beforeEach(() => {
  pieces = pools = closed = 0;
  eachPiece = () => undefined;
});

describe("a plan under way", () => {
  it("answers a question of power with the points of the planner itself, counting as they come", async () => {
    const planning = new Planning();
    const states = await watched(planning, () =>
      planning.ask(study(), { kind: "power", people: [80, 40] }),
    );
    const end = planning.snapshot();
    expect(end).toMatchObject({ status: "done", done: 80, total: 80, problem: null, old: false });
    expect(end.points.map((p) => p.point.people)).toEqual([40, 80]);
    const task: SimulationTask = { study: study(), plan: study().plan, every: true };
    const straight = new Planner(task, inThisThread);
    for (const { point } of end.points)
      expect(point).toEqual(await straight.evaluate(point.people));
    expect(states.at(-1)!.status).toBe("done");
    expect(states.slice(1, -1).every((s) => s.status === "running")).toBe(true);
    const counts = states.map((s) => s.done);
    expect(counts).toEqual([...counts].sort((a, b) => a - b));
    expect(pools).toBe(1);
    expect(closed).toBe(1);
  });

  it("makes nothing twice: a question asked again, or wider, adds only what is new", async () => {
    const planning = new Planning();
    await planning.ask(study(), { kind: "power", people: [40] });
    expect(pieces).toBe(2);
    await planning.ask(study(), { kind: "power", people: [40] });
    expect(pieces).toBe(2);
    await planning.ask(study(), { kind: "power", people: [40, 50] });
    expect(pieces).toBe(4);
    expect(planning.snapshot().points).toHaveLength(2);
  });

  it("keeps what came before it was stopped, and goes on from there", async () => {
    const planning = new Planning();
    const definition = study({ samples: 120 });
    eachPiece = () => {
      if (pieces === 4) planning.stop();
    };
    await planning.ask(definition, { kind: "power", people: [60] });
    const stopped = planning.snapshot();
    expect(stopped.status).toBe("stopped");
    expect(stopped.points[0]!.point.samples).toBe(60);
    expect(stopped.secondsLeft).toBeNull();
    eachPiece = () => undefined;
    planning.goOn(definition);
    await vi.waitFor(() => expect(planning.snapshot().status).toBe("done"));
    // The piece that was under way is made again, the three before it are not.
    expect(pieces).toBe(4 + 3);
    expect(planning.snapshot().points[0]!.point.samples).toBe(120);
  });

  it("marks what it found as old when the study changes, and as good again when it changes back", async () => {
    const planning = new Planning();
    planning.follow(study());
    expect(planning.snapshot().old).toBe(false);
    await planning.ask(study(), { kind: "power", people: [40] });
    planning.follow({ ...study(), title: "another title" });
    expect(planning.snapshot().old).toBe(false);
    planning.follow(study({ samples: 60 }));
    expect(planning.snapshot().old).toBe(true);
    planning.follow(study());
    expect(planning.snapshot().old).toBe(false);
  });

  it("stops when the study changes under it", async () => {
    const planning = new Planning();
    eachPiece = () => {
      if (pieces === 2) planning.follow(study({ samples: 60 }));
    };
    await planning.ask(study(), { kind: "power", people: [40] });
    expect(planning.snapshot()).toMatchObject({ status: "stopped", old: true });
    expect(pieces).toBe(2);
  });

  it("forgets what another state of the study gave when it is asked of the new one", async () => {
    const planning = new Planning();
    await planning.ask(study(), { kind: "power", people: [40] });
    await planning.ask(study({ samples: 20 }), { kind: "power", people: [50] });
    const { points } = planning.snapshot();
    expect(points.map((p) => [p.point.people, p.point.samples])).toEqual([[50, 20]]);
  });

  it("finds the smallest number of people whose power reaches the target", async () => {
    const planning = new Planning();
    const definition = study({ samples: 20, target: 0.6 });
    await planning.ask(definition, { kind: "smallest", goal: { kind: "sentence", label: "H1" } });
    const { smallest, points, status } = planning.snapshot();
    expect(status).toBe("done");
    const found = points.find((p) => p.point.people === smallest!.people)!;
    expect(found.point.sentences[0]!.power.share).toBeGreaterThanOrEqual(0.6);
  });

  it("finds the smallest effect, and says when there is none", async () => {
    const planning = new Planning();
    const definition = study({ samples: 20, n: 40, target: 0.5 });
    await planning.ask(definition, { kind: "effect", label: "H1" });
    const { effect, sizes, noEffect } = planning.snapshot();
    expect(noEffect).toBe(false);
    expect(effect!.factor).toBeGreaterThan(0);
    expect(sizes.map((s) => s.factor)).toEqual(
      [...sizes.map((s) => s.factor)].sort((a, b) => a - b),
    );
    await planning.ask(study({ samples: 20, n: 8 }), { kind: "effect", label: "H1" });
    expect(planning.snapshot()).toMatchObject({ noEffect: true, effect: null, status: "done" });
  });

  it("says in words what contradicts itself, and what broke", async () => {
    const planning = new Planning();
    const impossible = study({ sizes: [{ from: ["x"], to: "m", size: 1.4 }] });
    await planning.ask(impossible, { kind: "power", people: [40] });
    expect(planning.snapshot()).toMatchObject({
      status: "done",
      problem: { code: "impossible_paths" },
    });
    eachPiece = () => {
      throw new Error("out of memory");
    };
    await planning.ask(study(), { kind: "power", people: [40] });
    expect(planning.snapshot().problem).toMatchObject({
      code: "unexpected",
      message: "out of memory",
    });
    eachPiece = () => undefined;
    await planning.ask(study(), { kind: "power", people: [40] });
    expect(planning.snapshot()).toMatchObject({ status: "done", problem: null });
  });

  it("is the same for a study wherever it is asked for", () => {
    expect(planningOf("a")).toBe(planningOf("a"));
    expect(planningOf("a")).not.toBe(planningOf("b"));
  });
});
