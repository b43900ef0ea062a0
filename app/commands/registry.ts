import { useEffect, useSyncExternalStore } from "react";

/** Something that can be done by its name, from anywhere. */
export interface Command {
  name: string;
  /** As shown; `shortcut` is what is listened for. */
  keys?: string;
  shortcut?: (event: KeyboardEvent) => boolean;
  /** False where it has nothing to do now: shown to nobody. */
  available?: boolean;
  run: () => void;
}

const groups = new Map<symbol, readonly Command[]>();
const listeners = new Set<() => void>();
let all: readonly Command[] = [];

function changed(): void {
  all = [...groups.values()].flat().filter((command) => command.available !== false);
  for (const notify of listeners) notify();
}

/**
 * Makes commands known for as long as the component is on screen. `commands` must be stable
 * (useMemo).
 */
export function useCommands(commands: readonly Command[]): void {
  useEffect(() => {
    const key = Symbol("commands");
    groups.set(key, commands);
    changed();
    return () => {
      groups.delete(key);
      changed();
    };
  }, [commands]);
}

const subscribe = (notify: () => void): (() => void) => {
  listeners.add(notify);
  return () => listeners.delete(notify);
};

/** Every command that is known now, in the order in which they were made known. */
export const useKnownCommands = (): readonly Command[] =>
  useSyncExternalStore(
    subscribe,
    () => all,
    () => all,
  );

/** Is this event meant for a field that is being typed into? */
export const isTyping = ({ target }: KeyboardEvent): boolean =>
  target instanceof HTMLElement &&
  (target.matches("input, textarea, select") || target.isContentEditable);

/** Listens for the shortcuts of all known commands. */
export function useShortcuts(): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const command = all.find((one) => one.shortcut?.(event));
      if (!command) return;
      event.preventDefault();
      command.run();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, []);
}
