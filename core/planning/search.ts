import { phi, zQuantile } from "../numerics/distributions";
import { StudyProblem } from "../problems";
import type { PlannedPoint, SimulatedShare } from "./results";

/** What a smallest number of people is searched for. */
export type Goal =
  | { kind: "sentence"; label: string }
  | { kind: "joint"; label: string }
  | { kind: "all" }
  | { kind: "width"; label: string; most: number };

/**
 * The smallest number of people that reaches a goal, and the numbers that the simulation cannot
 * tell from it.
 */
export interface SmallestSample {
  people: number;
  range: [low: number, high: number];
  points: PlannedPoint[];
}

/** Nobody plans for more. */
export const MOST_PEOPLE = 20_000;
const LEAST_PEOPLE = 10;

/** What of a point a goal looks at: a share to be reached, or a width not to be passed. */
export function reached(point: PlannedPoint, goal: Goal, target: number): boolean {
  if (goal.kind !== "width") return (shareAt(point, goal)?.share ?? 0) >= target;
  const width = point.sentences.find((s) => s.label === goal.label)?.width;
  return width !== null && width !== undefined && width <= goal.most;
}

export function shareAt(
  point: PlannedPoint,
  goal: Exclude<Goal, { kind: "width" }>,
): SimulatedShare | null {
  if (goal.kind === "all") return point.all;
  const sentence = point.sentences.find((s) => s.label === goal.label);
  return (goal.kind === "joint" ? sentence?.joint : sentence?.power) ?? null;
}

/**
 * The smallest number of people, by doubling until the goal is reached and then bisection. Every
 * number of people has its own fixed samples, so the search finds the same again.
 * @param evaluate simulates so many people
 * @throws StudyProblem `target_not_reached`
 */
export async function smallestSample(
  goal: Goal,
  target: number,
  start: number,
  evaluate: (people: number) => Promise<PlannedPoint>,
): Promise<SmallestSample> {
  const points = new Map<number, PlannedPoint>();
  const passes = async (people: number): Promise<boolean> => {
    const point = points.get(people) ?? (await evaluate(people));
    points.set(people, point);
    return reached(point, goal, target);
  };
  let high = Math.min(MOST_PEOPLE, Math.max(LEAST_PEOPLE, Math.round(start)));
  let low = LEAST_PEOPLE - 1;
  while (!(await passes(high))) {
    if (high === MOST_PEOPLE)
      throw new StudyProblem("target_not_reached", {
        most: high,
        power: goal.kind === "width" ? 0 : (shareAt(points.get(high)!, goal)?.share ?? 0),
      });
    low = high;
    high = Math.min(MOST_PEOPLE, high * 2);
  }
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (await passes(middle)) high = middle;
    else low = middle;
  }
  const all = [...points.values()].sort((a, b) => a.people - b.people);
  return { people: high, range: compatible(all, goal, target, high), points: all };
}

/** The smallest effect that is found with the wanted power: all its steps times a factor. */
export interface SmallestEffect {
  factor: number;
  /** In the units of the data. */
  effect: number | null;
  power: SimulatedShare;
}

/** Factors between which a smallest effect is looked for, and how closely. */
const FACTORS = { least: 0.02, most: 8, close: 1.02 } as const;

/**
 * The smallest multiple of an expected effect whose power reaches the target, by bisection of the
 * factor. Every factor uses the same random numbers, so power grows with it nearly without a step
 * back.
 * @returns null where even the largest factor that a population allows falls short
 */
export async function smallestEffect(
  label: string,
  target: number,
  evaluate: (factor: number) => Promise<PlannedPoint | null>,
): Promise<SmallestEffect | null> {
  const read = (point: PlannedPoint, factor: number): SmallestEffect => {
    const sentence = point.sentences.find((s) => s.label === label)!;
    return { factor, effect: sentence.truth, power: sentence.power };
  };
  let best: SmallestEffect | null = null;
  let [low, high]: [number, number] = [FACTORS.least, FACTORS.most];
  for (let factor = 1; high / low > FACTORS.close; factor = Math.sqrt(low * high)) {
    const point = await evaluate(factor);
    // A factor that no population has is too large.
    const found = point && read(point, factor);
    if (!found || found.power.share >= target) {
      if (found) best = found;
      high = factor;
    } else low = factor;
  }
  return best;
}

/**
 * Numbers of people whose power the simulation cannot tell from the target. On the scale of normal
 * quantiles power is nearly a straight line in the root of the number of people; it is fitted to
 * the points by their simulation errors, and read at the target with the error of the line.
 */
function compatible(
  points: readonly PlannedPoint[],
  goal: Goal,
  target: number,
  found: number,
): [number, number] {
  if (goal.kind === "width") return [found, found];
  const used = points.flatMap((p) => {
    const share = shareAt(p, goal);
    if (!share || share.share < 0.02 || share.share > 0.995) return [];
    const z = zQuantile(share.share);
    const se = Math.max(share.se, 0.5 / share.samples) / phi(z);
    return [{ x: Math.sqrt(p.people), z, weight: 1 / (se * se) }];
  });
  if (used.length < 3) return [found, found];
  const total = used.reduce((s, p) => s + p.weight, 0);
  const mx = used.reduce((s, p) => s + p.weight * p.x, 0) / total;
  const mz = used.reduce((s, p) => s + p.weight * p.z, 0) / total;
  const sxx = used.reduce((s, p) => s + p.weight * (p.x - mx) ** 2, 0);
  const slope = used.reduce((s, p) => s + p.weight * (p.x - mx) * (p.z - mz), 0) / sxx;
  if (!(slope > 0)) return [found, found];
  const x = mx + (zQuantile(target) - mz) / slope;
  // Points near each other share most of what the line takes from them, so the error of one point
  // is the honest one.
  const nearest = used.reduce((a, b) => (Math.abs(b.x - x) < Math.abs(a.x - x) ? b : a));
  const reach = 1.96 / Math.sqrt(nearest.weight) / slope;
  const at = (root: number): number => Math.max(LEAST_PEOPLE, root * root);
  return [Math.min(found, Math.floor(at(x - reach))), Math.max(found, Math.ceil(at(x + reach)))];
}
