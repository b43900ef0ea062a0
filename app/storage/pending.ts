import type { StudyDefinition } from "../../core";

const pendingKey = (id: string): string => `hebel-pending ${id}`;

/** A change that is about to be written, with what it started from. */
export interface Pending {
  patch: Partial<StudyDefinition>;
  base: Partial<StudyDefinition>;
}

/** Notes a change at once: a tab closed in that moment loses nothing. Without room for the note the database has to do. */
export function notePending(id: string, pending: Pending): void {
  try {
    localStorage.setItem(pendingKey(id), JSON.stringify(pending));
  } catch {
    // A full or forbidden store: the change is written a moment later anyway, and that says so when it fails.
  }
}

/** Forgets the note once that change is stored; a newer one stays. */
export function clearPending(id: string, patch: Partial<StudyDefinition>): void {
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
    return "patch" in noted
      ? (noted as Pending)
      : { patch: noted as Partial<StudyDefinition>, base: {} };
  } catch {
    return null;
  }
}
