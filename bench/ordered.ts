import { readFileSync, writeFileSync } from "node:fs";
import {
  Analysis,
  DEFAULT_SETTINGS,
  guessVariable,
  newDefinition,
  StudyProblem,
  TableBuilder,
  type StudyDefinition,
  type Table,
} from "../core";
import { zQuantile } from "../core/numerics/distributions";
import { RandomStream } from "../core/numerics/random";

/** Three factors of four items, mediation among them; the model that is fitted holds. */
const FACTORS = ["x", "m", "y"];
const ITEMS = FACTORS.flatMap((f) => [1, 2, 3, 4].map((k) => `${f}${k}`));
const LOADINGS = [0.8, 0.7, 0.7, 0.6];
const [A, B, C] = [0.5, 0.5, 0.2] as const;
const SEED = 20261202;

const THEORY = `measure x reflects x1, x2, x3, x4
measure m reflects m1, m2, m3, m4
measure y reflects y1, y2, y3, y4
H1: x raises y through m`;

/** Shares of the levels, from the lowest. */
const SHARES: Record<string, number[]> = {
  "2 levels, even": [0.5, 0.5],
  "2 levels, skewed": [0.2, 0.8],
  "3 levels, even": [0.25, 0.5, 0.25],
  "3 levels, skewed": [0.1, 0.25, 0.65],
  "5 levels, even": [0.07, 0.24, 0.38, 0.24, 0.07],
  "5 levels, skewed": [0.04, 0.06, 0.15, 0.3, 0.45],
};

/** The unstandardised indirect effect, on the scale of the first items. */
const TRUE_INDIRECT = A * B;

function sample(shares: readonly number[], n: number, index: number): Table {
  const stream = new RandomStream(SEED, index);
  let below = 0;
  const thresholds = shares.slice(0, -1).map((share) => zQuantile((below += share)));
  const builder = new TableBuilder(ITEMS);
  for (let r = 0; r < n; r++) {
    const x = stream.normal();
    const m = A * x + Math.sqrt(1 - A * A) * stream.normal();
    const rest = 1 - (B * B + C * C + 2 * A * B * C);
    const y = B * m + C * x + Math.sqrt(rest) * stream.normal();
    builder.add(
      [x, m, y].flatMap((factor) =>
        LOADINGS.map((loading) => {
          const tendency = loading * factor + Math.sqrt(1 - loading * loading) * stream.normal();
          return String(1 + thresholds.filter((tau) => tendency > tau).length);
        }),
      ),
    );
  }
  return builder.build();
}

const studyOf = (table: Table): StudyDefinition => ({
  ...newDefinition("ordered", table.columns.map(guessVariable)),
  theory: THEORY,
  settings: {
    ...DEFAULT_SETTINGS,
    replications: 0,
    interval: "delta",
    options: { answers: "ordered" },
  },
});

/**
 * Rejection of a true model by the scaled and shifted test, and by the mean-adjusted one; coverage of
 * the indirect effect by the delta method (first loadings are alike, so a b is the same in the units
 * of the first items).
 * @returns a row of the table
 */
function row(name: string, n: number, samples: number): string {
  let [rejected, adjusted, covered, failed] = [0, 0, 0, 0];
  for (let k = 0; k < samples; k++) {
    try {
      const table = sample(SHARES[name]!, n, k);
      const { sections, effects } = Analysis.of(studyOf(table), table).evidence();
      const shifted = sections.flatMap((s) =>
        s.kind === "structure" ? (s.fit?.shifted ?? []) : [],
      )[0]!;
      if (shifted.p! < 0.05) rejected += 1;
      if (shifted.meanAdjusted.p < 0.05) adjusted += 1;
      const { shown } = effects.find((e) => e.id === "indirect x > m > y")!;
      if (shown!.lower! < TRUE_INDIRECT && TRUE_INDIRECT < shown!.upper!) covered += 1;
    } catch (error) {
      if (!(error instanceof StudyProblem)) throw error;
      failed += 1;
    }
  }
  const done = samples - failed;
  const share = (count: number): string => ((100 * count) / done).toFixed(1);
  return `| ${name} | ${n} | ${share(rejected)} | ${share(adjusted)} | ${share(covered)} | ${failed} |`;
}

/** Rows of docs/calibration-ordered.md, written there between its marks. */
export function calibrateOrdered(samples: number): void {
  const rows = Object.keys(SHARES).flatMap((name) =>
    [200, 500].map((n) => {
      const line = row(name, n, samples);
      process.stderr.write(`${line}\n`);
      return line;
    }),
  );
  const document = new URL("../docs/calibration-ordered.md", import.meta.url);
  const head = readFileSync(document, "utf8").split("| answers")[0]!;
  const table = [
    "| answers | n | rejected, scaled and shifted % | rejected, mean-adjusted % | coverage of the indirect effect % | no estimate |",
    "| ------- | - | ------------------------------ | ------------------------- | --------------------------------- | ----------- |",
    ...rows,
  ].join("\n");
  writeFileSync(document, `${head}${table}\n`);
}
