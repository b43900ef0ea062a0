import type {
  CompositeResult,
  ConstructQualityEvidence,
  Named,
  StageTwoEvidence,
  StructuralEvidence,
} from "./types";
import type { BuiltComposite } from "./model";
import { distinctProducts } from "./model";
import type { RawConstruct } from "./raw-scores";
import type { CompositeSolution, ConstructQuality, StructuralResult } from "./solution";
import { productName } from "./specification";
import type { EquationResult } from "./structural";

/** A solution by names, as it stands in the evidence. */
export function recordOf(solution: CompositeSolution): CompositeResult {
  const { built, plain, consistent } = solution;
  const names = built.model.constructs.map((c) => c.name);
  return {
    n: built.n,
    converged: solution.converged,
    rounds: solution.rounds,
    weights: byBlock(built, (k) => solution.weights[k]!),
    loadings: byBlock(built, (k) => solution.loadings[k]!),
    crossLoadings: Object.fromEntries(
      built.indicators.map((item, k) => [
        item,
        Object.fromEntries(
          names.map((name, j) => [name, solution.crossLoadings[k * names.length + j]!]),
        ),
      ]),
    ),
    vifOuter: byBlock(built, (k) => solution.indicatorVif[k]!),
    vifConstruct: Object.fromEntries(
      built.stated.constructs.map(({ name }, j) => [name, solution.constructVif[j]!]),
    ),
    ...structure(built, plain, solution.quality),
    fit: solution.fit,
    unstandardised: unstandardised(built, solution.raw, plain),
    consistent:
      consistent && solution.consistentQuality && solution.consistentLoadings
        ? {
            ...structure(built, consistent, solution.consistentQuality),
            fit: solution.consistentFit,
            rho: Object.fromEntries(names.map((name, j) => [name, solution.rho[j]!])),
            loadings: byBlock(built, (k) => solution.consistentLoadings![k]!),
          }
        : null,
    stageTwo: solution.stageTwo && stageTwo(solution),
    rescaledInteractions: rescaled(solution),
  };
}

/** Construct, then indicator. */
function byBlock<T>({ model, plan }: BuiltComposite, value: (k: number) => T): Named<Named<T>> {
  return Object.fromEntries(
    model.constructs.map(({ name, indicators }, j) => [
      name,
      Object.fromEntries(indicators.map((item, i) => [item, value(plan.layout.start[j]! + i)])),
    ]),
  );
}

const outcomesOf = ({ model }: BuiltComposite): string[] =>
  model.constructs.map((c) => c.name).filter((name) => model.paths.some(([, to]) => to === name));

const named = (predictors: readonly string[], values: ArrayLike<number>): Named =>
  Object.fromEntries(predictors.map((name, i) => [name, values[i]!]));

function byOutcome<T>(
  built: BuiltComposite,
  equations: readonly (EquationResult | null)[],
  value: (equation: EquationResult) => T,
): Named<T | null> {
  return Object.fromEntries(
    outcomesOf(built).map((name, e) => [name, equations[e] ? value(equations[e]) : null]),
  );
}

function structure(
  built: BuiltComposite,
  { correlations, equations, effects }: StructuralResult,
  quality: ConstructQuality[],
): Omit<StructuralEvidence, "fit"> {
  const { names, values } = correlations;
  const c = names.length;
  return {
    constructCorrelations: Object.fromEntries(
      names.map((name, i) => [name, named(names, values.subarray(i * c, (i + 1) * c))]),
    ),
    paths: byOutcome(built, equations, (e) => named(e.predictors, e.coefficients)),
    r2: byOutcome(built, equations, (e) => e.r2),
    r2Adjusted: byOutcome(built, equations, (e) => e.adjustedR2),
    f2: byOutcome(built, equations, (e) => named(e.predictors, e.f2)),
    vifInner: byOutcome(built, equations, (e) => named(e.predictors, e.vif)),
    effects,
    quality: Object.fromEntries(
      names.map((name, j): [string, ConstructQualityEvidence] => {
        const { alpha, standardisedAlpha, rhoA, compositeReliability, ave } = quality[j]!;
        return [
          name,
          { alpha, alphaStandardised: standardisedAlpha, rhoA, compositeReliability, ave },
        ];
      }),
    ),
  };
}

/**
 * Weights, means and paths on the items' own scale: the regressions of raw scores, from those of
 * standardised ones.
 */
function unstandardised(
  built: BuiltComposite,
  raw: readonly RawConstruct[],
  { equations }: StructuralResult,
): CompositeResult["unstandardised"] {
  const { model } = built;
  const of = new Map(model.constructs.map(({ name }, j) => [name, raw[j]!]));
  const scale = (name: string): number => of.get(name)!.sd * (of.get(name)!.turned ? -1 : 1);
  const known = (name: string): boolean => of.get(name)!.weights !== null;
  return {
    weightsSumToOne: Object.fromEntries(
      model.constructs.map(({ name, indicators }) => [
        name,
        known(name) ? named(indicators, of.get(name)!.weights!) : null,
      ]),
    ),
    paths: byOutcome(built, equations, ({ outcome, predictors, coefficients }) => {
      if (![outcome, ...predictors].every(known)) return null;
      const slopes = coefficients.map((b, i) => (b * scale(outcome)) / scale(predictors[i]!));
      const intercept = predictors.reduce(
        (left, name, i) => left - slopes[i]! * of.get(name)!.mean,
        of.get(outcome)!.mean,
      );
      return { "(intercept)": intercept, ...named(predictors, slopes) };
    }),
    scoreMean: Object.fromEntries(
      model.constructs.map(({ name }) => [name, known(name) ? of.get(name)!.mean : null]),
    ),
    scoreSd: Object.fromEntries(
      model.constructs.map(({ name }) => [name, known(name) ? of.get(name)!.sd : null]),
    ),
    turned: model.constructs.map((c) => c.name).filter((name) => of.get(name)!.turned),
  };
}

function stageTwo(solution: CompositeSolution): StageTwoEvidence {
  const { built, productSds, productReliability } = solution;
  const equations = solution.stageTwo!;
  const pick = <T>(value: (e: NonNullable<(typeof equations)[number]>) => T): Named<T | null> =>
    Object.fromEntries(
      outcomesOf(built).map((name, e) => [name, equations[e] ? value(equations[e]) : null]),
    );
  const withProducts = equations.flatMap((e) => (e?.r2Without != null ? [e] : []));
  return {
    coefficients: pick((e) => ({
      "(intercept)": e.intercept,
      ...named(e.predictors, e.coefficients),
    })),
    r2: pick((e) => e.r2),
    r2Adjusted: pick((e) => e.adjustedR2),
    r2WithoutProducts: Object.fromEntries(withProducts.map((e) => [e.outcome, e.r2Without!])),
    f2: pick((e) => named(e.predictors, e.f2)),
    vif: pick((e) => named(e.predictors, e.vif)),
    productSd: productSds,
    coefficientsStandardisedProduct: Object.fromEntries(
      withProducts.map((e) => [
        e.outcome,
        Object.fromEntries(
          e.predictors.flatMap((name, i) =>
            Object.hasOwn(productSds, name)
              ? [[name, e.coefficients[i]! * productSds[name]!] as const]
              : [],
          ),
        ),
      ]),
    ),
    productReliability,
  };
}

function rescaled({
  built,
  plain,
  productSds,
}: CompositeSolution): CompositeResult["rescaledInteractions"] {
  const { approach } = built.stated;
  if (approach !== "centred" && approach !== "standardised") return {};
  return Object.fromEntries(
    distinctProducts(built.stated.products).map((pair) => {
      const name = productName(pair);
      const sd = productSds[name]!;
      return [
        name,
        plain.equations.flatMap((e) => {
          const at = e?.predictors.indexOf(name) ?? -1;
          return e && at >= 0
            ? [{ to: e.outcome, sdOfScoreProduct: sd, estimate: e.coefficients[at]! / sd }]
            : [];
        }),
      ];
    }),
  );
}
