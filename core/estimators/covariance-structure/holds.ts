import { StudyProblem } from "../../problems";
import type { ArrowRef, CompiledTheory, Hold } from "../../theory";
import { arrowName, type Arrow } from "./arrows";

/** Arrows of one group by what they are; both ends of a covariance are alike. */
export type ArrowTable = Map<string, Arrow>;

type Ends = Pick<Arrow, "kind" | "from" | "to">;

export const arrowKey = ({ kind, from, to }: Ends): string =>
  kind === "covariance"
    ? ["c", ...[from, to].sort()].join("\u0000")
    : [kind, from, to].join("\u0000");

export function arrowOf(ref: ArrowRef): Ends {
  if ("of" in ref)
    return ref.kind === "variance"
      ? { kind: "covariance", from: ref.of.name, to: ref.of.name }
      : { kind: "intercept", from: "", to: ref.of.name };
  return { kind: ref.kind, from: ref.from.name, to: ref.to.name };
}

/** A number that an arrow is held at, and the line that says so. */
interface Stated {
  value: number;
  line: number;
}

/**
 * Holds arrows at values and equal to one another, all lines together: their order, and which side
 * of “equal to” an arrow stands on, make no difference. Arrows that any lines connect are one set;
 * a number stated for one of them holds for all, and so does the number at which one of them stands
 * by itself, as the loading that scales a factor does, unless a line states another.
 * @param arrows written over
 * @throws StudyProblem `no_such_arrow` for an arrow that is not there to be held equal,
 *   `contradicting_holds` where two lines, or a line and what scales a factor, cannot both hold
 */
export function applyHolds(arrows: ArrowTable, holds: readonly Hold[]): void {
  const stated = new Map<string, Stated>();
  for (const { arrows: held, value, line } of holds) {
    if (value === null) continue;
    for (const ref of held) {
      const wanted = arrowOf(ref);
      const key = arrowKey(wanted);
      const before = stated.get(key);
      if (before && before.value !== value) contradiction(wanted, before, { value, line });
      stated.set(key, before ?? { value, line });
      arrows.set(key, { ...wanted, label: null, value });
    }
  }
  for (const set of setsOf(arrows, holds)) holdTogether(arrows, set, stated);
}

/**
 * Estimates arrows that would stand at a value by themselves, as the intercept of a latent variable.
 * @throws StudyProblem `no_such_arrow` for an arrow that is not there, `contradicting_holds` where
 *   another line holds it at a value
 */
export function applyFrees(
  arrows: ArrowTable,
  { frees, holds }: Pick<CompiledTheory, "frees" | "holds">,
): void {
  for (const { arrows: freed, line } of frees)
    for (const ref of freed) {
      const wanted = arrowOf(ref);
      const key = arrowKey(wanted);
      const arrow = arrows.get(key);
      const place = { line, variables: [wanted.to] };
      const name = arrowName(wanted);
      if (!arrow) throw new StudyProblem("no_such_arrow", { line, arrow: name }, place);
      const held = holds.find(
        (h) => h.value !== null && h.arrows.some((other) => arrowKey(arrowOf(other)) === key),
      );
      if (held)
        throw new StudyProblem("held_and_free", { arrow: name, line, held: held.line }, place);
      Object.assign(arrow, { label: name, value: 0 });
    }
}

/** Arrows that lines say are equal, directly or through others, with the last line that says so. */
interface EqualSet {
  keys: string[];
  line: number;
}

function setsOf(arrows: ArrowTable, holds: readonly Hold[]): EqualSet[] {
  const of = new Map<string, EqualSet>();
  for (const { arrows: held, value, line } of holds) {
    if (value !== null) continue;
    const keys = held.map((ref) => {
      const wanted = arrowOf(ref);
      const key = arrowKey(wanted);
      if (!arrows.has(key))
        throw new StudyProblem(
          "no_such_arrow",
          { line, arrow: arrowName(wanted) },
          { line, variables: [wanted.to] },
        );
      return key;
    });
    const joined = [...new Set(keys.flatMap((key) => of.get(key)?.keys ?? [key]))];
    const set = { keys: joined, line };
    for (const key of joined) of.set(key, set);
  }
  return [...new Set(of.values())];
}

function holdTogether(
  arrows: ArrowTable,
  { keys, line }: EqualSet,
  stated: ReadonlyMap<string, Stated>,
): void {
  const members = keys.map((key) => ({ arrow: arrows.get(key)!, said: stated.get(key) }));
  const numbers = members.flatMap(({ arrow, said }) => (said ? [{ arrow, ...said }] : []));
  const [first] = numbers;
  for (const other of numbers)
    if (other.value !== first!.value) contradiction(other.arrow, first!, other);
  const standing = members.filter(({ arrow, said }) => !said && arrow.label === null);
  const own = standing[0]?.arrow;
  if (!first)
    for (const { arrow } of standing)
      if (arrow.value !== own!.value)
        contradiction(arrow, { value: own!.value, line }, { value: arrow.value, line });
  const value = first?.value ?? own?.value ?? null;
  // The set goes by the name that comes first in any order.
  const label = value === null ? members.map(({ arrow }) => arrow.label!).sort()[0]! : null;
  for (const { arrow } of members) Object.assign(arrow, { label, value: value ?? 0 });
}

function contradiction(arrow: Ends, one: Stated, other: Stated): never {
  const [a, b] = one.line <= other.line ? [one, other] : [other, one];
  throw new StudyProblem(
    "contradicting_holds",
    { arrow: arrowName(arrow), line: a.line, value: a.value, other: b.line, otherValue: b.value },
    { line: b.line, variables: [arrow.to] },
  );
}
