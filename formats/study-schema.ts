import { z } from "zod";
import {
  cellValue,
  columnName,
  correction,
  derived,
  filter,
  log,
  MOST,
  screeningSet,
  variable,
} from "./study-parts";
import {
  CENTRINGS,
  ERRORS,
  MODEL_ERRORS,
  DEFAULT_REPORT,
  DEFAULT_SETTINGS,
  PARTS,
  SHAPES,
  INTERVALS,
  MAX_DRAWS,
  MAX_REPLICATIONS,
} from "../core";

/** What is expected before there are data. */
const plan = z.strictObject({
  sizes: z
    .array(
      z.strictObject({
        from: z.union([columnName.transform((name) => [name]), z.array(columnName).min(1).max(20)]),
        to: columnName,
        size: z.number(),
      }),
    )
    .max(MOST.columns)
    .optional()
    .describe("Standardised paths; with several names in `from` the coefficient of their product"),
  correlations: z
    .array(z.strictObject({ a: columnName, b: columnName, r: z.number() }))
    .max(MOST.columns)
    .optional(),
  variables: z
    .record(
      z.string(),
      z.strictObject({
        shape: z.enum(SHAPES).optional(),
        mean: z.number().optional().describe("Of a count"),
        shares: z
          .array(z.number())
          .max(MOST.entries)
          .optional()
          .describe("Of the levels in their order"),
        answers: z
          .array(z.string())
          .max(MOST.entries)
          .optional()
          .describe("What these levels are called, where the variable does not say"),
      }),
    )
    .optional(),
  reliabilities: z.record(z.string(), z.number()).optional().describe("By measure"),
  sizesAmong: z.enum(["constructs", "scores"]).optional(),
  missing: z
    .strictObject({ share: z.number(), on: columnName.nullable().default(null) })
    .optional(),
  n: z.number().optional().describe("People"),
  target: z.number().optional().describe("Wanted power"),
  samples: z.number().optional().describe("Simulated samples"),
  replications: z.number().optional().describe("Bootstrap samples of each simulated sample"),
  seed: z.number().optional(),
});

/** Ranges are left to the engine, which says of every setting what it may be. */
const settings = z.strictObject({
  engine: z.string().default(DEFAULT_SETTINGS.engine).describe("How the equations are estimated"),
  options: z
    .record(z.string(), z.union([z.string(), z.number()]))
    .default({})
    .describe("Choices that only this engine offers"),
  level: z.number().default(DEFAULT_SETTINGS.level),
  tail: z.enum(["two", "one"]).default(DEFAULT_SETTINGS.tail),
  several: z
    .enum(["none", "holm"])
    .default("none")
    .describe("Does a verdict also need a p corrected for the number of hypotheses?"),
  interval: z.enum(INTERVALS).default(DEFAULT_SETTINGS.interval),
  replications: z
    .number()
    .default(DEFAULT_SETTINGS.replications)
    .describe(`0 (none) to ${MAX_REPLICATIONS}`),
  seed: z.number().default(DEFAULT_SETTINGS.seed).describe("0 to 2^53 - 1"),
  errors: z.enum([...ERRORS, ...MODEL_ERRORS]).default(DEFAULT_SETTINGS.errors),
  crossEquations: z.enum(["joint", "zero"]).default(DEFAULT_SETTINGS.crossEquations),
  strata: columnName.nullable().default(null),
  cluster: columnName.nullable().default(null),
  monteCarloDraws: z.number().max(MAX_DRAWS).default(DEFAULT_SETTINGS.monteCarloDraws),
  centring: z
    .enum(CENTRINGS)
    .default(DEFAULT_SETTINGS.centring)
    .describe("How coefficients of equations with products are reported"),
  probes: z
    .record(
      columnName,
      z
        .array(
          z.union([
            z.enum(["mean_sd", "quartiles", "tenths", "percentile"]),
            z
              .string()
              .regex(/^\d+(\.\d+)?\s*%$/, "a percentile reads “20 %”")
              .transform((text): `${number} %` => `${Number.parseFloat(text)} %`)
              .describe("A percentile, as in “20 %”"),
            z.number(),
          ]),
        )
        .max(MOST.entries),
    )
    .default({})
    .describe("Values of each moderator at which effects are looked at"),
  leftOut: z
    .array(z.strictObject({ difference: z.number(), effect: z.number() }))
    .max(MOST.entries)
    .default([])
    .describe(
      "Guesses of something left out that moves mediator and outcome: its difference between the treatments, and its effect on the outcome",
    ),
});

const moments = z
  .strictObject({
    names: z.array(columnName).min(1).max(MOST.entries),
    n: z.number().int().min(3).max(MOST.people),
    means: z.array(z.number()).optional(),
    covariance: z
      .array(z.array(z.number()))
      .optional()
      .describe("Full or lower triangle, divisor n - 1"),
    correlation: z.array(z.array(z.number())).optional().describe("Full or lower triangle"),
    sds: z.array(z.number()).optional(),
  })
  .refine(
    (m) => (m.covariance === undefined) !== (m.correlation === undefined),
    "give either a covariance or a correlation matrix",
  );

export type MomentsFile = z.infer<typeof moments>;

/** The study file, version 1. Everything but the data and the theory has a default. */
export const studySchema = z.strictObject({
  $schema: z.string().optional(),
  format: z.literal("hebel-study"),
  version: z.literal(1),
  title: z.string().default("Untitled study"),
  question: z.string().default(""),
  unit: z.string().default("people").describe("What one row is, in the plural"),
  data: z
    .union([
      z.strictObject({
        csv: z.string().describe("Path of a CSV file, relative to the study file"),
        separator: z.enum([",", ";", "\t", "|"]).optional(),
      }),
      z.strictObject({
        text: z.string().describe("The CSV itself"),
        separator: z.enum([",", ";", "\t", "|"]).optional(),
      }),
      z.strictObject({
        columns: z.union([
          z
            .array(z.strictObject({ name: columnName, values: z.array(cellValue).max(MOST.rows) }))
            .max(MOST.columns),
          z.record(columnName, z.array(cellValue).max(MOST.rows)),
        ]),
      }),
      z.strictObject({ moments }),
    ])
    .optional()
    .describe("Absent where there are no data yet: the variables are then declared by name"),
  variables: z
    .record(columnName, variable)
    .default({})
    .describe("What is known of columns; the rest is guessed from the cells"),
  derived: z.array(derived).max(MOST.columns).default([]).describe("Variables made of others"),
  corrections: z
    .array(correction)
    .max(MOST.rows)
    .default([])
    .describe("Cells changed by hand; the data above stay as they were imported"),
  filters: z
    .array(filter)
    .max(MOST.entries)
    .default([])
    .describe("Rows left out of every analysis"),
  screening: z
    .array(screeningSet)
    .max(MOST.entries)
    .default([])
    .describe(
      "Sets of variables screened together; default those of the theory, else the numeric ones",
    ),
  theory: z
    .union([z.string().max(MOST.theory), z.array(z.string()).max(MOST.columns)])
    .default("")
    .describe("The sentences, one a line"),
  settings: settings.prefault({}),
  resamples: z
    .union([
      z
        .string()
        .describe(
          "Path of a CSV file, relative to the study file, with or without a line of names",
        ),
      z.array(z.array(z.number().int().min(0))),
    ])
    .optional()
    .describe(
      "Bootstrap samples to be used instead of drawn ones: rows of the data from 0, one sample a line",
    ),
  permutations: z
    .union([z.string(), z.array(z.array(z.number().int().min(0)))])
    .optional()
    .describe(
      "Permutations of people for comparing two groups, instead of drawn ones: rows of the data from 0, the first group first",
    ),
  report: z
    .strictObject({
      journal: z.enum(["behavioural", "medical"]).default(DEFAULT_REPORT.journal),
      digits: z.union([z.literal(2), z.literal(3)]).default(DEFAULT_REPORT.digits),
      decimal: z.enum([".", ","]).default(DEFAULT_REPORT.decimal),
      spelling: z.enum(["british", "american"]).default(DEFAULT_REPORT.spelling),
      conditions: z.boolean().default(DEFAULT_REPORT.conditions),
      units: z
        .enum(["raw", "partially_standardised", "completely_standardised"])
        .default(DEFAULT_REPORT.units),
      figures: z
        .strictObject({
          widthMm: z
            .union([z.literal(85), z.literal(120), z.literal(175)])
            .default(DEFAULT_REPORT.figures.widthMm),
          fontPt: z
            .union([z.literal(7), z.literal(8), z.literal(9), z.literal(10)])
            .default(DEFAULT_REPORT.figures.fontPt),
          diagram: z
            .enum(["statistical", "conceptual", "both"])
            .default(DEFAULT_REPORT.figures.diagram),
          beside: z.enum(["interval", "p", "nothing"]).default(DEFAULT_REPORT.figures.beside),
          surface: z.boolean().default(DEFAULT_REPORT.figures.surface),
        })
        .prefault({}),
      parts: z
        .array(z.strictObject({ id: z.enum(PARTS), shown: z.boolean().default(true) }))
        .max(MOST.entries)
        .default([])
        .describe(
          "In their order; parts that are not named stand between their neighbours in papers where both are, else at the end",
        ),
    })
    .optional()
    .describe("What stands in the report, and how numbers and words are written"),
  plan: plan.optional().describe("What is expected before there are data"),
  registered: z
    .strictObject({
      when: z.string(),
      question: z.string().default(""),
      unit: z.string().default("people"),
      theory: z.union([z.string().max(MOST.theory), z.array(z.string()).max(MOST.columns)]),
      settings: settings.prefault({}),
      derived: z.array(derived).default([]),
      filters: z.array(filter).default([]),
      plan: plan.optional(),
    })
    .optional()
    .describe("The plan as it was laid down, which the report holds against what was done"),
  log: z.array(log).max(MOST.log).default([]),
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
