import { codingWords, errorsName, INTERVAL_WORDS, percent, type Evidence } from "../../evidence";
import { deviations } from "../../registration";
import { netChanges, type StudyDefinition } from "../../study";
import { heading, paragraphs, sentence, type Part, type ReportContext } from "../context";
import { listed } from "../../wording";

/** How everything was estimated, so that somebody else could do it again. */
export const methods: Part = (context) => {
  const { evidence, definition } = context;
  const { hypotheses, settings } = evidence;
  const changes = netChanges(definition);
  return [
    heading("Statistical analysis"),
    ...paragraphs([
      `${modelWords(context)} ${errorWords(evidence)}`.trim(),
      intervalWords(context),
      hypotheses.length > 0 ? verdictWords(evidence) : "",
      settings.centring === "none" ? "" : CENTRING[settings.centring],
      codingWords(evidence),
      missingWords(context),
      plannedWords(definition, evidence.sample.n),
      changes.length > 0
        ? `Changes made to the data: ${changes.join("; ")}.${definition.log.length > 0 ? " The study file holds every step and its date." : ""}`
        : "",
      `Analyses were done with ${sentence(evidence.engine)}; with the same study file they give the same digits again.`,
    ]),
  ];
};

const CENTRING = {
  mean: "Numeric predictors were centred at their means.",
  products: "Variables that enter products were centred at their means in the products.",
  standardised: "All numeric variables were analysed as z-scores, products being made of z-scores.",
} as const;

/** What differs from the plan that was laid down, sentence by sentence. */
function plannedWords(definition: StudyDefinition, came: number): string {
  const { registered } = definition;
  if (!registered) return "";
  const off = deviations(registered, definition, came);
  const when = `A plan was laid down on ${registered.when.slice(0, 10)}`;
  return off.length === 0
    ? `${when} and followed without change.`
    : `${when}. Deviations from it: ${off.join(" ")}`;
}

/** The engine's own account of itself, where it has one. */
function modelWords({ evidence }: ReportContext): string {
  const own = evidence.sections.flatMap((s) =>
    s.kind === "structure" || s.kind === "composites" ? [s.method.words] : [],
  );
  if (own.length > 0) return own.join(" ");
  const models = evidence.sections.flatMap((s) => (s.kind === "responses" ? s.models : []));
  if (models.length > 0)
    return `Each outcome had a generalised linear model: ${listed(models.map((m) => `${m.family.replaceAll("_", " ")} for ${m.outcome}`))}.`;
  return "The equations of the model were estimated by ordinary least squares.";
}

function errorWords({ errors, settings, sections }: Evidence): string {
  // These engines name their errors themselves.
  if (sections.some((s) => s.kind === "structure" || s.kind === "composites")) return "";
  if (errors === "CR2")
    return `Standard errors allow for the clusters of ${settings.cluster} (${errorsName(errors)}).`;
  return errors === "classical"
    ? "Standard errors are the classical ones of each model."
    : `Standard errors are robust to heteroscedasticity (${errorsName(errors)}).`;
}

function intervalWords({ evidence, write }: ReportContext): string {
  const { settings, bootstrap } = evidence;
  const name = INTERVAL_WORDS[settings.interval]!;
  const level = percent(settings.level);
  if (settings.interval === "monte_carlo")
    return `Intervals are ${level} % Monte Carlo intervals from ${write.count(settings.monteCarloDraws)} draws (seed ${settings.seed}).`;
  if (settings.interval === "delta" || !bootstrap)
    return `Intervals are ${level} % intervals by the ${name} errors${usesT(evidence) ? "; single coefficients rest on t" : ""}.`;
  const used = bootstrap.done - bootstrap.failed;
  const failed =
    bootstrap.failed > 0
      ? `; ${write.count(bootstrap.failed)} could not be estimated and were left out`
      : "";
  const within = {
    rows: "",
    strata: `, drawn within the levels of ${settings.strata}`,
    clusters: `, drawing whole clusters of ${settings.cluster}`,
  }[bootstrap.resampling];
  return `Intervals are ${level} % ${name} intervals from ${write.count(used)} bootstrap samples${within} (seed ${bootstrap.seed}${failed}).`;
}

const usesT = ({ hypotheses, effects }: Evidence): boolean =>
  hypotheses.some((h) => h.claim?.reference === "t") ||
  effects.some((e) => e.shown?.reference === "t");

function verdictWords({ settings }: Evidence): string {
  const tail =
    settings.tail === "one"
      ? "Directional hypotheses were tested one-tailed in their stated direction, the others two-tailed."
      : "All tests are two-tailed; a directional hypothesis counts as supported only where the effect also has the stated sign.";
  return settings.several === "holm"
    ? `${tail} p values of the hypotheses were adjusted by Holm's method for the decisions.`
    : tail;
}

function missingWords({ evidence }: ReportContext): string {
  const own = evidence.sections.find((s) => s.kind === "structure");
  if (own?.method.missing === "everybody")
    return "Everybody with at least one answer was kept, by full-information maximum likelihood.";
  return evidence.sample.dropped.length > 0
    ? "Only cases without missing values on the variables of the model were analysed."
    : "";
}
