import { z } from "zod";

/**
 * The most of anything that a study file may hold: far beyond studies, and near enough that no
 * number in a file can keep a reader busy without end.
 */
export const MOST = {
  /** Characters. */
  theory: 1_000_000,
  /** Entries of lists. */
  columns: 100_000,
  entries: 1000,
  log: 100_000,
  rows: 5_000_000,
  /** People of a matrix. */
  people: 10_000_000,
} as const;

export const cellValue = z.union([z.string(), z.number(), z.boolean(), z.null()]);
export const columnName = z.string().min(1);

const coding = z.enum(["indicator", "sequential", "helmert", "effect"]);

export const variable = z.strictObject({
  column: columnName.optional().describe("What the data call it, where that is another name"),
  level: z.enum(["continuous", "ordinal", "binary", "categorical", "identifier"]).optional(),
  label: z.string().optional(),
  unit: z.string().optional(),
  missing: z
    .array(z.string())
    .max(MOST.rows)
    .optional()
    .describe("Cells that mean no answer, as text"),
  decimal: z.enum([".", ","]).optional(),
  levels: z
    .array(z.string())
    .max(MOST.rows)
    .optional()
    .describe("Levels in their order; default ascending"),
  one: z.string().optional().describe("Binary columns: the level that counts as 1"),
  range: z
    .tuple([z.number(), z.number()])
    .optional()
    .describe("Lowest and highest value that can occur; reversing uses these limits"),
  labels: z
    .record(z.string(), z.string())
    .optional()
    .describe("What the codes of the answers mean"),
  coding: coding.optional(),
  reference: z.string().optional().describe("Reference level of indicator and effect coding"),
});

const of = columnName.describe("The column it is made of");

export const recipe = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("formula"), formula: z.string() }),
  z.strictObject({
    kind: z.literal("recode"),
    of,
    map: z.record(z.string(), z.string()),
    otherwise: z.enum(["keep", "missing"]).default("keep"),
  }),
  z.strictObject({ kind: z.literal("reverse"), of, low: z.number(), high: z.number() }),
  z.strictObject({ kind: z.literal("rescale"), of, per: z.number() }),
  z.strictObject({
    kind: z.literal("log"),
    of,
    base: z.enum(["e", "10", "2"]).default("e"),
    add: z.number().default(0),
  }),
  z.strictObject({ kind: z.literal("centre"), of }),
  z.strictObject({ kind: z.literal("standardise"), of }),
  z.strictObject({ kind: z.literal("rank"), of }),
  z.strictObject({
    kind: z.literal("winsorise"),
    of,
    lower: z.number().describe("Percent"),
    upper: z.number().describe("Percent"),
  }),
  z.strictObject({
    kind: z.literal("split"),
    of,
    at: z.array(z.number()).max(MOST.entries).describe("Percentiles, rising; [50] is the median"),
  }),
  z.strictObject({
    kind: z.literal("code"),
    of,
    coding,
    index: z.number().int().min(1).max(MOST.columns),
    reference: z.string().optional(),
  }),
]);

export const filter = z.strictObject({
  name: z.string().min(1),
  active: z.boolean().default(true),
  rule: z.union([
    z.strictObject({
      kind: z.literal("rows"),
      rows: z.array(z.number().int().min(1)).max(MOST.rows).describe("Data rows, counted from 1"),
    }),
    z.strictObject({
      kind: z.literal("condition"),
      formula: z.string().describe("Rows for which this holds are left out"),
    }),
  ]),
});

export const derived = z.strictObject({ name: columnName, recipe });

/** A cell changed by hand. */
export const correction = z.strictObject({
  column: columnName,
  row: z.number().int().min(1),
  from: z.string(),
  to: z.string(),
});

/** Variables screened together. */
export const screeningSet = z.strictObject({
  name: z.string().min(1),
  variables: z.array(columnName).min(1),
});

export const log = z.strictObject({
  when: z.string(),
  what: z.string(),
  why: z.string().default(""),
});

/**
 * The lists of a study as programs keep it: the shape that screens rely on, such as no null among
 * variables. Values that somebody is still writing, empty names and numbers that are none are no
 * damage, nor are fields that a later version adds.
 */
export const definitionLists = z.looseObject({
  variables: z.array(z.looseObject({ name: z.string(), level: z.string() })),
  derived: z.array(
    z.looseObject({
      name: z.string(),
      recipe: z.looseObject({ kind: z.enum(recipe.options.map((way) => way.shape.kind.value)) }),
    }),
  ),
  corrections: z.array(
    z.looseObject({ column: z.string(), row: z.number(), from: z.string(), to: z.string() }),
  ),
  filters: z.array(
    z.looseObject({
      name: z.string(),
      rule: z.union([
        z.looseObject({ kind: z.literal("rows"), rows: z.array(z.number()) }),
        z.looseObject({ kind: z.literal("condition"), formula: z.string() }),
      ]),
    }),
  ),
  screening: z.array(z.looseObject({ name: z.string(), variables: z.array(z.string()) })),
  log: z.array(z.looseObject({ when: z.string(), what: z.string() })),
});
