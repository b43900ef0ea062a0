import { describe, expect, it } from "vitest";
import type { EffectEvidence, Evidence } from "../core";
import { expectedOf, readComposite } from "./composite-kit";
import { runComposite, sectionOf, theoryOf } from "./composite-study";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const close = (found: number | null | undefined, wanted: number, tolerance = 1e-6): void =>
  expect(Math.abs(found! - wanted)).toBeLessThanOrEqual(
    Math.max(tolerance * Math.abs(wanted), 1e-8),
  );

// What is moderated is averaged over the sample, whose scores have mean zero: the effect at the middle.
const DIRECT = ["direct", "average_direct"];
const INDIRECT = ["specific_indirect", "average_indirect"];

/** The effect that a file calls `A -> B`, `indirect A -> B -> C`. */
function effectOf({ effects }: Evidence, name: string): EffectEvidence {
  const indirect = name.startsWith("indirect ");
  const nodes = name.replace("indirect ", "").split(" -> ");
  const [from, to] = [nodes[0], nodes.at(-1)];
  return effects.find(
    (e) => e.from === from && e.to === to && (indirect ? INDIRECT : DIRECT).includes(e.kind),
  )!;
}

function agrees(found: EffectEvidence["bootstrap"], estimate: number | null, wanted: any): void {
  close(estimate, wanted.estimate);
  close(found!.se, wanted.bootstrap_se);
  close(estimate! + found!.bias, wanted.bootstrap_mean);
  if (wanted.z0 !== 0) close(found!.z0, wanted.z0);
  close(found!.acceleration, wanted.acceleration);
  for (const kind of ["percentile", "bc", "bca"] as const) {
    close(found![kind]!.lower, wanted[kind][0]);
    close(found![kind]!.upper, wanted[kind][1]);
  }
}

describe("resamples made elsewhere", () => {
  it("give the intervals of a mediation, and those of exact fit", () => {
    const name = "bootstrap-supplied-resamples";
    const e = expectedOf(name);
    const evidence = runComposite(
      name,
      theoryOf(e.model),
      { replications: 200, options: { exact_fit: 200, folds: 0 } },
      { resamples: "resamples.csv" },
    );
    expect(evidence.bootstrap).toMatchObject({ done: 200, failed: 0 });
    for (const [path, wanted] of Object.entries<any>(e.intervals_95)) {
      const effect = effectOf(evidence, path);
      agrees(effect.bootstrap, effect.estimate, wanted);
    }
    expect(sectionOf(evidence).turned).toEqual(e.sign_flips);
    const { measures, first } = sectionOf(evidence).exactFit!;
    expect(measures.length).toBe(6);
    for (const { model, measure, value, upper95, upper99, p } of measures) {
      const own = e.exact_fit[model][{ srmr: "srmr", dUls: "d_uls", dG: "d_g" }[measure]];
      close(value, own.observed);
      close(upper95, own.quantile_95);
      close(upper99, own.quantile_99);
      close(p, own.p);
      close(first[`${model} ${measure}`]![0], own.first_replicate);
    }
  });

  it("give the intervals of a moderated mediation by two stages", () => {
    const name = "bootstrap-moderated-mediation";
    const e = expectedOf(name);
    const evidence = runComposite(
      name,
      theoryOf(e.model),
      { replications: 200, options: { folds: 0 } },
      { resamples: "resamples.csv" },
    );
    for (const [path, wanted] of Object.entries<any>(e.intervals_95)) {
      if (path.includes(" x ") || path.startsWith("index")) continue;
      const effect = effectOf(evidence, path);
      agrees(effect.bootstrap, effect.estimate, wanted);
    }
    const index = evidence.effects.find((f) => f.kind === "index")!;
    agrees(index.bootstrap, index.estimate, e.intervals_95["index of moderated mediation"]);
    const [product] = sectionOf(evidence).groups[0]!.paths.filter((p) => p.product);
    const wanted = e.intervals_95["Advice x Belonging -> Skill"];
    close(product!.reported!.estimate, wanted.estimate);
    close(product!.reported!.se, wanted.bootstrap_se);
    close(product!.reported!.lower, wanted.bca[0]);
    close(product!.reported!.upper, wanted.bca[1]);
    const conditional = evidence.effects.filter((f) => f.kind === "conditional_indirect");
    for (const [label, own] of Object.entries<any>(e.conditional_indirect_intervals_95)) {
      const found = conditional.find(
        (f) => Math.abs(f.estimate! - own.estimate) < 1e-8 * Math.abs(own.estimate),
      );
      expect(found, label).toBeDefined();
      agrees(found!.bootstrap, found!.estimate, own);
    }
  });

  it("drawn here agree with 20,000 drawn elsewhere as closely as chance allows", () => {
    const name = "bootstrap-moderated-mediation";
    const e = expectedOf(name);
    const evidence = runComposite(name, theoryOf(e.model), {
      replications: 5000,
      options: { folds: 0 },
    });
    for (const [path, wanted] of Object.entries<any>(e.large_b)) {
      if (path.includes(" x ")) continue;
      const found = path.startsWith("index")
        ? evidence.effects.find((f) => f.kind === "index")!.bootstrap!
        : effectOf(evidence, path).bootstrap!;
      for (const kind of ["percentile", "bc", "bca"] as const)
        ["lower", "upper"].forEach((end, i) =>
          expect(
            Math.abs(found[kind]![end as "lower" | "upper"] - wanted[kind][i]),
            `${path} ${kind} ${end}`,
          ).toBeLessThan(wanted.tolerance_b_5000[kind][i]),
        );
    }
  }, 60_000);
});

describe("two groups by permutations made elsewhere", () => {
  const name = "micom-permutation";
  const e = expectedOf(name);
  const run = (theory: string[], more = {}): Evidence =>
    runComposite(
      name,
      [...theory, "groups by group"],
      { options: { permutations: 99 } },
      { permutations: "permutations.csv", ...more },
    );
  const [comparison] = sectionOf(run(theoryOf(e.model))).comparisons;

  it("measure alike or not, construct by construct", () => {
    expect(comparison!.permutations - comparison!.failed).toBe(e.usable_permutations);
    for (const { construct, compositional, means, variances, step } of comparison!.constructs) {
      const wanted = e.compositional[construct];
      close(compositional.estimate, wanted.c);
      close(compositional.limit, wanted.quantile_5);
      close(compositional.p, wanted.p);
      expect(compositional.invariant).toBe(wanted.invariant);
      for (const [found, own] of [
        [means, e.means[construct]],
        [variances, e.variances[construct]],
      ] as const) {
        close(found.estimate, own.difference);
        close(found.lower, own.lower);
        close(found.upper, own.upper);
        close(found.p, own.p);
        expect(found.equal).toBe(own.equal);
      }
      expect(step).toBe(e.step[construct]);
    }
  });

  it("differ in their paths or not", () => {
    for (const { from, to, first, second, estimate, lower, upper, p } of comparison!.paths) {
      const own = e.path_differences[`${from} -> ${to}`];
      close(estimate, own.difference);
      close(lower, own.lower);
      close(upper, own.upper);
      close(p, own.p);
      close(first, e.paths_group_1[to][from]);
      close(second, e.paths_group_2[to][from]);
    }
    expect(comparison!.paths.length).toBe(2);
  });

  it("say so in words", () => {
    expect(comparison!.words.join(" ")).toMatch(/Not measured alike: Skill/);
  });
});

describe("prediction over folds that a column tells", () => {
  const name = "predict-folds";
  const e = expectedOf(name);
  const evidence = runComposite(name, theoryOf(e.model), {
    options: { fold_column: "fold" },
  });
  const prediction = sectionOf(evidence).prediction!;

  it("has the errors of an independent implementation", () => {
    expect(prediction.folds).toBe(e.folds);
    expect(prediction.items.map((i) => i.item)).toEqual(Object.keys(e.indicators));
    for (const { item, q2, rmse, mae, benchmark } of prediction.items) {
      const own = e.indicators[item];
      close(q2, own.q2_predict);
      close(rmse, own.rmse);
      close(mae, own.mae);
      close(benchmark.q2, own.lm_q2_predict);
      close(benchmark.rmse, own.lm_rmse);
      close(benchmark.mae, own.lm_mae);
    }
    const better = prediction.items.filter((i) => i.rmse < i.benchmark.rmse).length;
    expect(better).toBe(e.indicators_with_rmse_below_benchmark);
    expect(prediction.verdict).toBe("medium");
  });

  it("does not depend on how folds are called, nor on the order of rows", () => {
    const [head, ...rows] = readComposite(name, "data.csv").trim().split(/\r?\n/);
    const at = head!.split(",").indexOf("fold");
    const renamed = rows.toReversed().map((row) => {
      const cells = row.split(",");
      cells[at] = `f${cells[at]}`;
      return cells.join(",");
    });
    const again = runComposite(
      name,
      theoryOf(e.model),
      { options: { fold_column: "fold" } },
      { data: { text: [head, ...renamed].join("\n") } },
    );
    sectionOf(again).prediction!.items.forEach((item, i) =>
      close(item.rmse, prediction.items[i]!.rmse, 1e-9),
    );
  });
});
