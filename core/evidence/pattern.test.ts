import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../test-kit";

const n = 120;
const LEVELS = ["new", "old", "none"];
const [e, u] = [normals(n, 71), normals(n, 72)];
const arm = e.map((_, i) => LEVELS[i % 3]!);
/** What the three arms add, by their order above. */
const of = (by: readonly number[], i: number): number => by[i % 3]!;

/** People in three arms, whose mediator and outcome differ by these amounts. */
function study(
  onMediator: readonly number[],
  slope: number,
  onOutcome: readonly number[],
  settings: object = { interval: "delta" },
) {
  const m = e.map((v, i) => v + of(onMediator, i));
  const y = u.map((v, i) => v + slope * m[i]! + of(onOutcome, i));
  const { hypotheses } = analyseMade({
    columns: { arm, m, y },
    theory: "H1: arm affects y through m",
    variables: { arm: { level: "categorical" } },
    settings,
  });
  return hypotheses[0]!.pattern;
}

describe("the kind of mediation from several arms, whose effects are tested together", () => {
  const [NONE, SOME] = [
    [0, 0, 0],
    [2, 0, -2],
  ];
  it.each([
    ["both", SOME, 1, SOME],
    ["indirect_only", SOME, 1, NONE],
    ["direct_only", NONE, 0, SOME],
    ["no_effect", NONE, 0, NONE],
  ] as const)("is “%s”", (kind, onMediator, slope, onOutcome) => {
    expect(study(onMediator!, slope, onOutcome!)?.kind).toBe(kind);
    const settings = { interval: "percentile", replications: 400 };
    expect(study(onMediator!, slope, onOutcome!, settings)?.kind).toBe(kind);
  });
});

describe("means by group", () => {
  const means = (levels: readonly string[]) =>
    analyseMade({
      columns: { arm: e.map((_, i) => levels[i % levels.length]!), y: u },
      theory: "H1: arm affects y",
      variables: { arm: { level: levels.length === 2 ? "binary" : "categorical" } },
      settings: { interval: "delta" },
    }).groupMeans;

  it("say of two which is counted as one, and of several nothing of that", () => {
    expect(means(["a", "b"])).toMatchObject([
      { variable: "arm", outcome: "y", one: "b", groups: [{ n: 60 }, { n: 60 }] },
    ]);
    expect(means(["a", "b", "c"])).toMatchObject([{ one: null, groups: [{}, {}, {}] }]);
  });
});
