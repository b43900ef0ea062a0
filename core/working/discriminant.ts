import { plain } from "../evidence";
import type { WorkingStep } from "./types";

interface Pair {
  first: string;
  second: string;
  htmt: number | null;
  between: number;
  within: [number, number];
}

/**
 * Where the heterotrait-monotrait ratio of two constructs comes from: mean correlations of their
 * items.
 */
export const htmtSteps = (pairs: readonly Pair[]): WorkingStep[] =>
  pairs.flatMap(({ first, second, htmt, between, within: [a, b] }) =>
    htmt === null
      ? []
      : [
          {
            what: `HTMT of ${first} and ${second}`,
            formula: "mean |r| between / √(mean |r| within the first × mean |r| within the second)",
            numbers: `${plain(between, 4)} / √(${plain(a, 4)} × ${plain(b, 4)}) = ${plain(htmt)}`,
            source: "Henseler, Ringle & Sarstedt 2015, J Acad Mark Sci 43",
          },
        ],
  );
