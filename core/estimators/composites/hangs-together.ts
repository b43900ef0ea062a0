import type { CompositeConstruct } from "./types";

/**
 * Items that a construct is to explain, so that reliability, convergence and HTMT mean something;
 * where items are regressed on, they need not hang together, and a single item has no such figures.
 */
export const hangsTogether = ({ weighting }: Pick<CompositeConstruct, "weighting">): boolean =>
  weighting === "correlation" || weighting === "equal";
