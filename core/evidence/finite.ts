/** How many of the places where a number is missing are named. */
const MOST_NAMED = 6;

/**
 * The same evidence with null in place of everything that is not a number: infinity and NaN are
 * written by no file format, and no reader can use them. Parts without such a number stay the
 * objects they were.
 * @returns the places, “effects.3.delta.joint.HC3.z”, at most a few of them
 */
export function finiteOnly<T>(evidence: T): { evidence: T; places: string[]; count: number } {
  const places: string[] = [];
  let count = 0;
  // One trail for the whole walk: every batch of replicates comes through here.
  const trail: (string | number)[] = [];
  const inner = (value: unknown, key: string | number): unknown => {
    if (typeof value === "number" && Number.isFinite(value)) return value;
    trail.push(key);
    const made = clean(value);
    trail.pop();
    return made;
  };
  const clean = (value: unknown): unknown => {
    if (typeof value === "number") {
      if (Number.isFinite(value)) return value;
      count += 1;
      if (places.length < MOST_NAMED) places.push(trail.join("."));
      return null;
    }
    if (Array.isArray(value)) {
      let copy: unknown[] | null = null;
      for (let i = 0; i < value.length; i++) {
        const made = inner(value[i], i);
        if (made !== value[i]) (copy ??= [...value])[i] = made;
      }
      return copy ?? value;
    }
    if (typeof value !== "object" || value === null || ArrayBuffer.isView(value)) return value;
    let copy: Record<string, unknown> | null = null;
    for (const [key, part] of Object.entries(value)) {
      const made = inner(part, key);
      if (made !== part) (copy ??= { ...value })[key] = made;
    }
    return copy ?? value;
  };
  return { evidence: clean(evidence) as T, places, count };
}
