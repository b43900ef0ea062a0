import { StudyProblem, type ProblemPlace } from "../problems";
import type { Moderation, Statement } from "./syntax";

/** A step of the model and the moderators that act on it: one, or two jointly. */
export interface ModeratedStep {
  from: string;
  to: string;
  moderators: string[];
}

/** The variables along the path that a moderation is about. */
export const nodesOf = (m: Moderation): string[] => [
  m.from.name,
  ...m.chain.map((r) => r.name),
  m.to.name,
];

const stepsAlong = (nodes: string[]): { from: string; to: string }[] =>
  nodes.slice(1).map((to, i) => ({ from: nodes[i]!, to }));
const key = (from: string, to: string): string => `${from}\u0000${to}`;

/**
 * Which steps each moderation acts on: those it names, else the only step of its path, else the
 * steps of its path that other sentences say the same moderators act on.
 * @throws StudyProblem `notation` when that leaves it open, with the sentences that would settle it
 */
export function moderatedSteps(statements: readonly Statement[]): {
  steps: ModeratedStep[];
  of: Map<Moderation, ModeratedStep[]>;
} {
  const moderations = statements.filter((s) => s.kind === "moderation");
  const of = new Map<Moderation, ModeratedStep[]>();
  for (const m of moderations) {
    const moderators = m.moderators.map((r) => r.name);
    const path = stepsAlong(nodesOf(m));
    for (const { from, to } of m.steps) {
      if (
        !path.some((p) => p.from === from.name && p.to === to.name) &&
        !(from.name === m.from.name && to.name === m.to.name)
      ) {
        throw new StudyProblem(
          "no_such_step",
          { line: m.line, from: from.name, to: to.name, nodes: nodesOf(m) },
          placeOf(m),
        );
      }
    }
    const named = m.steps.map((s) => ({ from: s.from.name, to: s.to.name, moderators }));
    if (named.length > 0) of.set(m, named);
    else if (path.length === 1) of.set(m, [{ ...path[0]!, moderators }]);
  }
  for (const m of moderations) {
    if (of.has(m)) continue;
    const moderators = m.moderators.map((r) => r.name);
    const path = stepsAlong(nodesOf(m));
    const told = [...of.values()]
      .flat()
      .filter(
        (s) =>
          s.moderators.join() === moderators.join() &&
          path.some((p) => key(p.from, p.to) === key(s.from, s.to)),
      );
    if (told.length === 0) {
      throw new StudyProblem("which_step", { line: m.line, moderators, steps: path }, placeOf(m));
    }
    of.set(m, told);
  }
  const steps = new Map<string, ModeratedStep>();
  for (const step of [...of.values()].flat()) {
    if (new Set(step.moderators).size < step.moderators.length) {
      const [name] = step.moderators;
      throw new StudyProblem(
        "moderator_with_itself",
        { name: name! },
        { variables: step.moderators },
      );
    }
    for (const name of step.moderators) {
      if (name === step.to || (name === step.from && step.moderators.length > 1)) {
        throw new StudyProblem(
          "moderator_of_own_step",
          { name, from: step.from, to: step.to },
          {
            variables: [name],
          },
        );
      }
    }
    steps.set([step.from, step.to, ...step.moderators].join("\u0000"), step);
  }
  return { steps: [...steps.values()], of };
}

const placeOf = (m: Moderation): ProblemPlace => ({
  line: m.line,
  variables: m.moderators.map((r) => r.name),
});

/**
 * Products that an equation needs for the steps into its outcome, lower orders first; each is named
 * once.
 */
export function productsOf(steps: readonly ModeratedStep[], outcome: string): string[][] {
  const found: string[][] = [];
  const add = (names: string[]): void => {
    const same = (other: string[]): boolean =>
      [...other].sort().join("\u0000") === [...names].sort().join("\u0000");
    if (!found.some(same)) found.push(names);
  };
  const own = steps.filter((s) => s.to === outcome);
  for (const { from, moderators } of own) for (const w of moderators) add([from, w]);
  for (const { moderators } of own) if (moderators.length === 2) add(moderators);
  for (const { from, moderators } of own) if (moderators.length === 2) add([from, ...moderators]);
  return found;
}
