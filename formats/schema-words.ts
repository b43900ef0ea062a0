import type { z } from "zod";

type Issue = z.core.$ZodIssue;

/** What a kind of value is called in a message. */
const KINDS: Record<string, string> = {
  string: "text",
  number: "a number",
  int: "a whole number",
  boolean: "true or false",
  array: "a list",
  object: "an object with named fields",
  record: "an object with named fields",
  null: "null",
  tuple: "a list",
};

const kindOf = (expected: string): string => KINDS[expected] ?? expected;

/** The value itself, short: what stands in the file. */
function shown(value: unknown): string {
  if (Array.isArray(value)) return `it is a list of ${value.length}`;
  if (typeof value === "object" && value !== null) return "it is an object";
  const text = JSON.stringify(value);
  return `it is ${text.length > 40 ? `${text.slice(0, 39)}…` : text}`;
}

/**
 * “settings.probes.support”, entry 1: names as they stand in the file, entries of lists counted
 * from 1.
 */
function placeOf(path: readonly PropertyKey[]): string {
  const parts: string[] = [];
  let names: string[] = [];
  const close = (): void => {
    if (names.length > 0) parts.push(`“${names.join(".")}”`);
    names = [];
  };
  for (const key of path) {
    if (typeof key === "number") {
      close();
      parts.push(`entry ${key + 1}`);
    } else names.push(String(key));
  }
  close();
  return parts.length === 0 ? "the file" : parts.join(", ");
}

function valueAt(json: unknown, path: readonly PropertyKey[]): unknown {
  return path.reduce<unknown>(
    (value, key) =>
      typeof value === "object" && value !== null && Object.hasOwn(value, key)
        ? (value as Record<PropertyKey, unknown>)[key]
        : undefined,
    json,
  );
}

/** What may stand there, in words; null where the schema's own sentence says it best. */
function wanted(issue: Issue): string | null {
  switch (issue.code) {
    case "invalid_type":
      return kindOf(issue.expected);
    case "invalid_value":
      return issue.values.length === 1
        ? JSON.stringify(issue.values[0])
        : `one of ${issue.values.map((v) => JSON.stringify(v)).join(", ")}`;
    case "too_small":
      return issue.origin === "string" || issue.origin === "array"
        ? "something that is not empty"
        : `at least ${String(issue.minimum)}`;
    case "too_big":
      return `at most ${String(issue.maximum)}${{ array: " entries", string: " characters" }[String(issue.origin)] ?? ""}`;
    default:
      return null;
  }
}

interface Complaint {
  path: PropertyKey[];
  wishes: string[];
  words: string | null;
}

const STRANGER = "is no field that this version knows";
const strangers = (way: Complaint[]): number => way.filter((c) => c.words === STRANGER).length;

/**
 * Of the ways that a value may be written, the one that was meant: whose fault lies deepest. Ways
 * that fail at once are alternatives.
 */
function unfolded(issue: Issue, base: readonly PropertyKey[]): Complaint[] {
  const path = [...base, ...issue.path];
  if (issue.code === "invalid_union" && issue.errors.length > 0) {
    const ways = issue.errors.map((errors) => errors.flatMap((inner) => unfolded(inner, path)));
    const depth = (way: { path: PropertyKey[] }[]): number =>
      Math.max(...way.map((w) => w.path.length));
    const deepest = Math.max(...ways.map(depth));
    const meant = ways
      .filter((way) => depth(way) === deepest)
      .sort((a, b) => strangers(a) - strangers(b) || a.length - b.length);
    if (deepest > path.length) return meant[0]!;
    const wishes = [...new Set(meant.flatMap((way) => way.flatMap((w) => w.wishes)))];
    return [{ path, wishes, words: wishes.length === 0 ? issue.message : null }];
  }
  if (issue.code === "unrecognized_keys")
    return issue.keys.map((key) => ({
      path: [...path, key],
      wishes: [],
      words: STRANGER,
    }));
  if (issue.code === "invalid_union" && "options" in issue && Array.isArray(issue.options))
    return [
      {
        path,
        wishes: [`one of ${issue.options.map((o) => JSON.stringify(o)).join(", ")}`],
        words: null,
      },
    ];
  const wish = wanted(issue);
  return [
    { path, wishes: wish === null ? [] : [wish], words: wish === null ? issue.message : null },
  ];
}

const MOST = 3;

/**
 * The first complaints about a file in words: which field, what it may be, what it is.
 * @param json what was read, to say what stands there
 */
export function schemaWords(issues: readonly Issue[], json: unknown): string {
  const said = issues.slice(0, MOST).flatMap((issue) => unfolded(issue, []));
  return said
    .slice(0, MOST)
    .map(({ path, wishes, words }) => {
      const place = placeOf(path);
      if (words !== null)
        return words.startsWith("is ") ? `${place} ${words}` : `${place}: ${words}`;
      const value = valueAt(json, path);
      return value === undefined
        ? `${place} is missing; it should be ${wishes.join(" or ")}`
        : `${place} should be ${wishes.join(" or ")}, but ${shown(value)}`;
    })
    .join("; ");
}
