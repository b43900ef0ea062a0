import { liveQuery } from "dexie";
import { useEffect, useRef } from "react";
import { useRevalidator } from "react-router";

/**
 * Runs the loaders again whenever what `query` reads has changed, also in another tab.
 * @param query reads a small value from the database; its first answer changes nothing
 */
export function useLive<T>(query: () => Promise<T>, key: string): void {
  const { revalidate } = useRevalidator();
  const latest = useRef({ query, revalidate });
  useEffect(() => {
    latest.current = { query, revalidate };
  });
  useEffect(() => {
    let before: string | null = null;
    const subscription = liveQuery(() => latest.current.query()).subscribe({
      next: (value) => {
        const now = JSON.stringify(value);
        if (before !== null && now !== before) void latest.current.revalidate();
        before = now;
      },
    });
    return () => subscription.unsubscribe();
  }, [key]);
}
