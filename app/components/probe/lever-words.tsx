import { equationsOf } from "../../../core";
import {
  dfWords,
  errorsName,
  pClause,
  percent,
  plain,
  type Evidence,
  type ModerationEvidence,
  zeroSlopeSentence,
} from "../../../core";
import type { LeverState, Rule } from "./use-lever";
import { ReadingBox } from "./layout";

const RULE_WORDS: Record<Rule, string> = {
  pointwise: "pointwise",
  simultaneous: "simultaneous",
  falseDiscovery: "false-discovery controlled",
};

/** What a reader of the picture alone has to know. */
export function captionOf(
  moderation: ModerationEvidence,
  { settings, sample, unit, errors }: Evidence,
  lever: LeverState,
): string {
  const { first, heldProbes, found, label, rule } = lever;
  const held = heldProbes.map(
    ({ moderator, probe }) =>
      `${moderator.name} at ${probe.value === null ? probe.label : plain(probe.value, 2)}`,
  );
  const above = `${moderation.outcome} against ${moderation.focalLabel} at ${[`${first.name} ${label}`, ...held].join(", ")}, with the ${percent(settings.level)} % band; other predictors at their means; comparison values are fixed numbers, the same in every resample.`;
  const beneath = found
    ? ` Beneath: the effect of ${moderation.focalLabel} along ${first.name} with its ${RULE_WORDS[rule]} band; hatched where it cannot be told from zero.`
    : "";
  return `${above}${beneath} ${sample.n} ${unit}, ${errorsName(errors)} errors.`;
}

/** The slope at the handle, in a sentence and in numbers. */
export function ReadingHere({
  moderation,
  evidence,
  lever,
}: {
  moderation: ModerationEvidence;
  evidence: Evidence;
  lever: LeverState;
}) {
  const { reading, test, units, first, label, standardised } = lever;
  const inSds = standardised || evidence.units === "sd";
  return (
    <ReadingBox role="status" aria-live="off">
      <p className="quiet">where {first.name} is</p>
      <p className="value">{label}</p>
      <p className="serif">
        {inSds ? "one SD" : "one unit"} more of {moderation.focalLabel} goes with{" "}
        <strong>{plain(Math.abs(reading.estimate * units.slope), 2)}</strong> {inSds ? "SDs " : ""}
        {reading.estimate >= 0 ? "more" : "less"} {moderation.outcome}
      </p>
      <p className="quiet">
        slope {plain(reading.estimate * units.slope)}
        {test &&
          standardised &&
          ` · ${pClause(test.p)}; intervals in SDs stand at the comparison values`}
        {test &&
          !standardised &&
          ` · SE ${plain(test.se * units.slope)} · ${percent(evidence.settings.level)} % CI ${plain(test.lower * units.slope, 2)} to ${plain(test.upper * units.slope, 2)} · ${pClause(test.p)}`}
      </p>
    </ReadingBox>
  );
}

/** What the products explain, and whether different lines are more than chance. */
export function Explained({
  moderation,
  evidence,
}: {
  moderation: ModerationEvidence;
  evidence: Evidence;
}) {
  const equation = equationsOf(evidence).find((e) => e.outcome === moderation.outcome);
  if (!equation) return <OfScores moderation={moderation} evidence={evidence} />;
  const partsOf = (term: string): string[] =>
    equation.coefficients.find((c) => c.term === term)?.components?.map((part) => part.variable) ??
    [];
  const change = equation.r2Change.find((r) =>
    r.terms.every((term) => partsOf(term).includes(moderation.focalVariable)),
  );
  const test = change && (change.tests[evidence.errors] ?? change.tests.classical);
  if (!change || !test) return null;
  const nameOf = (parts: string[]): string =>
    parts.length === 2 && parts[0] === parts[1] ? `${parts[0]} squared` : parts.join(" × ");
  const names = [...new Set(change.terms.map((term) => nameOf(partsOf(term))))].join(", ");
  return (
    <p className="quiet" style={{ fontSize: 14 }}>
      The product <strong>{names}</strong> adds <strong>{plain(100 * change.r2Change, 1)} %</strong>{" "}
      of explained variance (F({test.df1}, {dfWords(test.df2)}) = {plain(test.F, 2)},{" "}
      {pClause(test.p)}). Other predictors are held at their means.
      {test.p >= 1 - evidence.settings.level &&
        " The slopes may be parallel in the population: lines that differ here may differ by chance, and a figure of several slopes would say little."}
    </p>
  );
}

/** Among latent variables: what the points are, and how large the interaction is in SDs. */
function OfScores({
  moderation,
  evidence,
}: {
  moderation: ModerationEvidence;
  evidence: Evidence;
}) {
  const section = evidence.sections.find((s) => s.kind === "structure");
  if (!section)
    return (
      <p className="quiet" style={{ fontSize: 14 }}>
        Scores have a mean of 0 and an SD of 1, so slopes are in SDs, and values of the moderator
        are SDs from its mean. Points are people’s scores. The region is conditional on the scores;
        the intervals of effects are resampled with their weights.
      </p>
    );
  const names = [moderation.focalVariable, ...moderation.moderators.map((m) => m.name)];
  const own = section?.interactions.find(
    (i) => i.to === moderation.outcome && names.includes(i.x) && names.includes(i.w),
  );
  const se = own?.standardised.se[evidence.errors];
  return (
    <p className="quiet" style={{ fontSize: 14 }}>
      {own && (
        <>
          Standardised interaction <strong>{plain(own.standardised.estimate, 3)}</strong>
          {se ? ` (SE ${plain(se, 3)})` : ""}.{" "}
        </>
      )}
      Latent variables are about their means of 0, and their SDs are those that the model implies.
      Points are factor scores (regression scores), which vary less than the latent variables do.
    </p>
  );
}

/** Where the slope is zero along the moderator, with the values that Fieller's method leaves possible. */
export function ZeroSlope({
  moderation,
  evidence,
  lever,
}: {
  moderation: ModerationEvidence;
  evidence: Evidence;
  lever: LeverState;
}) {
  const { first, units } = lever;
  const crossing = moderation.crossings.find((c) => c.fieller !== null);
  const set = crossing?.fieller?.[evidence.errors];
  if (!crossing || !set) return null;
  return (
    <p className="quiet">
      {zeroSlopeSentence(crossing, set, first.name, evidence.settings.level, units.w)}
    </p>
  );
}
