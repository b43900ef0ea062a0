import type { Expression } from "../model";
import type { Moderator } from "./probes";
import type { Quantity } from "./quantity";

/** What a sentence claims something about. */
export interface Claimed {
  /**
   * One quantity, or one for every code column where a categorical variable leaves the comparison
   * open.
   */
  quantities: Quantity[];
  /** The quantities only make sense together: a direction cannot be claimed of them. */
  joint: boolean;
  /** The categorical variable that leaves it open, and its levels. */
  open: { variable: string; levels: string[] } | null;
  /** Moderations only: the focal effect itself, averaged over the sample. */
  focal: Quantity[];
  /**
   * Moderations by one numeric variable: the focal effect as a function of it alone, others
   * averaged over the sample.
   */
  along: { moderator: Moderator; key: string; coefficients: Expression[] } | null;
}
