import type { StudyDefinition } from "../../core";

const pendingKey = (id: string): string => `hebel-pending ${id}`;

type Patch = Partial<StudyDefinition>;

/** A change, with what it started from. */
export interface Change {
  patch: Patch;
  base: Patch;
}

/**
 * A change that is about to be written, and those before it, the oldest first, that may not have
 * been stored yet.
 */
export interface Pending extends Change {
  earlier?: Change[];
}

/**
 * The change that a note stands for when it meets a stored study. Writes that were on their way
 * when the tab closed may have been stored or not: where the study stands as one of them found it,
 * it is this tab's own state, and everything from there on is written; what stands there otherwise
 * comes from elsewhere, and is left to be merged.
 */
export function resumed({ patch, base, earlier = [] }: Pending, stored: Patch): Change {
  const whole: Patch = Object.assign({}, ...earlier.map((e) => e.patch), patch);
  const keys = Object.keys(whole) as (keyof StudyDefinition)[];
  const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
  const from = (key: keyof StudyDefinition): unknown => {
    const starts = [...earlier.map((e) => e.base), base].filter((b) => key in b);
    const own = starts.find((b) => same(b[key], stored[key]));
    return (own ?? starts.at(-1) ?? {})[key];
  };
  return {
    patch: whole,
    base: Object.fromEntries(
      keys.flatMap((key) => {
        const value = from(key);
        return value === undefined ? [] : [[key, value]];
      }),
    ),
  };
}

/**
 * Notes a change at once: a tab closed in that moment loses nothing. Without room for the note the
 * database has to do.
 */
export function notePending(id: string, pending: Pending): void {
  try {
    localStorage.setItem(pendingKey(id), JSON.stringify(pending));
  } catch {
    // A full or forbidden store: the change is written a moment later anyway, and that says so when
    // it fails.
  }
}

/** Forgets the note once that change is stored; a newer one stays. */
export function clearPending(id: string, patch: Patch): void {
  const noted = read(id);
  if (noted && JSON.stringify(noted.patch) === JSON.stringify(patch)) forgetPending(id);
}

/** Takes the note that a closed tab left behind; null where there is none that can be read. */
export function takePending(id: string): Pending | null {
  const noted = read(id);
  forgetPending(id);
  return noted;
}

function forgetPending(id: string): void {
  try {
    localStorage.removeItem(pendingKey(id));
  } catch {
    // Where nothing can be kept nothing has to be forgotten.
  }
}

function read(id: string): Pending | null {
  try {
    const noted: unknown = JSON.parse(localStorage.getItem(pendingKey(id)) ?? "null");
    if (typeof noted !== "object" || noted === null) return null;
    // Notes of earlier versions were the change alone.
    return "patch" in noted ? (noted as Pending) : { patch: noted as Patch, base: {} };
  } catch {
    return null;
  }
}
