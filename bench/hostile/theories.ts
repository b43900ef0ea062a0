import fc from "fast-check";
import {
  Analysis,
  newDefinition,
  StudyProblem,
  TableBuilder,
  type StudyDefinition,
} from "../../core";
import { guessVariable, parseTheory, type Table } from "../../core";
import { RandomStream } from "../../core/numerics/random";

/** Columns that a theory may be about; some bear names that notation, or every object, has too. */
const NUMERIC = ["x", "m", "k", "y", "w", "constructor", "toString", "raises", "to"];
const GROUPS = ["g", "hasOwnProperty"];
const ROWS = 60;

/** Data in which everything can be estimated: numbers, a column of two and one of three groups. */
export function fuzzTable(): Table {
  const builder = new TableBuilder([...NUMERIC, ...GROUPS]);
  for (let i = 0; i < ROWS; i++) {
    const random = new RandomStream(77, i);
    const numbers: number[] = [];
    for (let j = 0; j < NUMERIC.length; j++)
      numbers.push(0.3 * (numbers.at(-1) ?? 0) + random.normal());
    builder.add([...numbers.map((v) => v.toFixed(3)), "abc"[i % 3]!, i % 2 === 0 ? "no" : "yes"]);
  }
  return builder.build();
}

export const fuzzStudy = (table: Table): StudyDefinition => ({
  ...newDefinition("fuzz", table.columns.map(guessVariable)),
  settings: { ...newDefinition("", []).settings, replications: 0, interval: "delta" },
});

const name = fc.constantFrom(...NUMERIC, ...GROUPS, "“no such”", "nobody");
const known = fc.constantFrom(...NUMERIC, ...GROUPS);
const verb = fc.constantFrom("raises", "lowers", "affects", "increase", "predicts");
const shift = fc.constantFrom("strengthens", "weakens", "alters", "moderates");
const label = fc.constantFrom("H1", "H2", "H3", "toString", "__proto__");
const list = fc
  .array(known, { minLength: 1, maxLength: 3 })
  .chain((names) => fc.constantFrom(" and ", " then ", ", ").map((mark) => names.join(mark)));
const numberText = fc.oneof(
  fc.constantFrom("0", "(0)", "-1e308", "1e308", "0/0", "1e-320", "2"),
  fc.double().map(String),
);
const formula: fc.Arbitrary<string> = fc.letrec<{ any: string }>((tie) => ({
  any: fc.oneof(
    { depthSize: "small" },
    numberText,
    label,
    fc
      .tuple(fc.constantFrom("total", "direct", "indirect"), known, known)
      .map(([which, from, to]) => `${which} ${from} to ${to}`),
    fc
      .tuple(tie("any"), fc.constantFrom("+", "-", "*", "/"), tie("any"))
      .map(([a, op, b]) => `(${a} ${op} ${b})`),
    fc.tuple(fc.constantFrom("abs", "sqrt", "exp", "ln"), tie("any")).map(([f, a]) => `${f}(${a})`),
  ),
})).any;

const line = fc.oneof(
  {
    weight: 4,
    arbitrary: fc
      .tuple(label, known, verb, known, list)
      .map(([l, a, v, b, c]) => `${l}: ${a} ${v} ${b} through ${c}`),
  },
  {
    weight: 2,
    arbitrary: fc.tuple(label, name, verb, name).map(([l, a, v, b]) => `${l}: ${a} ${v} ${b}`),
  },
  {
    weight: 3,
    arbitrary: fc
      .tuple(label, known, shift, known, known)
      .map(([l, w, v, a, b]) => `${l}: ${w} ${v} ${a} to ${b}`),
  },
  { weight: 2, arbitrary: fc.tuple(label, formula).map(([l, f]) => `define ${l} as ${f}`) },
  fc.tuple(label, label).map(([a, b]) => `contrast ${a} with ${b}`),
  fc.tuple(known, list).map(([a, b]) => `adjust ${a} for ${b}`),
  fc.tuple(known, known).map(([a, b]) => `also ${a} to ${b}`),
  fc.tuple(known, list).map(([a, b]) => `measure ${a}s averages ${b}`),
);

/** A piece of a text struck out, doubled, or replaced by something odd. */
const mutated = (text: fc.Arbitrary<string>): fc.Arbitrary<string> =>
  fc
    .tuple(
      text,
      fc.nat(),
      fc.nat({ max: 12 }),
      fc.constantFrom(
        "",
        "\u0000",
        "“",
        "\ud800",
        "𝒳",
        ":",
        "(",
        " ",
        "\t",
        "1e999",
        "to to",
        "\u202e",
      ),
    )
    .map(([t, at, length, odd]) => {
      const from = at % (t.length + 1);
      return t.slice(0, from) + odd + t.slice(from + length);
    });

const grammatical = fc.array(line, { minLength: 1, maxLength: 4 }).map((lines) => lines.join("\n"));
/** Theories as people write them, some of them damaged, some of them noise. */
export const theories: fc.Arbitrary<string> = fc.oneof(
  { weight: 6, arbitrary: grammatical },
  { weight: 3, arbitrary: mutated(grammatical) },
  { weight: 1, arbitrary: fc.string({ maxLength: 80, unit: "binary" }) },
);

/** Numbers of an object that are none, with their places. */
export function notFinite(value: unknown, path = ""): string[] {
  if (typeof value === "number") return Number.isFinite(value) ? [] : [`${path} = ${value}`];
  if (typeof value !== "object" || value === null) return [];
  return Object.entries(value).flatMap(([key, inner]) => notFinite(inner, `${path}.${key}`));
}

/** What one theory did: it was estimated, it was refused with a place, or there is a fault. */
export function attempt(theory: string, table: Table, study: StudyDefinition): string {
  const { complaints } = parseTheory(
    theory,
    table.columns.map((c) => c.name),
  );
  const placeless = complaints.find((c) => !(c.line >= 1) || !(c.column >= 1) || c.message === "");
  if (placeless) return `a complaint without a place: ${JSON.stringify(placeless)}`;
  try {
    // As the app does while somebody types: sentences that cannot be read are left out.
    const evidence = Analysis.of({ ...study, theory }, table, { tolerant: true }).evidence();
    const odd = notFinite(evidence);
    if (odd.length > 0) return `not finite: ${odd.slice(0, 3).join("; ")}`;
    JSON.stringify(evidence);
    return "estimated";
  } catch (error) {
    if (!(error instanceof StudyProblem)) return `an exception: ${String((error as Error).stack)}`;
    return error.message.length > 0 ? "refused" : "a refusal without words";
  }
}

/**
 * Tries so many theories.
 * @returns how each ended, and the first faults with the theory that made them
 */
export function tryTheories(
  runs: number,
  seed: number,
): { counts: Map<string, number>; faults: { theory: string; fault: string }[]; slowest: number } {
  const table = fuzzTable();
  const study = fuzzStudy(table);
  const counts = new Map<string, number>();
  const faults: { theory: string; fault: string }[] = [];
  let slowest = 0;
  for (const theory of fc.sample(theories, { numRuns: runs, seed })) {
    const started = performance.now();
    const how = attempt(theory, table, study);
    slowest = Math.max(slowest, performance.now() - started);
    const kind = how === "estimated" || how === "refused" ? how : "fault";
    counts.set(kind, (counts.get(kind) ?? 0) + 1);
    if (kind === "fault") faults.push({ theory, fault: how });
  }
  return { counts, faults, slowest };
}
