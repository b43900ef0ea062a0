import { describe, expect, it } from "vitest";
import { latentStudy } from "../../../bench/latent";
import { Analysis } from "../../analysis";
import { TableBuilder, type Table } from "../../data";
import { RandomStream } from "../../numerics/random";
import type { Settings } from "../../study";

const N = 160;
const MEASURES = [
  "measure F reflects x1, x2, x3",
  "measure G reflects m1, m2, m3",
  "measure H reflects y1, y2, y3",
].join("\n");

/** The rows of a table in another order, some of them several times. */
function repeated(table: Table, rows: readonly number[]): Table {
  const builder = new TableBuilder(table.columns.map((c) => c.name));
  for (const row of rows) builder.add(table.columns.map((c) => c.dictionary[c.codes[row]!]!));
  return builder.build();
}

/** Two groups of 80 rows beside the items. */
function withSite(table: Table): Table {
  const builder = new TableBuilder([...table.columns.map((c) => c.name), "site"]);
  for (let row = 0; row < table.rows; row++)
    builder.add([
      ...table.columns.map((c) => c.dictionary[c.codes[row]!]!),
      row < N / 2 ? "a" : "b",
    ]);
  return builder.build();
}

describe("a replicate is the analysis of its rows", () => {
  it.each<[string, string, Partial<Settings>, number]>([
    ["maximum likelihood", "H1: F raises H through G", {}, 0],
    ["covariances only", "H1: F raises H through G", { options: { means: "no" } }, 0],
    ["a variance of one", "H1: F raises H through G", { options: { scaling: "variance" } }, 0],
    ["matched products", "H1: F raises H\nH2: G alters F to H", {}, 0],
    [
      "all products, residual centring",
      "H1: F raises H\nH2: G alters F to H",
      { options: { interactions: "all_residual" } },
      0,
    ],
    ["products with an observed variable", "H1: F raises H\nH2: m4 alters F to H", {}, 0],
    [
      "all products with an observed variable",
      "H1: F raises H\nH2: m4 alters F to H",
      { options: { interactions: "all_double" } },
      0,
    ],
    ["everybody", "H1: F raises H through G", { options: { missing: "everybody" } }, 0.1],
    [
      "everybody, with matched products",
      "H1: F raises H\nH2: G alters F to H",
      { options: { missing: "everybody" } },
      0.06,
    ],
    [
      "everybody, with an observed moderator",
      "H1: F raises H\nH2: m4 alters F to H",
      { options: { missing: "everybody" } },
      0.06,
    ],
    [
      "everybody, with residual centring",
      "H1: F raises H\nH2: G alters F to H",
      { options: { missing: "everybody", interactions: "matched_residual" } },
      0.06,
    ],
    [
      "groups of products",
      "H1: F raises H\nH2: G alters F to H\ngroups by site with loadings equal",
      {},
      0,
    ],
    [
      "DWLS with products",
      "H1: F raises H\nH2: G alters F to H",
      { options: { estimator: "dwls" } },
      0,
    ],
    ["groups", "H1: F raises H through G\ngroups by site with loadings equal", {}, 0],
    [
      "groups with equal intercepts",
      "H1: F raises H through G\ngroups by site with loadings and intercepts and paths equal",
      {},
      0,
    ],
    ["GLS", "H1: F raises H through G", { options: { estimator: "gls" } }, 0],
    ["DWLS", "H1: F raises H through G", { options: { estimator: "dwls" } }, 0],
    ["a constraint", "H1: F raises H through G\nhold F to G equal to G to H", {}, 0],
  ])("%s", (_, sentences, settings, missing) => {
    const made = latentStudy(N, { replications: 2, ...settings }, { missing, loading: 0.8 });
    const table = withSite(made.table);
    const stream = new RandomStream();
    stream.key(5, 1);
    // Within the groups, so that their sizes stay.
    const rows = Array.from(
      { length: N },
      (__, i) => (i < N / 2 ? 0 : N / 2) + stream.below(N / 2),
    );
    const study = {
      ...made.study,
      variables: [...made.study.variables, { name: "site", level: "categorical" as const }],
      theory: `${MEASURES}\n${sentences}`,
    };
    const replicates = Analysis.of({ ...study, resamples: [rows, rows] }, table).complete()
      .made[0]!;
    const whole = Analysis.of(
      { ...study, settings: { ...study.settings, replications: 0, interval: "delta" } },
      repeated(table, rows),
    ).prepared;
    expect(replicates.size).toBe(whole.theta.length);
    whole.fit.parameters.labels.forEach((label, at) =>
      expect(replicates.values[at], label).toBeCloseTo(whole.theta[at]!, 5),
    );
    expect(Array.from(replicates.values.subarray(0, replicates.size))).toEqual(
      Array.from(replicates.values.subarray(replicates.size)),
    );
  });
});
