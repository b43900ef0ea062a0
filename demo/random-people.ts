import { RandomStream } from "../core/numerics/random";

/** One person of the language café, before answers go missing. */
export interface Person {
  id: string;
  group: string;
  hours: number;
  age: number;
  months: number;
  schooling: string;
  conf: number[];
  sup: number[];
  bel: number[];
  friends: number;
  renewed: string;
}

/**
 * The known truth behind the demo study. Hours raise confidence, more so where neighbours support
 * (an interaction); confidence raises belonging (an indirect effect of hours of about 0.05);
 * confidence brings friends, and friends a little belonging; months in the country do nothing to
 * belonging, whatever the demo's H4 says (a false hypothesis).
 */
export const TRUTH = {
  hoursToConfidence: 0.19,
  supportToConfidence: 0.25,
  interaction: 0.12,
  confidenceToBelonging: 0.32,
  hoursToBelonging: 0.02,
  friendsToBelonging: 0.05,
  confidenceToFriends: 0.22,
  monthsToBelonging: 0,
};

const GROUPS = ["waiting list", "weekly cafe", "cafe with partner"];
const SCHOOLING = ["primary", "secondary", "vocational", "university"];

const clamp = (value: number, low: number, high: number): number =>
  Math.min(high, Math.max(low, value));
const likert = (value: number): number => clamp(Math.round(value), 1, 5);
const tenth = (value: number): number => Math.round(value * 10) / 10;

/** Simulates `n` people from the known truth; the same seed gives the same people. */
export function simulatePeople(n: number, seed: number): Person[] {
  return Array.from({ length: n }, (_, i) => person(i, new RandomStream(seed, i)));
}

function person(i: number, random: RandomStream): Person {
  const groupAt = i % 3;
  const hours = tenth(clamp(1.7 + 0.9 * groupAt + 1.25 * random.normal(), 0, 7));
  const age = Math.round(clamp(36 + 11 * random.normal(), 18, 71));
  const months = Math.round(clamp(-22 * Math.log(random.uniform()), 1, 96));
  const support = 3.3 + 0.75 * random.normal();
  const t = TRUTH;
  const confidence =
    3.1 +
    t.hoursToConfidence * (hours - 2.6) +
    t.supportToConfidence * (support - 3.3) +
    t.interaction * (hours - 2.6) * (support - 3.3) +
    0.003 * (months - 22) -
    0.006 * (age - 36) +
    0.62 * random.normal();
  const friends = poisson(
    Math.exp(0.85 + t.confidenceToFriends * (confidence - 3.1) + 0.004 * (months - 22)),
    random,
  );
  const belonging =
    3.2 +
    t.confidenceToBelonging * (confidence - 3.1) +
    t.hoursToBelonging * (hours - 2.6) +
    t.friendsToBelonging * (friends - 2.4) +
    0.004 * (age - 36) +
    t.monthsToBelonging * months +
    0.6 * random.normal();
  const items = (construct: number, count: number, noise: number): number[] =>
    Array.from({ length: count }, () => likert(construct + noise * random.normal()));
  const conf = items(confidence, 4, 0.55);
  conf[2] = 6 - conf[2]!;
  const renews = 1 / (1 + Math.exp(-(-0.3 + 0.9 * (belonging - 3.2) + 0.25 * (hours - 2.6))));
  return {
    id: `P${String(i + 1).padStart(3, "0")}`,
    group: GROUPS[groupAt]!,
    hours,
    age,
    months,
    schooling: SCHOOLING[Math.floor(random.uniform() ** 0.8 * 4)]!,
    conf,
    sup: items(support, 4, 0.6),
    bel: items(belonging, 5, 0.55),
    friends,
    renewed: random.uniform() < renews ? "yes" : "no",
  };
}

function poisson(rate: number, random: RandomStream): number {
  const floor = Math.exp(-rate);
  let count = 0;
  for (let product = random.uniform(); product > floor; product *= random.uniform()) count += 1;
  return count;
}
