import { liveQuery } from "dexie";
import { useEffect, useRef, useState } from "react";
import { useRevalidator } from "react-router";
import { keepingOf } from "./open";

/**
 * What a live query reads, and whether this tab itself wrote it: its own action has then run the
 * loaders already.
 */
export interface LiveValue {
  value: unknown;
  own?: boolean;
}

/**
 * Runs the loaders again whenever what `query` reads has been changed by others: another tab, a
 * worker.
 * @param query reads a small value from the database; its first answer changes nothing
 * @throws while rendering, when the database can no longer be read, so that the page says so
 */
export function useLive(query: () => Promise<LiveValue>, key: string): void {
  const { revalidate } = useRevalidator();
  const latest = useRef({ query, revalidate });
  const [fault, setFault] = useState<unknown>(null);
  useEffect(() => {
    latest.current = { query, revalidate };
  });
  useEffect(() => {
    let before: string | null = null;
    const subscription = liveQuery(() => latest.current.query()).subscribe({
      next: ({ value, own }) => {
        const now = JSON.stringify(value) ?? "";
        if (before !== null && now !== before && own !== true)
          void latest.current.revalidate().catch(setFault);
        before = now;
      },
      error: setFault,
    });
    return () => subscription.unsubscribe();
  }, [key]);
  // Where somebody else has taken the database over, what is open stays in sight.
  if (fault && keepingOf().kind !== "overtaken")
    throw fault instanceof Error ? fault : new Error("The database cannot be read.");
}
