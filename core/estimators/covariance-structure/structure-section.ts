import { normalTest } from "../../model";
import type { CovarianceKind } from "../../study";
import type { CompiledTheory } from "../../theory";
import type {
  ArrowEvidence,
  FitEvidence,
  InformationEvidence,
  LatentInteractionEvidence,
  StructureSection,
} from "./types";
import { bollenStine } from "./bollen-stine";
import { changesOf } from "./changes";
import { comparisonsOfGroups, testsOfHolds } from "./group-comparisons";
import type { Estimates } from "./estimates";
import type { FittedModel } from "./fitted-model";
import { STRUCTURE_ERRORS } from "./error-matrices";
import { residualMatrices, type ScaledFit } from "./fit-measures";
import { fitWords, methodWords } from "./fit-words";
import { improperSolutions } from "./improper";
import { chiSquaredP } from "../../numerics/distributions";
import { momentsCompared, type ModelFit } from "./model-fit";
import { moderatedTable } from "./moderated-table";
import { measurementQuality } from "./quality";
import { scoreTests } from "./score-tests";
import { generalisedResiduals, orderedEvidence } from "./ordered/evidence";
import { parameterTable, standardErrors, type ArrowEstimate } from "./parameter-table";
import { arrowScale } from "./product-units";
import { deltaError, differentiated, explainedShares } from "./standardised";
import type { TheoryModel } from "./theory-model";

export interface SectionChoices {
  level: number;
  errors: CovarianceKind;
  theory: CompiledTheory;
  /** What takes a moment may be resampled. */
  resampled: boolean;
  seed: number;
  /** Resamples made elsewhere. */
  given: readonly Int32Array[] | null;
}

/** Everything that a model of means and covariances says besides its effects. */
export function structureSections(
  model: TheoryModel,
  estimates: Estimates,
  choices: SectionChoices,
): StructureSection[] {
  const { fitted, moderated } = estimates;
  const { spec, sample } = fitted;
  const errors = choices.errors as ArrowEstimateKind;
  const table = moderated ? moderatedTable(moderated, errors) : parameterTable(fitted, errors);
  const df = fitted.moments - fitted.parameters;
  const tests = moderated ? [] : scoreTests(fitted);
  return [
    {
      kind: "structure",
      method: {
        estimator: spec.estimator,
        missing:
          sample.missing || (fitted.ordered && sample.groups[0]!.patterns.length > 1)
            ? "everybody"
            : "complete",
        means: spec.means,
        scaling: model.options.scaling,
        convention: spec.convention,
        interactions:
          model.built.products.length + model.built.interactions.length > 0
            ? model.options.interactions
            : null,
        errors,
        level: choices.level,
        words: methodWords(model, fitted, errors),
      },
      counts: {
        n: fitted.n,
        byGroup: sample.groups.map((g) => ({ group: g.name, n: g.n })),
        observed: spec.observed.length,
        moments: fitted.moments,
        parameters: moderated ? moderated.theta.length : fitted.parameters,
        df,
        emptyCases: sample.empty,
        patterns: sample.groups.reduce((sum, g) => sum + g.patterns.length, 0),
        iterations: fitted.iterations,
      },
      observed: spec.observed,
      latent: spec.latent,
      groups: spec.groups.map((g) => g.name),
      groupVariable: model.grouping.variable,
      arrows: table.map((row) => arrowEvidence(row, errors, choices.level, model)),
      r2: moderated
        ? moderatedR2(estimates)
        : fitted.models.flatMap((each, g) =>
            [...explainedShares(each, fitted.implied[g]!)].map(([variable, value]) => ({
              group: spec.groups[g]!.name,
              variable,
              value,
            })),
          ),
      fit: moderated
        ? null
        : {
            ...fitEvidence(fitted.fit),
            bollenStine:
              model.options.bollenStine > 0
                ? bollenStine(fitted, model.options.bollenStine, choices.seed, choices.given)
                : null,
          },
      information: informationOf(estimates),
      fitWords: moderated ? [] : fitWords(fitted.fit, spec.estimator),
      residuals: moderated ? [] : residualsOf(fitted),
      saturated: sample.missing
        ? sample.groups.map((group, g) => ({
            group: group.name,
            means: [...group.saturated.means].map((m, i) => m + sample.centres[g]![i]!),
            covariance: rowsOf(group.saturated.covariance, spec.observed.length),
          }))
        : null,
      changes: moderated ? [] : changesOf(model, fitted, choices.theory, tests),
      measurement: moderated
        ? []
        : measurementQuality(model, fitted, tests, choices.resampled ? choices : null),
      improper: moderated ? [] : improperSolutions(fitted).map((each) => ({ ...each })),
      ...orderedPart(model, fitted, choices.level),
      interactions: interactionsOf(model, estimates),
      likelihoodRatio: moderated && likelihoodRatio(estimates),
      ...comparisonsOfGroups(model, estimates, errors),
      constraints: moderated ? [] : testsOfHolds(model, estimates),
    },
  ];
}

const orderedPart = (
  model: TheoryModel,
  fitted: FittedModel,
  level: number,
): Pick<StructureSection, "ordered"> =>
  fitted.ordered ? { ordered: orderedEvidence(model, fitted, fitted.ordered, level) } : {};

const residualsOf = (fitted: FittedModel): StructureSection["residuals"] =>
  momentsCompared(fitted).map((compared, g) => ({
    group: fitted.spec.groups[g]!.name,
    variables: fitted.spec.observed,
    ...residualMatrices(compared),
    ...(fitted.ordered
      ? { normalised: generalisedResiduals(fitted.ordered, fitted.spec.observed.length) }
      : {}),
  }));

type ArrowEstimateKind = (typeof STRUCTURE_ERRORS)[number];

const finite = (x: number): number | null => (Number.isFinite(x) ? x : null);

function arrowEvidence(
  row: ArrowEstimate,
  errors: ArrowEstimateKind,
  level: number,
  model: TheoryModel,
): ArrowEvidence {
  const se = row.free ? row.se[errors] : null;
  const test = se === null || !(se > 0) ? null : normalTest(row.estimate, se * se, level);
  const items = new Set([
    ...model.built.factors.flatMap((m) => m.items.map((i) => i.ref.name)),
    ...model.built.products.flatMap((p) => p.items.map((i) => i.name)),
  ]);
  const latent = model.isLatent(row.from);
  return {
    arrow: row.arrow,
    kind: row.kind,
    role:
      row.kind === "intercept"
        ? "intercept"
        : row.kind === "path"
          ? latent && items.has(row.to)
            ? "loading"
            : "path"
          : row.from === row.to
            ? "variance"
            : "covariance",
    from: row.from,
    to: row.to,
    group: row.group,
    free: row.free,
    parameter: row.parameter,
    estimate: row.estimate,
    se: Object.fromEntries(
      STRUCTURE_ERRORS.map((kind) => [kind, row.se[kind] === null ? null : finite(row.se[kind])]),
    ),
    z: test?.z ?? null,
    p: test?.p ?? null,
    lower: test?.lower ?? null,
    upper: test?.upper ?? null,
    full: { estimate: finite(row.full.estimate), se: finite(row.full.se) },
    latent: { estimate: finite(row.latent.estimate), se: finite(row.latent.se) },
  };
}

function fitEvidence(fit: ModelFit): FitEvidence {
  const scaled = (each: ScaledFit | null): FitEvidence["scaled"] => each && { ...each };
  return {
    discrepancy: fit.discrepancy,
    plain: fit.plain,
    chiSquared: fit.chiSquared,
    srmr: fit.srmr,
    srmrCovariances: fit.srmrCovariances,
    satorraBentler: scaled(fit.satorraBentler),
    yuanBentler: scaled(fit.yuanBentler),
    scaled: scaled(fit.scaled),
    ...(fit.shifted ? { shifted: { ...fit.shifted } } : {}),
  };
}

function informationOf({ fitted, moderated }: Estimates): InformationEvidence | null {
  if (moderated) return { ...moderated.criteria, saturated: null, baseline: null };
  return fitted.fit.criteria;
}

function moderatedR2({ fitted, moderated }: Estimates): StructureSection["r2"] {
  const { likelihood, theta, model } = moderated!;
  const { E } = likelihood.implied(theta);
  const v = model.variables.length;
  const endogenous = new Set(model.slots.flatMap((s) => (s.matrix === "A" ? [s.row] : [])));
  const residual = (i: number): number => {
    const slot = model.slots.find((s) => s.matrix === "S" && s.row === i && s.column === i);
    return !slot ? 0 : slot.parameter < 0 ? slot.value : theta[slot.parameter]!;
  };
  return model.variables.flatMap((variable, i) =>
    endogenous.has(i)
      ? [{ group: fitted.spec.groups[0]!.name, variable, value: 1 - residual(i) / E[i * v + i]! }]
      : [],
  );
}

function likelihoodRatio({ moderated }: Estimates): StructureSection["likelihoodRatio"] {
  const { linear, logLikelihood, interactions } = moderated!;
  const before = linear.fit.criteria!.logLikelihood;
  const chi2 = Math.max(0, 2 * (logLikelihood - before));
  const df = interactions.length;
  return { chi2, df, p: chiSquaredP(chi2, df), linear: before };
}

/** b3 sd(X) sd(W) / sd(Y) (Wen, Marsh & Hau 2010), with SDs as functions of the parameters. */
function interactionsOf(model: TheoryModel, estimates: Estimates): LatentInteractionEvidence[] {
  const { fitted, moderated } = estimates;
  const { built } = model;
  if (fitted.spec.groups.length > 1) return [];
  const list = [
    ...built.products.flatMap(({ key, x, w, outcomes }) =>
      outcomes.map((to) => ({ x, w, to, key })),
    ),
    ...built.interactions.map(({ x, w, to }) => ({ x, w, to, key: `${x}:${w}` })),
  ];
  const theta = moderated?.theta ?? fitted.theta;
  const labels = (moderated?.model ?? fitted.models[0]!).parameters;
  const known = moderated
    ? { observed: moderated.observed, robust: moderated.robust }
    : fitted.errors.by;
  const first = Object.values(known).find((m) => m !== null) ?? null;
  const q = theta.length;
  return list.flatMap(({ x, w, to, key }) => {
    const label =
      fitted.spec.groups[0]!.arrows.find(
        (a) => a.kind === "path" && a.to === to && a.from === model.nodeOf(key),
      )?.label ?? `${to} ~ ${key}`;
    const at = labels.indexOf(label);
    if (at < 0) return [];
    const plan = {
      coefficients: [at],
      sds: [x, w, to].map((name) => model.place(name)),
      averages: [],
    };
    const implied = fitted.implied[0]!;
    const { arrows } = fitted.spec.groups[0]!;
    const scale = arrowScale(
      { kind: "path", from: model.nodeOf(key), to },
      fitted.spec.units ?? [],
      arrows,
      labels,
    );
    const told = (point: Float64Array): number => point[at]! * (scale ? scale(point) : 1);
    const write = (point: Float64Array): Float64Array => {
      const { E, v } = moderated
        ? { E: moderated.likelihood.implied(point).E, v: implied.v }
        : implied.at(point);
      const [sx, sw, sy] = plan.sds.map((i) => Math.sqrt(E[i * v + i]!)) as [
        number,
        number,
        number,
      ];
      return Float64Array.of((told(point) * sx * sw) / sy);
    };
    const functions = differentiated(write, theta, standardErrors(first, q));
    write(theta);
    return [
      {
        x,
        w,
        to,
        estimate: told(theta),
        standardised: {
          estimate: functions.values[0]!,
          se: Object.fromEntries(
            Object.entries(known).map(([kind, matrix]) => [
              kind,
              matrix ? finite(deltaError(functions, 0, matrix, q)) : null,
            ]),
          ),
        },
      },
    ];
  });
}

const rowsOf = (matrix: Float64Array, p: number): number[][] =>
  Array.from({ length: p }, (_, i) => [...matrix.slice(i * p, i * p + p)]);
