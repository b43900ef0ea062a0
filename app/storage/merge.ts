import { diff3Merge } from "node-diff3";
import type { Settings, StudyDefinition } from "../../core";

type Patch = Partial<StudyDefinition>;

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

export interface Merged {
  /** What to write: this tab's changes together with those that another tab has made meanwhile. */
  patch: Patch;
  /** This tab's version of what both have changed; the other's stands, since it was first. */
  lost: Patch | null;
}

/**
 * Brings together what two tabs have made of one state of a study: sentences by lines, settings one
 * by one, everything else whole.
 * @param base what this tab's changes started from; @param mine the changes; @param theirs the
 *   study as it is stored
 */
export function mergePatch(base: Patch, mine: Patch, theirs: StudyDefinition): Merged {
  const patch: Patch = {};
  const lost: Patch = {};
  for (const key of Object.keys(mine) as (keyof StudyDefinition)[]) {
    const [was, my, their] = [base[key], mine[key], theirs[key]];
    if (same(their, was) || same(their, my)) Object.assign(patch, { [key]: my });
    else if (key === "theory") {
      const text = mergedLines(String(was ?? ""), mine.theory!, theirs.theory);
      if (text === null) lost.theory = mine.theory!;
      else patch.theory = text;
    } else if (key === "settings") {
      const settings = mergedSettings(
        base.settings ?? theirs.settings,
        mine.settings!,
        theirs.settings,
      );
      patch.settings = settings.merged;
      if (settings.lost) lost.settings = mine.settings!;
    } else Object.assign(lost, { [key]: my });
  }
  return { patch, lost: Object.keys(lost).length > 0 ? lost : null };
}

/**
 * Lines that both have put at the same place stand one after the other.
 * @returns null where both have changed the same lines
 */
function mergedLines(base: string, mine: string, theirs: string): string | null {
  const parts = diff3Merge(mine.split("\n"), base.split("\n"), theirs.split("\n"), {
    excludeFalseConflicts: true,
  });
  const lines: string[] = [];
  for (const { ok, conflict } of parts) {
    if (ok) lines.push(...ok);
    else if (conflict && conflict.o.length === 0) lines.push(...conflict.b, ...conflict.a);
    else return null;
  }
  return lines.join("\n");
}

function mergedSettings(
  base: Settings,
  mine: Settings,
  theirs: Settings,
): { merged: Settings; lost: boolean } {
  let lost = false;
  const merged = { ...theirs };
  for (const key of Object.keys(mine) as (keyof Settings)[]) {
    if (same(mine[key], base[key]) || same(mine[key], theirs[key])) continue;
    if (same(theirs[key], base[key])) Object.assign(merged, { [key]: mine[key] });
    else lost = true;
  }
  return { merged, lost };
}
