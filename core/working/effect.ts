import {
  dfWords,
  errorsName,
  intervalName,
  percent,
  SUMMARY,
  plain,
  pClause,
  thousands,
  type EffectEvidence,
  type Evidence,
  type ShownInterval,
} from "../evidence";
import type { BootstrapInterval } from "../inference";
import type { Working, WorkingStep } from "./types";

const share = (value: number): string => `${plain(100 * value, 1)} %`;

/** Where an effect, its error, its interval and its p come from. */
export function effectWorking(effect: EffectEvidence, evidence: Evidence): Working {
  const { shown } = effect;
  return {
    title: effect.label,
    steps: [
      estimateStep(effect, evidence),
      ...(shown
        ? [
            errorStep(effect, shown, evidence),
            intervalStep(effect, shown, evidence),
            testStep(effect, shown),
          ]
        : [
            {
              what: "Interval",
              formula: null,
              numbers: `Not reported. ${effect.withheld ?? ""}`.trim(),
              source: null,
            },
          ]),
    ].filter((step) => step !== null),
    rows: rowsWords(evidence),
  };
}

function rowsWords({ sample, unit, estimator }: Evidence): string {
  const left = sample.dropped.length;
  return `${thousands(sample.n)} of ${thousands(sample.rowsRead)} ${unit || "rows"}${left > 0 ? `; ${left} ${sample.keepsIncomplete ? "without any answer" : "with missing values"} left out (data rows ${firstFew(sample.dropped)})` : ""}. Estimated by ${estimator.label.toLowerCase()}.`;
}

const firstFew = (rows: readonly number[]): string =>
  rows.length > 8 ? `${rows.slice(0, 8).join(", ")}, …` : rows.join(", ");

const DERIVATIVE =
  "A derivative from six values around what each row has, each a mean over all rows; exact up to the sixth degree (Abramowitz & Stegun 1972, table 25.2).";

function estimateStep(
  { made, estimate, fromDifferences }: EffectEvidence,
  evidence: Evidence,
): WorkingStep {
  const single = made.numbers === plain(estimate);
  const product = made.formula.includes(" × ") && /b\([^)]* × /.test(made.formula);
  return {
    what: "Estimate",
    formula: made.formula,
    numbers: single ? plain(estimate) : `${made.numbers} = ${plain(estimate)}`,
    source: product
      ? "What enters products is taken about its mean: b of a moderated path is its slope where the moderators are at their means."
      : fromDifferences
        ? DERIVATIVE
        : evidence.estimator.id === "least_squares" && single
          ? "A coefficient of its equation, by least squares."
          : null,
  };
}

function errorStep(
  effect: EffectEvidence,
  shown: ShownInterval,
  { bootstrap, errors }: Evidence,
): WorkingStep | null {
  if (shown.se === null) return null;
  const what = "SE";
  if (shown.reference === "bootstrap")
    return {
      what,
      formula: "SD of the bootstrap estimates",
      numbers: `SD of ${thousands(effect.bootstrap?.used ?? 0)} estimates (seed ${bootstrap?.seed ?? 0}) = ${plain(shown.se)}`,
      source: "Efron & Tibshirani 1993",
    };
  const two = effect.twoPath;
  if (two && errors === "classical")
    return {
      what,
      formula: "√(b² SE(a)² + a² SE(b)²)",
      numbers: `√(${plain(two.b)}² × ${plain(two.seA)}² + ${plain(two.a)}² × ${plain(two.seB)}²) = ${plain(two.sobel.se)}`,
      source: "Sobel 1982, Sociological Methodology 13",
    };
  return shown.reference === "t"
    ? {
        what,
        formula: "√(c′ V c), V the covariance of the coefficients of the equation",
        numbers: `${errorsName(errors)} errors: ${plain(shown.se)}`,
        source: ERROR_SOURCES[errors] ?? null,
      }
    : {
        what,
        formula: "√(g′ V g), g the gradient of the formula, V the covariance of what was estimated",
        numbers: `${errorsName(errors)} errors, delta method: ${plain(shown.se)}`,
        source: "Rao 1973, Linear Statistical Inference",
      };
}

/** Who robust errors go back to. */
export const ERROR_SOURCES: Record<string, string> = {
  HC0: "White 1980, Econometrica 48",
  HC1: "MacKinnon & White 1985, J Econometrics 29",
  HC2: "MacKinnon & White 1985, J Econometrics 29",
  HC3: "MacKinnon & White 1985, J Econometrics 29",
  HC4: "Cribari-Neto 2004, Comput Stat Data Anal 45",
  CR2: "Bell & McCaffrey 2002, Survey Methodology 28",
};

function intervalStep(
  effect: EffectEvidence,
  shown: ShownInterval,
  evidence: Evidence,
): WorkingStep | null {
  const { lower, upper, level } = shown;
  if (lower === null || upper === null) return null;
  const found = `[${plain(lower)}, ${plain(upper)}]`;
  const what = `${percent(level)} % interval (${intervalName(shown)})`;
  if (shown.reference === "t" || shown.reference === "z") {
    const name = shown.reference === "t" ? `t(${dfWords(shown.df)})` : "z";
    const critical = shown.se ? (upper - (effect.estimate ?? 0)) / shown.se : null;
    return {
      what,
      formula: `estimate ± ${name} × SE`,
      numbers: `${plain(effect.estimate)} ± ${plain(critical)} × ${plain(shown.se)} = ${found}`,
      source: null,
    };
  }
  if (shown.reference === "monte_carlo")
    return {
      what,
      formula: null,
      numbers: `The ${share((1 - level) / 2)} and ${share((1 + level) / 2)} points of ${thousands(evidence.settings.monteCarloDraws)} draws of the coefficients from their normal distribution: ${found}`,
      source: "MacKinnon, Lockwood & Williams 2004, Multivar Behav Res 39",
    };
  const { bootstrap } = effect;
  const own = bootstrap?.[SUMMARY[shown.method as keyof typeof SUMMARY]];
  if (!bootstrap || !own) return { what, formula: null, numbers: found, source: null };
  return {
    what,
    ...resampledLimits(effect, shown, bootstrap, own),
    source: "Efron & Tibshirani 1993",
  };
}

function resampledLimits(
  { estimate }: EffectEvidence,
  { method, lower, upper, se }: ShownInterval,
  bootstrap: NonNullable<EffectEvidence["bootstrap"]>,
  own: BootstrapInterval,
): { formula: string | null; numbers: string } {
  const found = `[${plain(lower)}, ${plain(upper)}]`;
  const points = `the ${share(own.adjusted[0])} and ${share(own.adjusted[1])} points of ${thousands(bootstrap.used)} estimates: ${found}`;
  const shift = `z₀ = Φ⁻¹(${plain(bootstrap.below)}) = ${plain(bootstrap.z0)}`;
  switch (method) {
    case "bca":
      return {
        formula: "points Φ(z₀ + (z₀ + z) / (1 − a (z₀ + z)))",
        numbers: `${shift}, a = ${plain(bootstrap.acceleration)}: ${points}`,
      };
    case "bc":
      return { formula: "points Φ(2 z₀ + z)", numbers: `${shift}: ${points}` };
    case "normal":
      return {
        formula: "estimate − bias ± z × SE",
        numbers: `${plain(estimate)} − ${plain(bootstrap.bias)} ± z × ${plain(se)} = ${found}`,
      };
    case "basic":
      return {
        formula: "2 × estimate − points of the bootstrap estimates",
        numbers: `2 × ${plain(estimate)} − the ${share(own.adjusted[1])} and ${share(own.adjusted[0])} points: ${found}`,
      };
    case "bootstrap_t":
      return {
        formula: "estimate − points of t* × SE, t* the studentised bootstrap estimates",
        numbers: found,
      };
    default:
      return { formula: null, numbers: `${points[0]!.toUpperCase()}${points.slice(1)}` };
  }
}

function testStep(
  effect: EffectEvidence,
  { p, pIsBound, reference, df, se, level }: ShownInterval,
): WorkingStep | null {
  if (p === null) return null;
  const clause = pClause(p, pIsBound);
  if ((reference === "t" || reference === "z") && se) {
    const name = reference === "t" ? `t(${dfWords(df)})` : "z";
    return {
      what: "p",
      formula: `${name} = estimate / SE`,
      numbers: `${name} = ${plain(effect.estimate)} / ${plain(se)} = ${plain((effect.estimate ?? 0) / se, 2)}, two-tailed ${clause}`,
      source: null,
    };
  }
  const draws = reference === "bootstrap" ? "bootstrap estimates" : "draws";
  return {
    what: "p",
    formula: null,
    numbers: pIsBound
      ? `All ${draws} lie on one side of zero, so ${clause}.`
      : `The smallest error at which an interval made like the ${percent(level)} % one leaves zero out: ${clause}.`,
    source: "Efron & Tibshirani 1993",
  };
}
