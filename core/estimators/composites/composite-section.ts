import { toldP, type BootstrapInterval, type BootstrapSummary } from "../../inference";
import { coefficientLabel } from "../../model";
import type { IntervalKind } from "../../study";
import type {
  CompositeConstruct,
  CompositePath,
  CompositeSection,
  HtmtEvidence,
  Named,
  ResampledEvidence,
} from "./types";
import type { SectionContext } from "../engine";
import type { FittedComposite, FurtherStudies } from "./fitted-composite";
import type { EstimatedGroup } from "./estimated-groups";
import { fitWords, methodWords } from "./fit-words";
import { htmtOf, meanBetween, meanWithin, pairsIn } from "./htmt";
import { htmtLabel, labelIn, loadingLabel, turnedLabel, weightLabel } from "./labels";
import { recordOf } from "./record";
import type { Product } from "./specification";
import { MODE_WORDS } from "./wording";

/** Everything a composite model says besides its effects. */
export function compositeSections(
  fit: FittedComposite,
  context: SectionContext,
): CompositeSection[] {
  const { groups, grouping, options, composite } = fit;
  const consistent = groups[0]!.built.model.consistent;
  const { comparisons, whole, byGroup } = context.complete ? fit.furtherStudies() : NOTHING_YET;
  const several = groups.length > 1;
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
      steps: [...new Set([...composite.coded.values()].map((column) => column.variable))],
      groups: groups.map((group, g) => {
        const summaries = summariesOf(fit, g, context);
        return {
          group: group.name,
          result: recordOf(group.solution),
          constructs: constructsOf(group, summaries),
          htmt: htmtEvidence(group, summaries),
          paths: pathsOf(group, fit, summaries),
        };
      }),
      scores: scoresOf(fit),
      turned: several ? null : turnedIn(fit, 0, context),
      exactFit: whole.exactFit,
      comparisons,
      prediction: whole.prediction,
      byGroup: several
        ? groups.map(({ name }, g) => ({
            group: name,
            turned: turnedIn(fit, g, context),
            exactFit: byGroup[g]?.exactFit ?? null,
            prediction: byGroup[g]?.prediction ?? null,
          }))
        : [],
      fitWords: groups.flatMap(({ solution, name }) => fitWords(solution, several ? name : null)),
    },
  ];
}

/** In how many replicates each score of a group points the other way; null before there are any. */
function turnedIn(fit: FittedComposite, g: number, { flags }: SectionContext): Named | null {
  return (
    flags &&
    Object.fromEntries(
      fit.groups[g]!.built.model.constructs.map(({ name }): [string, number] => [
        name,
        flags.get(groupLabel(fit, g, turnedLabel(name))) ?? 0,
      ]),
    )
  );
}

const groupLabel = ({ grouping }: FittedComposite, g: number, label: string): string =>
  labelIn(g === 0 ? null : grouping.names[g]!, label);

/** What takes long, before everything else has been said. */
const NOTHING_YET: FurtherStudies = {
  comparisons: [],
  whole: { exactFit: null, prediction: null },
  byGroup: [],
};

/** What resamples say of a parameter of one group, by its label without the group. */
interface Summaries {
  of(label: string): BootstrapSummary | null;
  interval: IntervalKind;
  /** A parameter as it is reported; null where there is none of that name. */
  reported(label: string): ResampledEvidence | null;
}

function summariesOf(fit: FittedComposite, g: number, context: SectionContext): Summaries {
  const { coefficients, parameters } = fit;
  const at = new Map(coefficients.map((q, i) => [q.label, i]));
  const theta = fit.vector();
  const summaries: Summaries = {
    of: (label) => {
      const place = at.get(groupLabel(fit, g, label));
      return place === undefined ? null : (context.bootstrap?.[place] ?? null);
    },
    interval: context.interval,
    reported: (label) => {
      const place = parameters.index.get(groupLabel(fit, g, label));
      if (place === undefined) return null;
      return resampled(theta[place]!, label, summaries);
    },
  };
  return summaries;
}

function resampled(
  estimate: number,
  label: string,
  { of, interval }: Summaries,
): ResampledEvidence {
  const summary = of(label);
  const limits = summary && limitsOf(summary, interval);
  return {
    estimate,
    se: summary?.se ?? null,
    lower: limits?.lower ?? null,
    upper: limits?.upper ?? null,
    p: limits ? toldP(limits, summary!.used) : null,
    pIsBound: limits?.pIsBound ?? false,
  };
}

function limitsOf(summary: BootstrapSummary, interval: IntervalKind): BootstrapInterval | null {
  switch (interval) {
    case "bca":
    case "bc":
    case "basic":
    case "normal":
      return summary[interval];
    default:
      return summary.percentile;
  }
}

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
      l === j || j >= own.length ? [] : [Math.abs(structure.correlations.values[j * c + l]!)],
    );
    const largest = correlations.length > 0 ? Math.max(...correlations) : null;
    const factor = corrected && model.consistent;
    return {
      construct: name,
      weighting: items.length === 1 ? "single" : mode,
      kind: items.length === 1 ? "single" : factor ? "factor" : "composite",
      words: factor ? "common factor, corrected for reliability" : MODE_WORDS[mode],
      items: items.map((item, i) => {
        const k = start[j]! + i;
        const all = own.map((_, l) => Math.abs(solution.crossLoadings[k * c + l]!));
        const most = all.indexOf(Math.max(...all));
        return {
          item,
          weight: resampled(solution.weights[k]!, weightLabel(name, item), summaries),
          loading: resampled(loadings[k]!, loadingLabel(name, item), summaries),
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
  const p = built.plan.layout.indicators;
  htmtOf(solution.r, p, plan, out, 0);
  return pairs.map(([i, j], at) => {
    const [first, second] = [own[i]!.name, own[j]!.name];
    const limits = summaries.of(htmtLabel(first, second))?.percentile;
    return {
      first,
      second,
      htmt: out[at]!,
      between: meanBetween(solution.r, p, plan.blocks[i]!, plan.blocks[j]!),
      within: [
        meanWithin(solution.r, p, plan.blocks[i]!),
        meanWithin(solution.r, p, plan.blocks[j]!),
      ],
      lower: limits?.lower ?? null,
      upper: limits?.upper ?? null,
    };
  });
}

/**
 * Paths with their sizes: of the equations with products where there are any, corrected where they
 * are.
 */
function pathsOf(
  { built, solution }: EstimatedGroup,
  fit: FittedComposite,
  summaries: Summaries,
): CompositePath[] {
  const { products } = built.stated;
  const equations = solution.stageTwo ?? (solution.consistent ?? solution.plain).equations;
  return equations.flatMap((e) =>
    e
      ? e.predictors.map((from, i): CompositePath => {
          const product = products.find(({ of: [x, w] }) => from === `${x} x ${w}`);
          const key = product ? productKey(fit, product) : from;
          return {
            from,
            to: e.outcome,
            estimate: e.coefficients[i]!,
            reported: summaries.reported(coefficientLabel(e.outcome, key)),
            f2: e.f2[i]!,
            vif: e.vif[i]!,
            product: product !== undefined,
            partOfProduct: products.some((p) => p.to === e.outcome && p.of.includes(from)),
          };
        })
      : [],
  );
}

/** The column of a product, as coefficients name it. */
function productKey({ products }: FittedComposite, { of, to }: Product): string {
  const own = products.find(
    ({ outcome, components }) =>
      outcome === to && of.every((name, i) => components[i]!.key === name),
  );
  return own!.column.key;
}

function scoresOf({ groups, data, composite }: FittedComposite): CompositeSection["scores"] {
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
