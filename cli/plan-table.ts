import {
  percent,
  plain,
  thousands,
  type Goal,
  type PlanFound,
  type SimulatedShare,
  type SmallestSample,
  type StudyPlan,
} from "../core";

const share = (found: SimulatedShare | null): string =>
  found ? `${(100 * found.share).toFixed(1)} % ± ${(196 * found.se).toFixed(1)}` : "–";

/** One number of people as a table for the terminal. */
export function planTable(
  { point, exact }: PlanFound,
  tests: readonly ("t" | "joint" | null)[],
): string {
  const rows = [
    ["", "truth", "power", "joint significance", "exact", "coverage", "width", "bias"],
    ...point.sentences.map((s, j) => [
      s.label,
      plain(s.truth),
      share(s.power),
      share(s.joint),
      exact[j] === null || exact[j] === undefined
        ? "–"
        : `${percent(exact[j])} % (${tests[j] === "joint" ? "joint" : "t"})`,
      share(s.coverage),
      plain(s.width),
      plain(s.bias),
    ]),
  ];
  const widths = rows[0]!.map((_, j) => Math.max(...rows.map((row) => row[j]!.length)));
  const lines = rows.map((row) =>
    row
      .map((cell, j) => (j === 0 ? cell.padEnd(widths[j]!) : cell.padStart(widths[j]!)))
      .join("  "),
  );
  const failed = point.failed > 0 ? `, ${thousands(point.failed)} of them failed` : "";
  return [
    `${thousands(point.people)} people, ${thousands(point.samples)} samples${failed}; all sentences supported in ${share(point.all)}`,
    ...lines,
  ].join("\n");
}

/** What the search found, in a sentence. */
export function smallestWords(
  { people, range }: SmallestSample,
  goal: Goal,
  plan: StudyPlan,
): string {
  const [low, high] = range;
  const wanted =
    goal.kind === "width"
      ? `an interval of ${goal.label} no wider than ${plain(goal.most)} on average`
      : `a power of ${percent(plan.target)} %`;
  const about =
    low === high
      ? ""
      : ` The simulation cannot tell ${thousands(low)} to ${thousands(high)} from it.`;
  return `${thousands(people)} people are the fewest that reach ${wanted}.${about}`;
}
