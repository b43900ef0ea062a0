import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import {
  completePlan,
  DEFAULT_SETTINGS,
  inThisThread,
  newDefinition,
  Planner,
  Simulator,
  type SimulationTask,
  type StudyPlan,
} from "../core";
import { amount } from "../core/test-kit";

/** Errors of a simulation go with the root of its samples; the tolerances are those of 2,000. */
const SAMPLES = amount(500, 2000);
const WIDER = Math.sqrt(2000 / SAMPLES);

const folder = new URL("./power-joint-significance/", import.meta.url);
const expected = JSON.parse(readFileSync(new URL("expected.json", folder), "utf8")) as {
  input: { a: number; b: number; c_prime: number; n: number };
  residual_variances: { mediator: number; outcome: number };
  power: Record<
    "joint_significance" | "percentile" | "bias_corrected",
    { exact?: number; exact_accuracy?: number; simulated?: number; tol_nsim_2000: number }
  >;
  joint_significance_curve_exact: Record<string, number>;
  sample_size: { target: number; n_exact: number; n_accept_low: number; n_accept_high: number };
  error_example: { input: { a: number; b: number; c_prime: number }; error: { code: string } };
};

const taskOf = (
  { a, b, c_prime }: { a: number; b: number; c_prime: number },
  more: Partial<StudyPlan>,
  interval: "bc" | "delta" = "delta",
): SimulationTask => ({
  study: {
    ...newDefinition(
      "power",
      ["x", "m", "y"].map((name) => ({ name, level: "continuous" as const })),
    ),
    theory: "H1: x raises y through m",
    settings: { ...DEFAULT_SETTINGS, interval },
  },
  plan: completePlan({
    sizes: [
      { from: ["x"], to: "m", size: a },
      { from: ["m"], to: "y", size: b },
      { from: ["x"], to: "y", size: c_prime },
    ],
    samples: SAMPLES,
    ...more,
  }),
  every: false,
});

describe("power of an indirect effect", () => {
  const { input, power, sample_size: smallest } = expected;

  it("of joint significance is exact", () => {
    const planner = new Planner(taskOf(input, {}), inThisThread);
    const { exact, exact_accuracy } = power.joint_significance;
    expect(Math.abs(planner.exactAt(input.n)[0]! - exact!)).toBeLessThan(exact_accuracy!);
    for (const [people, value] of Object.entries(expected.joint_significance_curve_exact))
      expect(Math.abs(planner.exactAt(Number(people))[0]! - value)).toBeLessThan(exact_accuracy!);
  });

  it("of the intervals agrees within the error of so many samples", async () => {
    const planner = new Planner(
      taskOf(input, { replications: amount(400, 1000) }, "bc"),
      inThisThread,
    );
    const [h1] = (await planner.evaluate(input.n)).sentences;
    const near = (
      found: number,
      { exact, simulated, tol_nsim_2000 }: (typeof power)["percentile"],
    ) => expect(Math.abs(found - (exact ?? simulated!))).toBeLessThan(WIDER * tol_nsim_2000);
    near(h1!.joint!.share, power.joint_significance);
    near(h1!.intervals.find((i) => i.kind === "percentile")!.power.share, power.percentile);
    near(h1!.power.share, power.bias_corrected);
  });

  it("finds the smallest number of people", async () => {
    const planner = new Planner(
      taskOf(input, {
        n: 110,
        target: smallest.target,
        replications: 0,
        samples: amount(250, 1000),
      }),
      inThisThread,
    );
    const found = await planner.smallest({ kind: "joint", label: "H1" });
    const slack = amount(2, 1);
    expect(found.people - smallest.n_exact).toBeGreaterThanOrEqual(
      slack * (smallest.n_accept_low - smallest.n_exact),
    );
    expect(found.people - smallest.n_exact).toBeLessThanOrEqual(
      slack * (smallest.n_accept_high - smallest.n_exact),
    );
    expect(found.range[0]).toBeLessThanOrEqual(smallest.n_exact);
    expect(found.range[1]).toBeGreaterThanOrEqual(smallest.n_exact);
  });

  it("does not exist where paths explain more than everything", () => {
    const { input: impossible, error } = expected.error_example;
    expect(() => new Simulator(taskOf(impossible, {}))).toThrow(
      expect.objectContaining({ code: error.code }),
    );
  });
});
