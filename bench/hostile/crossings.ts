import fc from "fast-check";
import {
  Analysis,
  completeChoices,
  completePlan,
  composeReport,
  effectWorking,
  expectationsOf,
  newDefinition,
  Simulator,
  StudyProblem,
  TableBuilder,
  type Evidence,
  type Settings,
  type StudyDefinition,
  type Table,
} from "../../core";
import { analyse, guessVariable } from "../../core";
import { DEFAULT_FIGURE, drawFigure } from "../../formats/figures";
import { RandomStream } from "../../core/numerics/random";
import { notFinite } from "./theories";

const ROWS = 150;
const CONSTRUCTS = ["f", "m", "k", "y", "w"] as const;

/**
 * Five constructs of three items and a single column each; groups, a treatment, a yes/no outcome, a
 * count, gaps.
 */
export function crossingTable(): Table {
  const columns = CONSTRUCTS.flatMap((c) => [c, `${c}1`, `${c}2`, `${c}3`]);
  const builder = new TableBuilder([...columns, "treat", "site", "yes", "count", "team"]);
  for (let i = 0; i < ROWS; i++) {
    const random = new RandomStream(41, i);
    const n = (): number => random.normal();
    const treat = i % 2;
    const [f, w] = [n() + 0.3 * treat, n()];
    const m = 0.5 * f + 0.3 * w + 0.2 * f * w + 0.8 * n();
    const k = 0.4 * f + 0.3 * m + 0.8 * n();
    const y = 0.4 * m + 0.3 * k + 0.2 * f + 0.8 * n();
    const cells = [f, m, k, y, w].flatMap((v) => [
      v,
      ...[0.6, 0.5, 0.7].map((e) => (random.uniform() < 0.03 ? null : v + e * n())),
    ]);
    builder.add([
      ...cells.map((v) => (v === null ? "" : v.toFixed(3))),
      String(treat),
      "abc"[i % 3]!,
      y + n() > 0 ? "yes" : "no",
      String(Math.max(0, Math.round(y + 1.5 + n()))),
      `t${i % 15}`,
    ]);
  }
  return builder.build();
}

const FORMS = ["column", "averages", "sums", "reflects", "combines"] as const;
const SHAPES: readonly (readonly string[])[] = [
  ["H1: f raises y through m"],
  ["H1: f raises y through m then k"],
  ["H1: f affects y through m and k"],
  ["H1: f raises y through m", "H2: w strengthens f to m"],
  ["H1: f raises y through m", "H2: w alters m to y"],
  ["H1: f raises y through m", "H2: w alters f to y through m on f to m"],
  ["H1: f raises y", "H2: w with k alters f to y"],
  ["H1: f alters f to y"],
  ["H1: f raises y through m", "H2: site alters f to m"],
  ["H1: site affects y through m"],
  ["H1: treat raises y through m"],
  ["H1: treat raises yes through m"],
  ["H1: f raises count through m", "H2: w strengthens f to count"],
  ["H1: f raises yes", "H2: treat alters f to yes"],
  ["H1: treat raises yes through m", "H2: w strengthens treat to yes through m on treat to m"],
  ["H1: f raises count through m", "H2: site alters f to count through m on f to m and m to count"],
  ["H1: site affects yes through m", "H2: w with treat alters site to yes through m on m to yes"],
  ["H1: treat raises y through m and k", "H2: m alters k to y"],
];
const FURTHER = [
  "adjust m, y for k",
  "adjust y for treat",
  "groups by site",
  "groups by site with loadings equal",
  "groups by site with loadings and paths equal",
  "covary m with k",
  "hold f to m equal to m to y",
  "also f to k",
  "contrast H1 with H2",
  "define share as H1 / total f to y",
  "compare treat at 1 with 0",
  "control m at 0, 1",
  "model y as linear",
];

const some = <T>(values: readonly T[], most: number): fc.Arbitrary<T[]> =>
  fc.subarray([...values], { maxLength: most });
const OPTIONS: Record<string, Record<string, readonly (string | number)[]>> = {
  covariance_structure: {
    missing: ["complete", "everybody"],
    estimator: ["ml", "ml", "gls", "uls", "dwls"],
    interactions: ["matched_double", "all_double", "all_residual", "full_information"],
    scaling: ["marker", "variance"],
    means: ["yes", "no"],
    convention: ["normal", "wishart"],
  },
  composites: {
    scheme: ["path", "factor", "centroid"],
    correction: ["reflective", "none"],
    interactions: ["two_stage", "raw", "centred", "orthogonal"],
    missing: ["complete", "means"],
    signs: ["counted", "aligned"],
    exact_fit: [0, 5],
    permutations: [0, 10],
    folds: [0, 3],
  },
  generalised: { treatment_product: ["in", "out"] },
  least_squares: {},
};
const ERRORS: Record<string, readonly Settings["errors"][]> = {
  covariance_structure: ["expected", "observed", "robust", "HC3"],
  generalised: ["classical", "HC0"],
  composites: ["HC3"],
  least_squares: ["classical", "HC3", "HC4"],
};

const optionsFor = (engine: string): fc.Arbitrary<Settings["options"]> =>
  fc.record(
    Object.fromEntries(
      Object.entries(OPTIONS[engine]!).map(([name, values]) => [name, fc.constantFrom(...values)]),
    ),
    { requiredKeys: [] },
  ) as fc.Arbitrary<Settings["options"]>;

/** What an engine knows of settings, and now and then what another knows. */
const settingsFor = (engine: string): fc.Arbitrary<Partial<Settings>> =>
  fc.record({
    engine: fc.constantFrom(engine, engine, "least_squares"),
    options: optionsFor(engine),
    errors: fc.constantFrom(...ERRORS[engine]!),
    interval: fc.constantFrom("bca", "percentile", "delta", "monte_carlo", "basic"),
    tail: fc.constantFrom("two", "one"),
    several: fc.constantFrom("none", "holm"),
    centring: fc.constantFrom("none", "mean", "products", "standardised"),
    strata: fc.constantFrom(null, null, null, "site"),
    cluster: fc.constantFrom(null, null, null, null, "team"),
  });

const engineFor = (forms: readonly (typeof FORMS)[number][]): fc.Arbitrary<string> =>
  forms.includes("combines")
    ? fc.constant("composites")
    : forms.includes("reflects")
      ? fc.constantFrom("covariance_structure", "covariance_structure", "composites")
      : fc.constantFrom("least_squares", "generalised", "covariance_structure");

export interface Crossing {
  theory: string;
  settings: Partial<Settings>;
}

/** Ways of measuring that go together: scores and columns, with factors, with composites. */
const measured = fc
  .constantFrom<readonly (typeof FORMS)[number][]>(
    ["column", "averages", "sums"],
    ["column", "averages", "reflects", "reflects"],
    ["column", "averages", "combines", "combines"],
    FORMS,
  )
  .chain((some) => fc.array(fc.constantFrom(...some), { minLength: 5, maxLength: 5 }));

/** One shape of a theory, its constructs measured in any way, with further lines and settings. */
export const crossings: fc.Arbitrary<Crossing> = measured.chain((forms) =>
  fc
    .record({
      shape: fc.constantFrom(...SHAPES),
      further: some(FURTHER, 2),
      settings: engineFor(forms).chain(settingsFor),
    })
    .map(({ shape, further, settings }) => ({ theory: written(shape, forms, further), settings })),
);

function written(
  shape: readonly string[],
  forms: readonly (typeof FORMS)[number][],
  further: readonly string[],
): string {
  // A construct stands under a name of its own where it is no column.
  const named = new Map(
    CONSTRUCTS.map((c, i) => [c as string, forms[i] === "column" ? c : `${c}s`]),
  );
  const all = [...shape, ...further].map((line) =>
    line.replace(/\b[fmkyw]\b/g, (name) => named.get(name) ?? name),
  );
  const measures = CONSTRUCTS.flatMap((c, i) =>
    forms[i] === "column" || !all.some((line) => new RegExp(`\\b${c}s\\b`).test(line))
      ? []
      : [`measure ${c}s ${forms[i]} ${c}1, ${c}2, ${c}3`],
  );
  return [...measures, ...all].join("\n");
}

/** Everything that is made of evidence, as the screens and the report make it. */
function looked(evidence: Evidence, definition: StudyDefinition): void {
  const report = composeReport({ evidence, data: null, definition }, completeChoices({}));
  for (const block of report.blocks)
    if (block.kind === "figure") drawFigure(block, evidence, DEFAULT_FIGURE);
  for (const effect of evidence.effects) effectWorking(effect, evidence);
  JSON.stringify(evidence);
}

/** What is done with a crossing. @returns null, or what is odd about it */
type Trial = (definition: StudyDefinition, table: Table) => string | null;

/** The whole analysis, and everything that is made of it. */
export const analysed: Trial = (definition, table) => {
  const evidence = analyse(definition, table);
  const odd = notFinite(evidence);
  if (odd.length > 0) return `not finite: ${odd.slice(0, 3).join("; ")}`;
  looked(evidence, definition);
  return null;
};

/** A plan that expects what these data say, simulated a few times. */
export const planned: Trial = (definition, table) => {
  const wanted = completePlan({ n: 120, samples: 10, replications: 100 });
  const plan = expectationsOf(Analysis.of(definition, table).prepared, wanted);
  const simulator = new Simulator({ study: definition, plan, every: false });
  const { failures } = simulator.piece({ people: 120, first: 0, count: 3 });
  const lost = Object.values(failures).reduce((sum, count) => sum + count, 0);
  return lost === 3 ? `no sample could be analysed: ${JSON.stringify(failures)}` : null;
};

/** @returns “estimated”, “refused”, or what went wrong */
function tryCrossing({ theory, settings: chosen }: Crossing, table: Table, trial: Trial): string {
  const base = newDefinition("crossing", table.columns.map(guessVariable));
  const definition: StudyDefinition = {
    ...base,
    theory,
    settings: { ...base.settings, replications: 12, monteCarloDraws: 200, ...chosen },
  };
  try {
    return trial(definition, table) ?? "estimated";
  } catch (error) {
    if (error instanceof StudyProblem && error.message !== "") return "refused";
    return `an exception: ${String((error as Error).stack)
      .split("\n")
      .slice(0, 6)
      .join("\n")}`;
  }
}

/** Tries so many crossings. @returns how each ended, and the faults with what made them */
export function tryCrossings(runs: number, seed: number, trial: Trial = analysed) {
  const table = crossingTable();
  const counts = new Map<string, number>();
  const faults: (Crossing & { fault: string })[] = [];
  for (const crossing of fc.sample(crossings, { numRuns: runs, seed })) {
    const how = tryCrossing(crossing, table, trial);
    const kind = how === "estimated" || how === "refused" ? how : "fault";
    counts.set(kind, (counts.get(kind) ?? 0) + 1);
    if (kind === "fault") faults.push({ ...crossing, fault: how });
  }
  return { counts, faults };
}
