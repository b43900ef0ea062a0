import type { Sample, TypedColumn, Variable } from "../data";
import type { Column } from "../design";
import type { EffectFamily, EffectSource } from "../effects";
import type { BootstrapInterval, BootstrapSummary } from "../inference";
import type {
  ByCovariance,
  CoefficientTest,
  Covariance,
  Expression,
  FTest,
  Kernel,
  Link,
  Parameters,
  Quantity,
} from "../model";
import type { Warning } from "../problems";
import type { CovarianceKind, ErrorKind, IntervalKind, Settings } from "../study";
import type { CompiledTheory, Measure, MeasureForm, ResponseModelId } from "../theory";
import type { ResidualRows, Section } from "./sections";

/**
 * A choice that one engine offers beyond the common settings; its value stands in
 * `settings.options`.
 */
export interface OptionSpec {
  name: string;
  label: string;
  /** What it does, in a sentence. */
  help: string;
  /** Choices with their words; none where a number is wanted. */
  choices?: Record<string, string>;
  /**
   * The name of a column is wanted, or nothing: an empty text. The engine sees the column with the
   * others.
   */
  column?: true;
  initial: string | number;
}

/** Can an engine estimate a theory with these data? If not, why, in words that say what to do. */
export type Suitability = { suits: true } | { suits: false; reason: string };

/** The data as an engine sees them: the rows that are used, and what is known of their columns. */
export interface ModelData {
  typed: ReadonlyMap<string, TypedColumn>;
  variables: ReadonlyMap<string, Variable>;
  sample: Sample;
  /** Row positions of each cluster, where errors have to allow for them. */
  clusters: Int32Array[] | null;
  /** Measures that are variables of the theory themselves; their items are among the columns. */
  measures: Measure[];
  /** Bootstrap samples made elsewhere, as positions in the sample; null where they are drawn. */
  given?: Int32Array[] | null;
  /**
   * Permutations of the rows made elsewhere, as positions in the sample: the first so many are the
   * first group.
   */
  givenPermutations?: Int32Array[] | null;
  /** Only means and covariances are known; the rows merely have these moments. */
  momentsOnly: boolean;
}

/**
 * One outcome, or its linear predictor, as a linear function of columns about their means: what
 * slopes, lines and regions are read from.
 */
export interface Line {
  outcome: string;
  /**
   * How the linear predictor becomes the mean of the outcome; `identity` unless it says otherwise.
   */
  link?: Link;
  outcomeMean: number;
  outcomeSd: number;
  columns: Column[];
  /** The mean of the outcome, then the coefficients of the columns. */
  b: Float64Array;
  /** Of `b`, by kind. */
  covariances: Record<CovarianceKind, Covariance>;
  /** Degrees of freedom of the t test of a linear function of `b`. */
  df(kind: CovarianceKind, weights: ArrayLike<number>): number;
}

/**
 * The exact test of an effect, where the engine knows one that does not rest on the delta method.
 */
export interface ExactTest {
  terms: string[];
  tests: ByCovariance<CoefficientTest>;
}

/** What an engine may say besides when everything else is known. */
export interface SectionContext {
  /** Confidence level of everything that is no claim, and the errors that tests rest on. */
  level: number;
  errors: CovarianceKind;
  /** The interval that was chosen. */
  interval: IntervalKind;
  /** Resampled coefficients, in the order of `Fit.coefficients`; null before there are any. */
  bootstrap: (BootstrapSummary | null)[] | null;
  /** Monte Carlo limits, in the order of `Fit.coefficients`; null where none are drawn. */
  drawn: (BootstrapInterval | null)[] | null;
  /**
   * How many replicates raise a flag of the parameter vector, by its label; null before there are
   * any.
   */
  flags: ReadonlyMap<string, number> | null;
  /** All resamples that are wanted have been made, so that what takes long may begin. */
  complete: boolean;
  /** Ids of total effects that have an exact test. */
  exact: ReadonlySet<string>;
}

/** What resamples raised flags for. */
export interface ResampledFlags {
  /** How many replicates raise each flag of the parameter vector. */
  flags: ReadonlyMap<string, number>;
  done: number;
  complete: boolean;
}

/** What an estimate is, where “b” and the kind of the effect do not say it. */
export interface QuantityReading {
  /** In a sentence before the estimate: “difference in probability”. */
  measure: string;
  /** The scale it is told on, where that is not the one of the other effects: “log odds”. */
  scale: string | null;
  /** Between which values of its predictor, where it is no change per unit: “6 against 2”. */
  between: string | null;
  /** The kind of effect by its own name: “total natural indirect effect”. */
  name: string | null;
  /** What sizes are in SDs of, where it is not the outcome as it is seen. */
  sizedIn?: string;
  /** What that means, as the end of “It rests on the …: ”. */
  rests: string | null;
}

/**
 * What an engine has found on the sample. Everything downstream - effects, intervals, verdicts,
 * tables, exports - reads this and nothing else of the engine. The optional members are for what
 * not every engine can say.
 */
export interface Fit<D = unknown> extends EffectSource {
  parameters: Parameters;
  /** The parameter vector; asked for once all averages have been. */
  vector(): Float64Array;
  /** Covariance of the parameters that have one, by kind; NaN where a kind does not exist. */
  covariances: Record<CovarianceKind, Covariance>;
  /**
   * Every coefficient depends on SDs of the sample, as where all variables are z-scores: no t test,
   * no delta method.
   */
  standardised: boolean;
  /** How it was estimated, where the engine has several ways: in place of its label. */
  estimatedBy?: string;
  /** Every coefficient as it is reported, as a quantity. */
  coefficients: Quantity[];
  /**
   * Where a replicate takes long: how many are made at a time, so that a run can be left between
   * two batches.
   */
  batch?: number;
  /**
   * For Monte Carlo intervals, where not all parameters have a covariance to draw from: that of the
   * first ones, and what follows from them.
   */
  drawing?: { covariance: Covariance; follow(vector: Float64Array): void };
  /** The plain data from which workers make the kernel; asked for once all averages have been. */
  kernelData(): D;

  /** The t test of a function of the parameters; null where no t distribution applies. */
  tTest?(expression: Expression, kind: CovarianceKind, level: number): CoefficientTest | null;
  /**
   * The F test that functions of the parameters are all zero; null where no F distribution applies.
   */
  fTest?(expressions: Expression[], kind: CovarianceKind): FTest | null;
  /** Null where an estimate is a coefficient or a product of some. */
  reading?(quantity: Quantity): QuantityReading | null;
  exactTest?(quantity: Quantity, estimate: number, level: number): ExactTest | null;
  /** Outcomes with products of columns, as linear functions of them. */
  lines?(): Line[];
  /** Families of effects that only this engine knows. */
  families?: EffectFamily[];
  sections?(context: SectionContext): Section[];
  warnings?: Warning[];
  /** What deserves a look once there are resamples. */
  resampledWarnings?(found: ResampledFlags): Warning[];
  residuals?(outcome: string): ResidualRows | null;
  /** Share of an outcome's variance that its equation explains. */
  rSquared?(outcome: string): number | null;
  /** Columns of the equation of an outcome, and the outcome itself, in the rows of the sample. */
  points?(outcome: string): { y: Float64Array; columns: Column[] } | null;
}

/** Lines that only a model of all equations together can follow: constraints, covariances, groups. */
export type StructureLine = "hold" | "free" | "covary" | "groups";

/**
 * A way of estimating. To add one, write a folder in core/estimators/ that exports an Engine and
 * list it in registry.ts; nothing outside the folder names it.
 */
export interface Engine<D = unknown> {
  id: string;
  /** For people: “least squares”. */
  label: string;
  options: OptionSpec[];
  /** Forms of measures that it estimates as variables of their own, from their items. */
  forms?: readonly MeasureForm[];
  /** Models of responses that it knows; straight lines alone unless it says otherwise. */
  responses?: readonly ResponseModelId[];
  /** Lines of a theory, beside sentences and measures, that it reads; none unless it says so. */
  lines?: readonly StructureLine[];
  /** Errors that it knows; the first is what tests rest on when nothing is chosen. */
  errors: readonly ErrorKind[];
  /**
   * The common settings as they hold for this engine with these data, where some of them do not
   * apply.
   */
  settings?(
    settings: Settings,
    theory: CompiledTheory,
    variables: ReadonlyMap<string, Variable>,
  ): Settings;
  /**
   * Intervals that are not offered for these measures, each with the reason: there is no such thing
   * here, or it does not hold its level. The first that is offered stands in.
   */
  withheldIntervals?(measures: readonly Measure[]): Partial<Record<IntervalKind, string>>;
  /** Errors that are tried when robustness is asked for; all that it knows where none are named. */
  tried?: readonly ErrorKind[];
  /**
   * The errors to use where only means and covariances are known; classical ones unless it says
   * otherwise.
   * @throws StudyProblem for errors that were asked for and need single cases
   */
  errorsOfMoments?(errors: ErrorKind): ErrorKind;
  /** Does it use rows with values missing? */
  keepsIncomplete?(settings: Settings): boolean;
  /**
   * Other ways of estimating that are tried when robustness is asked for, each with what it
   * assumes; a slow one has its errors from the delta method.
   */
  variants?(
    settings: Settings,
    dropped: number,
    forms: readonly MeasureForm[],
    theory: CompiledTheory,
  ): { name: string; options: Settings["options"]; slow?: boolean }[];
  suits(theory: CompiledTheory, data: ModelData): Suitability;
  /** @throws StudyProblem for anything that stops the analysis */
  fit(theory: CompiledTheory, data: ModelData, settings: Settings): Fit<D>;
  /** Called in workers, with data that `Fit.kernelData` made. */
  kernel(data: D): Kernel;
}

/** What workers are given of an engine. */
export interface KernelData {
  engine: string;
  data: unknown;
}
