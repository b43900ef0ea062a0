/** A directed path from one variable to another. */
export interface Path {
  from: string;
  to: string;
}

/**
 * The first cycle found, as the names in order with the first repeated at the end; null when there
 * is none.
 */
export function findCycle(paths: readonly Path[]): string[] | null {
  const next = new Map<string, string[]>();
  for (const { from, to } of paths) next.set(from, [...(next.get(from) ?? []), to]);
  const state = new Map<string, "open" | "done">();
  const trail: string[] = [];
  const visit = (node: string): string[] | null => {
    if (state.get(node) === "done") return null;
    if (state.get(node) === "open") return [...trail.slice(trail.indexOf(node)), node];
    state.set(node, "open");
    trail.push(node);
    for (const target of next.get(node) ?? []) {
      const cycle = visit(target);
      if (cycle) return cycle;
    }
    trail.pop();
    state.set(node, "done");
    return null;
  };
  for (const node of next.keys()) {
    const cycle = visit(node);
    if (cycle) return cycle;
  }
  return null;
}

/**
 * Every directed path from x to y in an acyclic graph, shorter ones first, each as the list of its
 * variables. Paths of equal length keep the order in which their steps were stated.
 */
export function pathsBetween(paths: readonly Path[], x: string, y: string): string[][] {
  const found: string[][] = [];
  const walk = (trail: string[]): void => {
    const here = trail[trail.length - 1]!;
    if (here === y) {
      found.push(trail);
      return;
    }
    for (const { from, to } of paths) if (from === here) walk([...trail, to]);
  };
  walk([x]);
  return found.sort((a, b) => a.length - b.length);
}

/** Variables in an order in which every path points forward. */
export function topologicalOrder(names: readonly string[], paths: readonly Path[]): string[] {
  const order: string[] = [];
  const left = new Set(names);
  while (left.size > 0) {
    const free = [...left].filter(
      (name) => !paths.some((p) => p.to === name && left.has(p.from) && p.from !== name),
    );
    if (free.length === 0) return [...order, ...left];
    for (const name of free) {
      order.push(name);
      left.delete(name);
    }
  }
  return order;
}
