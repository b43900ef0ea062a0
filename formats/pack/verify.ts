/** One number, or word, that is not what it was. */
export interface Difference {
  /** Where it stands: `effects[3].shown.lower`. */
  path: string;
  kept: string;
  now: string;
}

export interface Verification {
  /** Numbers that were compared, by the first part of their path. */
  numbers: Map<string, number>;
  differences: Difference[];
}

/** Says what a run is and when, not what was found. */
const LEFT_OUT = new Set(["engine"]);

/**
 * Compares what was found with what was kept, to the last digit.
 * @param kept,now plain data, as JSON gives them
 */
export function verify(kept: unknown, now: unknown): Verification {
  const out: Verification = { numbers: new Map(), differences: [] };
  const count = (path: string): void => {
    const part = /^[^.[]*/.exec(path)![0];
    out.numbers.set(part, (out.numbers.get(part) ?? 0) + 1);
  };
  const walk = (a: unknown, b: unknown, path: string): void => {
    if (typeof a === "number" || typeof b === "number") count(path);
    if (typeof a === "object" && typeof b === "object" && a !== null && b !== null) {
      for (const key of new Set([...Object.keys(a), ...Object.keys(b)])) {
        if (path === "" && LEFT_OUT.has(key)) continue;
        const at = Array.isArray(a) ? `${path}[${key}]` : path === "" ? key : `${path}.${key}`;
        walk((a as Record<string, unknown>)[key], (b as Record<string, unknown>)[key], at);
      }
      return;
    }
    // Zero is zero, with either sign; nothing else is equal but itself.
    if (Object.is(a, b) || (a === 0 && b === 0)) return;
    out.differences.push({ path, kept: shown(a), now: shown(b) });
  };
  walk(kept, now, "");
  return out;
}

const shown = (value: unknown): string =>
  value === undefined
    ? "nothing"
    : typeof value === "object" && value !== null
      ? "something"
      : String(value);
