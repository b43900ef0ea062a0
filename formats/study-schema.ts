import { z } from "zod";
import { COVARIANCES, DEFAULT_SETTINGS, INTERVALS, MAX_REPLICATIONS } from "../core";

const cellValue = z.union([z.string(), z.number(), z.boolean(), z.null()]);
const columnName = z.string().min(1);

const variable = z.strictObject({
  level: z.enum(["continuous", "ordinal", "binary", "categorical", "identifier"]).optional(),
  label: z.string().optional(),
  unit: z.string().optional(),
  missing: z.array(z.string()).optional().describe("Cells that mean no answer, as text"),
  decimal: z.enum([".", ","]).optional(),
  levels: z.array(z.string()).optional().describe("Levels in their order; default ascending"),
  one: z.string().optional().describe("Binary columns: the level that counts as 1"),
  coding: z.enum(["indicator", "sequential", "helmert", "effect"]).optional(),
  reference: z.string().optional().describe("Reference level of indicator and effect coding"),
});

/** Ranges are left to the engine, which says of every setting what it may be. */
const settings = z.strictObject({
  level: z.number().default(DEFAULT_SETTINGS.level),
  tail: z.enum(["two", "one"]).default(DEFAULT_SETTINGS.tail),
  interval: z.enum(INTERVALS).default(DEFAULT_SETTINGS.interval),
  replications: z.number().default(DEFAULT_SETTINGS.replications).describe(`0 (none) to ${MAX_REPLICATIONS}`),
  seed: z.number().default(DEFAULT_SETTINGS.seed).describe("0 to 2^53 - 1"),
  errors: z.enum(COVARIANCES).default(DEFAULT_SETTINGS.errors),
  crossEquations: z.enum(["joint", "zero"]).default(DEFAULT_SETTINGS.crossEquations),
  strata: columnName.nullable().default(null),
  cluster: columnName.nullable().default(null),
  monteCarloDraws: z.number().default(DEFAULT_SETTINGS.monteCarloDraws),
});

/** The study file, version 1. Everything but the data and the theory has a default. */
export const studySchema = z.strictObject({
  $schema: z.string().optional(),
  format: z.literal("hebel-study"),
  version: z.literal(1),
  title: z.string().default("Untitled study"),
  question: z.string().default(""),
  unit: z.string().default("people").describe("What one row is, in the plural"),
  data: z.union([
    z.strictObject({
      csv: z.string().describe("Path of a CSV file, relative to the study file"),
      separator: z.enum([",", ";", "\t", "|"]).optional(),
    }),
    z.strictObject({ text: z.string().describe("The CSV itself"), separator: z.enum([",", ";", "\t", "|"]).optional() }),
    z.strictObject({
      columns: z.union([
        z.array(z.strictObject({ name: columnName, values: z.array(cellValue) })),
        z.record(columnName, z.array(cellValue)),
      ]),
    }),
  ]),
  variables: z.record(columnName, variable).default({}).describe("What is known of columns; the rest is guessed from the cells"),
  theory: z
    .union([z.string(), z.array(z.string())])
    .default("")
    .describe("The sentences, one a line"),
  settings: settings.prefault({}),
});

export type StudyFile = z.infer<typeof studySchema>;

/** Bootstrap replicates from elsewhere, to be turned into intervals. */
export const replicatesSchema = z.strictObject({
  $schema: z.string().optional(),
  format: z.literal("hebel-replicates"),
  version: z.literal(1),
  estimate: z.number(),
  replicates: z.strictObject({ csv: z.string(), column: z.string(), se: z.string().optional() }),
  jackknife: z.strictObject({ csv: z.string(), column: z.string() }).optional(),
  se: z.number().optional().describe("Standard error of the estimate, for the bootstrap-t"),
  level: z.number().gt(0).lt(1).default(0.95),
  null: z.number().default(0),
});

export type ReplicatesFile = z.infer<typeof replicatesSchema>;

/** The published JSON Schema of the study file. */
export const studyJsonSchema = (): object => z.toJSONSchema(studySchema, { io: "input" });
