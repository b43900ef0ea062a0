import type { BootstrapSummary } from "../../inference";
import type {
  CompositeConstruct,
  CompositePath,
  CompositeSection,
  HtmtEvidence,
  Named,
  ResampledEvidence,
} from "../composite-types";
import type { SectionContext } from "../engine";
import {
  htmtLabel,
  loadingLabel,
  turnedLabel,
  weightLabel,
  type CompositeFit,
} from "./composite-fit";
import type { EstimatedGroup } from "./estimated-groups";
import { fitWords, methodWords } from "./fit-words";
import { htmtOf, pairsIn } from "./htmt";
import { recordOf } from "./record";
import { MODE_WORDS } from "./wording";

/** Everything a composite model says besides its effects. */
export function compositeSections(fit: CompositeFit, context: SectionContext): CompositeSection[] {
  const { groups, grouping, options, composite } = fit;
  const summaries = summariesOf(fit, context.bootstrap);
  const [first] = groups;
  const consistent = first!.built.model.consistent;
  return [
    {
      kind: "composites",
      method: {
        scheme: options.scheme,
        consistent,
        approach: composite.model.products.length > 0 ? options.approach : null,
        missing: options.missing,
        words: methodWords(fit),
      },
      groupVariable: grouping.variable,
      groups: groups.map((group) => ({
        group: group.name,
        result: recordOf(group.solution),
        constructs: constructsOf(group, summaries),
        htmt: htmtEvidence(group, summaries),
        paths: pathsOf(group),
      })),
      scores: scoresOf(fit),
      turned:
        groups.length === 1 && context.flags
          ? Object.fromEntries(
              first!.built.model.constructs.map(({ name }): [string, number] => [
                name,
                context.flags!.get(turnedLabel(name)) ?? 0,
              ]),
            )
          : null,
      exactFit: null,
      comparison: null,
      prediction: null,
      fitWords: fitWords(first!.solution),
    },
  ];
}

type Summaries = (label: string) => BootstrapSummary | null;

function summariesOf({ coefficients }: CompositeFit, bootstrap: SectionContext["bootstrap"]): Summaries {
  const at = new Map(coefficients.map((q, i) => [q.label, i]));
  return (label) => {
    const place = at.get(label);
    return place === undefined ? null : (bootstrap?.[place] ?? null);
  };
}

const resampled = (estimate: number, summary: BootstrapSummary | null): ResampledEvidence => ({
  estimate,
  se: summary?.se ?? null,
  lower: summary?.percentile?.lower ?? null,
  upper: summary?.percentile?.upper ?? null,
});

function constructsOf(
  { built, solution }: EstimatedGroup,
  summaries: Summaries,
): CompositeConstruct[] {
  const { plan, model } = built;
  const { start, constructs: c } = plan.layout;
  const structure = solution.consistent ?? solution.plain;
  const quality = solution.consistentQuality ?? solution.quality;
  const loadings = solution.consistentLoadings ?? solution.loadings;
  const own = built.stated.constructs;
  return model.constructs.map(({ name, mode, corrected, indicators: items }, j) => {
    const rootAve = Math.sqrt(quality[j]!.ave);
    const correlations = own.flatMap((_, l) =>
      l === j || j >= own.length
        ? []
        : [Math.abs(structure.correlations.values[j * c + l]!)],
    );
    const largest = correlations.length > 0 ? Math.max(...correlations) : null;
    const factor = corrected && model.consistent;
    return {
      construct: name,
      kind: items.length === 1 ? "single" : factor ? "factor" : "composite",
      words: factor ? "common factor, corrected for reliability" : MODE_WORDS[mode],
      items: items.map((item, i) => {
        const k = start[j]! + i;
        const all = own.map((_, l) => Math.abs(solution.crossLoadings[k * c + l]!));
        const most = all.indexOf(Math.max(...all));
        return {
          item,
          weight: resampled(solution.weights[k]!, summaries(weightLabel(name, item))),
          loading: resampled(loadings[k]!, summaries(loadingLabel(name, item))),
          vif: solution.indicatorVif[k]!,
          closerTo: j < own.length && most !== j ? own[most]!.name : null,
        };
      }),
      quality: {
        alpha: quality[j]!.alpha,
        alphaStandardised: quality[j]!.standardisedAlpha,
        rhoA: quality[j]!.rhoA,
        compositeReliability: quality[j]!.compositeReliability,
        ave: quality[j]!.ave,
      },
      rootAve,
      largestCorrelation: largest,
      fornellLarcker: largest === null || items.length === 1 ? null : rootAve > largest,
      vif: solution.constructVif[j] ?? null,
    };
  });
}

function htmtEvidence({ built, solution }: EstimatedGroup, summaries: Summaries): HtmtEvidence[] {
  const { start } = built.plan.layout;
  const own = built.stated.constructs;
  const plan = { blocks: own.map((_, j): [number, number] => [start[j]!, start[j + 1]!]) };
  const pairs = pairsIn(plan);
  const out = new Float64Array(pairs.length);
  htmtOf(solution.r, built.plan.layout.indicators, plan, out, 0);
  return pairs.map(([i, j], at) => {
    const [first, second] = [own[i]!.name, own[j]!.name];
    const limits = summaries(htmtLabel(first, second))?.percentile;
    return {
      first,
      second,
      htmt: out[at]!,
      lower: limits?.lower ?? null,
      upper: limits?.upper ?? null,
    };
  });
}

/** Paths with their sizes: of the equations with products where there are any, corrected where they are. */
function pathsOf({ built, solution }: EstimatedGroup): CompositePath[] {
  const { products } = built.stated;
  const equations = solution.stageTwo ?? (solution.consistent ?? solution.plain).equations;
  return equations.flatMap((e) =>
    e
      ? e.predictors.map((from, i): CompositePath => {
          const product = !built.stated.constructs.some((c) => c.name === from);
          return {
            from,
            to: e.outcome,
            estimate: e.coefficients[i]!,
            f2: e.f2[i]!,
            vif: e.vif[i]!,
            product,
            partOfProduct: products.some((p) => p.to === e.outcome && p.of.includes(from)),
          };
        })
      : [],
  );
}

function scoresOf({ groups, data, composite }: CompositeFit): CompositeSection["scores"] {
  const { rows } = data.sample;
  const names = composite.model.constructs.map((c) => c.name);
  const standardised: Named<number[]> = {};
  const raw: Named<number[] | null> = {};
  names.forEach((name, j) => {
    const own = new Array<number>(rows.length).fill(NaN);
    const unscaled = new Array<number>(rows.length).fill(NaN);
    let known = true;
    for (const { rows: places, solution } of groups) {
      const { weights, mean, sd, turned } = solution.raw[j]!;
      known &&= weights !== null;
      places.forEach((row, i) => {
        const score = solution.scores[j]![i]!;
        own[row] = score;
        unscaled[row] = mean + sd * (turned ? -score : score);
      });
    }
    standardised[name] = own;
    raw[name] = known ? unscaled : null;
  });
  return { rows: Array.from(rows, (row) => row + 1), standardised, raw };
}
