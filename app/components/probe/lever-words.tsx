import Box from "@mui/material/Box";
import {
  equationsOf,
  linkStep,
  responseSlopeAt,
  scaleWords,
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
  const scale = scaleWords(moderation.model.link, moderation.outcome);
  const drawn = lever.units.response ? scale.response : scale.predictor;
  const above = `${drawn} against ${moderation.focalLabel} at ${[`${first.name} ${label}`, ...held].join(", ")}, with the ${percent(settings.level)} % band; other predictors at their means; comparison values are fixed numbers, the same in every resample.`;
  const beneath = found
    ? ` Beneath: the effect of ${moderation.focalLabel} on the ${scale.predictor} along ${first.name} with its ${RULE_WORDS[rule]} band; hatched where it cannot be told from zero.`
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
  const { reading, test, units, first, label, standardised, place } = lever;
  const inSds = standardised || evidence.units === "sd";
  if (moderation.model.link !== "identity")
    return (
      <CurveHere
        {...{ moderation, place, test, reading, label }}
        level={evidence.settings.level}
        over={first.name}
      />
    );
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

/**
 * The curve at the handle: what a unit does on the scale of the model, and to the mean at the
 * middle of the predictor.
 */
function CurveHere({
  moderation: { model, focal, focalLabel, outcome },
  place,
  test,
  reading,
  label,
  level,
  over,
}: Pick<LeverState, "place" | "test" | "reading" | "label"> & {
  moderation: ModerationEvidence;
  level: number;
  over: string;
}) {
  const steep = responseSlopeAt(model, focal, place);
  const amount =
    model.link === "log" ? plain(steep, 2) : `${plain(100 * steep, 1)} percentage points`;
  const { predictor, response } = scaleWords(model.link, outcome);
  return (
    <ReadingBox role="status" aria-live="off">
      <p className="quiet">where {over} is</p>
      <p className="value">{label}</p>
      <p className="serif">
        one unit more of {focalLabel}{" "}
        <strong>{linkStep(model.link, outcome, reading.estimate)}</strong>; at the middle of{" "}
        {focalLabel} the {response} moves by {amount} a unit
      </p>
      <p className="quiet">
        slope of the {predictor} {plain(reading.estimate)}
        {test &&
          ` · SE ${plain(test.se)} · ${percent(level)} % CI ${plain(test.lower, 2)} to ${plain(test.upper, 2)} · ${pClause(test.p)}`}
      </p>
    </ReadingBox>
  );
}

/**
 * On the scale of the response: how the interaction comes out there, and that the two scales need
 * not agree.
 */
function OnResponse({
  moderation,
  evidence,
}: {
  moderation: ModerationEvidence;
  evidence: Evidence;
}) {
  const { outcome, focal, moderators, model } = moderation;
  const keys = [focal, ...moderators.flatMap((m) => m.columns)];
  const own = evidence.sections
    .flatMap((s) => (s.kind === "responses" ? s.interactions : []))
    .filter((i) => i.outcome === outcome && i.columns.every((key) => keys.includes(key)));
  const { predictor, response } = scaleWords(model.link, outcome);
  return (
    <Box className="quiet" sx={{ fontSize: 14, display: "grid", gap: 1 }}>
      <p>
        Slopes, their tests and the region are told on the scale of the {predictor}; in the{" "}
        {response}, sign, size and significance of the interaction can differ. Other predictors are
        held at their means.
      </p>
      {own.map((i) => (
        <p key={i.columns.join()}>
          <strong>In the {response}:</strong> {i.words} Average {plain(i.average, 4)} (SE{" "}
          {plain(i.model.se, 4)}, {percent(evidence.settings.level)} % CI {plain(i.model.lower, 4)}{" "}
          to {plain(i.model.upper, 4)}, {i.model.p === null ? "" : pClause(i.model.p)}).
        </p>
      ))}
    </Box>
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
  if (moderation.model.link !== "identity")
    return <OnResponse moderation={moderation} evidence={evidence} />;
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
  if (evidence.sections.some((s) => s.kind === "responses"))
    return (
      <p className="quiet" style={{ fontSize: 14 }}>
        Other predictors are held at their means. Whether the slopes differ by more than chance is
        said by the interaction among the effects on Evidence.
      </p>
    );
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

/**
 * Where the slope is zero along the moderator, with the values that Fieller's method leaves
 * possible.
 */
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
