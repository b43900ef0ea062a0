import {
  effectAt,
  errorsName,
  percent,
  predictAt,
  responseOf,
  scaleWords,
  testOf,
  type Evidence,
  type ModerationEvidence,
  type RegionEvidence,
} from "../../../core";
import type { NumberTable } from "../figure/figure-tools";
import { slopeHere, type Place } from "./lever-model";

const testCells = (test: ReturnType<typeof testOf>): (number | null)[] =>
  test ? [test.se, test.t, test.p, test.lower, test.upper] : [null, null, null, null, null];

const testHead = (evidence: Evidence): string[] => {
  const level = percent(evidence.settings.level);
  return ["SE", "t", "p", `${level} % CI lower`, `${level} % CI upper`];
};

const STEPS = 20;

/** Equally spaced values from one end to the other, both included. */
const spaced = ([min, max]: [number, number], steps = STEPS): number[] =>
  Array.from({ length: steps + 1 }, (_, i) => min + ((max - min) * i) / steps);

/** Slopes and line ends at the comparison values. */
export function slopeTables(moderation: ModerationEvidence, evidence: Evidence): NumberTable[] {
  const { slopes, lines, focal, focalLabel, outcome, model } = moderation;
  const { predictor, response } = scaleWords(model.link, outcome);
  const { level } = evidence.settings;
  const { errors } = evidence;
  return [
    {
      title: `Slope of ${predictor} on ${focalLabel} (${errorsName(errors)} errors)`,
      head: ["at", "slope", ...testHead(evidence)],
      rows: slopes.map(({ words, estimate, errors: tests }) => [
        words,
        estimate,
        ...testCells(tests[errors]),
      ]),
    },
    {
      title: `Predicted ${response}, other predictors at their means`,
      head: [
        "at",
        focal,
        "predicted",
        "SE",
        `${percent(level)} % CI lower`,
        `${percent(level)} % CI upper`,
      ],
      rows: lines.flatMap(({ words, points }) =>
        points.map((p) => {
          const found = p.errors[errors];
          return [
            words,
            p.at[focal] as number,
            p.response.estimate,
            // The error of a mean is that of its linear predictor; on a curved scale only limits
            // carry over.
            model.link === "identity" ? (found?.se ?? null) : null,
            model.link === "identity" ? (found?.lower ?? null) : p.response.lower,
            model.link === "identity" ? (found?.upper ?? null) : p.response.upper,
          ];
        }),
      ),
    },
  ];
}

/** The slope along one numeric moderator, the others where they are held. */
export function stripTable(
  moderation: ModerationEvidence,
  evidence: Evidence,
  over: { name: string; column: string; range: [number, number] },
  held: [string, number][],
): NumberTable {
  return {
    title: `Slope of ${scaleWords(moderation.model.link, moderation.outcome).predictor} on ${moderation.focalLabel} along ${over.name}`,
    head: [over.name, "slope", ...testHead(evidence)],
    rows: spaced(over.range).map((value) => {
      const reading = slopeHere(moderation, new Map([...held, [over.column, value]]));
      return [
        value,
        reading.estimate,
        ...testCells(testOf(reading, moderation.model, evidence.settings.level)),
      ];
    }),
  };
}

/** The slope in each of several pictures. */
export function panelTable(
  moderation: ModerationEvidence,
  evidence: Evidence,
  panels: { words: string; place: Place }[],
): NumberTable {
  return {
    title: `Slope of ${scaleWords(moderation.model.link, moderation.outcome).predictor} on ${moderation.focalLabel}`,
    head: ["panel", "slope", ...testHead(evidence)],
    rows: panels.map(({ words, place }) => {
      const reading = slopeHere(moderation, place);
      return [
        words,
        reading.estimate,
        ...testCells(testOf(reading, moderation.model, evidence.settings.level)),
      ];
    }),
  };
}

interface Axis {
  key: string;
  range: [number, number];
}

/** The predicted outcome over predictor and moderator, on a coarse grid. */
export function surfaceTable(
  moderation: ModerationEvidence,
  x: Axis,
  w: Axis,
  held: [string, number][],
): NumberTable {
  const steps = 8;
  return {
    title: `Predicted ${scaleWords(moderation.model.link, moderation.outcome).response}, other predictors at their means`,
    head: [w.key, ...spaced(x.range, steps).map((v) => `${x.key} ${Number(v.toFixed(3))}`)],
    rows: spaced(w.range, steps).map((value) => [
      value,
      ...spaced(x.range, steps).map((at) =>
        responseOf(
          moderation.model,
          predictAt(moderation.model, new Map([...held, [x.key, at], [w.key, value]])).estimate,
        ),
      ),
    ]),
  };
}

/** The effect over two moderators, on a coarse grid. */
export function effectMapTable(
  moderation: ModerationEvidence,
  evidence: Evidence,
  w: Axis,
  z: Axis,
): NumberTable {
  const steps = 6;
  return {
    title: `Slope of ${scaleWords(moderation.model.link, moderation.outcome).predictor} on ${moderation.focalLabel} over ${w.key} and ${z.key}`,
    head: [w.key, z.key, "slope", ...testHead(evidence)],
    rows: spaced(w.range, steps).flatMap((a) =>
      spaced(z.range, steps).map((b) => {
        const reading = effectAt(
          moderation.model,
          moderation.focal,
          new Map([
            [w.key, a],
            [z.key, b],
          ]),
        );
        return [
          a,
          b,
          reading.estimate,
          ...testCells(testOf(reading, moderation.model, evidence.settings.level)),
        ];
      }),
    ),
  };
}

/** A conditional indirect effect with its band. */
export function indirectTable(
  region: RegionEvidence,
  kind: "percentile" | "bc" | "bca",
  evidence: Evidence,
): NumberTable {
  const band = region.bands?.[kind];
  const level = percent(evidence.settings.level);
  return {
    title: `Indirect effect of ${region.label} along ${region.over}`,
    head: [region.over, "indirect effect", `${level} % band lower`, `${level} % band upper`],
    rows: region.grid.map((value, i) => [
      value,
      region.estimate[i]!,
      band?.lower[i] ?? null,
      band?.upper[i] ?? null,
    ]),
  };
}
