import { useSyncExternalStore } from "react";

/** Samples while somebody tries something: enough to see where a limit lies. */
export const SAMPLES_WHILE_TRYING = 1_000;

const KEY = "hebel.fewer-samples";
const listeners = new Set<() => void>();
let chosen: boolean | null = null;

/** Whether this browser draws fewer samples until the report, or somebody, asks for all. */
export function fewerWhileTrying(): boolean {
  try {
    chosen ??= localStorage.getItem(KEY) === "yes";
  } catch {
    // A browser that forbids storage keeps the choice for this tab.
    chosen ??= false;
  }
  return chosen;
}

export function chooseFewerWhileTrying(fewer: boolean): void {
  chosen = fewer;
  try {
    if (fewer) localStorage.setItem(KEY, "yes");
    else localStorage.removeItem(KEY);
  } catch {
    // As above.
  }
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

export const useFewerWhileTrying = (): boolean =>
  useSyncExternalStore(subscribe, fewerWhileTrying, () => false);
