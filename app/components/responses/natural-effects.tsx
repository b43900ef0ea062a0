import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useId } from "react";
import {
  naturalWorking,
  heldWords,
  isReported,
  percent,
  plain,
  withheldNotes,
  type ChangedEffects,
  type Evidence,
  SHORT_NATURAL,
  type NaturalEffect,
  type NaturalEffectsEvidence,
} from "../../../core";
import { limitsCell, pCell } from "../structure/cells";
import { Words } from "../structure/structure-view";
import { Disclosure } from "../ui/disclosure";
import { NumberTable } from "../ui/number-table";
import { WorkingView } from "../ui/working-view";
import { UnmeasuredTable } from "./unmeasured";
import { HeldPicture } from "./held-picture";
import { FourMeans } from "./four-means";

const SCALE_WORDS = {
  difference: "Differences",
  risk_ratio: "Ratios of probabilities",
  mean_ratio: "Ratios of means",
  odds_ratio: "Ratios of odds",
  excess_ratio: "Parts of the relative excess",
} as const;

/** What would have been: the four means in sentences and as a picture, then what they make. */
export function NaturalEffects({
  natural,
  evidence,
}: {
  natural: NaturalEffectsEvidence;
  evidence: Evidence;
}) {
  const id = useId();
  const { treatment, mediator, outcome, contrast, at, means, words, effects } = natural;
  const level = percent(evidence.settings.level);
  // Several contrasts stand on one page, and every table has a name of its own.
  const place = `${outcome}, ${contrast}${at ? `, ${at.name} ${heldWords(at)}` : ""}`;
  return (
    <section aria-labelledby={id}>
      <Typography variant="h2" id={id}>
        {treatment} through {mediator} to {outcome}: {contrast}
        {at ? `, where ${at.name} is ${heldWords(at)}` : ""}
      </Typography>
      <Words words={words} />
      <Box
        sx={{
          display: "grid",
          gap: 4,
          alignItems: "start",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", lg: "minmax(0, 7fr) minmax(0, 5fr)" },
        }}
      >
        <FourMeans natural={natural} evidence={evidence} />
        <HeldPicture natural={natural} evidence={evidence} />
      </Box>
      <NumberTable
        title={`What would have been: ${place}`}
        columns={[
          "what would have been",
          "mean",
          "SE",
          `${level} % CI`,
          simulatedName(means, "resampled CI"),
        ]}
        rows={means.map((m) => ({
          key: m.name,
          cells: [
            m.words,
            m.estimate,
            m.model.se,
            limitsCell(m.model.lower, m.model.upper),
            simulated(m, "percentile"),
          ],
        }))}
      />
      {(Object.keys(SCALE_WORDS) as (keyof typeof SCALE_WORDS)[]).map((scale) => {
        const list = effects[scale];
        if (!list) return null;
        const table = (
          <EffectTable
            key={scale}
            list={list}
            heading={SCALE_WORDS[scale]}
            title={`${SCALE_WORDS[scale]}: ${place}`}
            level={level}
          />
        );
        return scale === "difference" ? (
          table
        ) : (
          <Disclosure key={scale} summary={SCALE_WORDS[scale]}>
            {table}
          </Disclosure>
        );
      })}
      <WorkingView working={naturalWorking(natural)} summary="Show the working of the effects" />
      {natural.rareOutcome && (
        <Disclosure summary="In closed form, if the outcome is rare">
          <p className="quiet">
            Odds ratios with covariates at their means: without {mediator}{" "}
            {plain(natural.rareOutcome.pureDirect, 3)}, through {mediator}{" "}
            {plain(natural.rareOutcome.totalIndirect, 3)} (VanderWeele &amp; Vansteelandt 2010).{" "}
            {natural.rareOutcome.rare
              ? `They come near ratios of probabilities because ${outcome} is rare (${plain(100 * natural.rareOutcome.share, 1)} %).`
              : `${outcome} is not rare (${plain(100 * natural.rareOutcome.share, 1)} %), so they are off: rest on the effects above.`}
          </p>
        </Disclosure>
      )}
      {natural.unmeasured.length > 0 && (
        <Disclosure summary="How strong would something left out have to be?">
          <UnmeasuredTable natural={natural} level={evidence.settings.level} place={place} />
        </Disclosure>
      )}
    </section>
  );
}

/** Limits of draws where they were chosen, else of resamples. */
const simulated = (
  { drawn, bootstrap }: Pick<NaturalEffect, "drawn" | "bootstrap">,
  kind: "percentile" | "bca",
) => {
  const limits = drawn ?? bootstrap?.[kind];
  return limitsCell(limits?.lower ?? null, limits?.upper ?? null);
};

const simulatedName = (list: readonly Pick<NaturalEffect, "drawn">[], resampled: string): string =>
  list.some((e) => e.drawn) ? "drawn CI" : resampled;

/** What has to hold for such effects to be causes. */
export function Assumptions({ assumptions }: { assumptions: readonly string[] }) {
  if (assumptions.length === 0) return null;
  return (
    <Box sx={{ mt: 2 }}>
      <Typography variant="h3">What has to hold for these to be causes</Typography>
      <Box component="ol" sx={{ fontFamily: "var(--serif)", maxWidth: "80ch", pl: 3, my: 1 }}>
        {assumptions.map((a) => (
          <li key={a}>{a}</li>
        ))}
      </Box>
    </Box>
  );
}

/** How effects differ between two values of a moderator. */
export function ChangeTable({ change, evidence }: { change: ChangedEffects; evidence: Evidence }) {
  const { treatment, mediator, outcome, contrast, moderator, upperWords, lowerWords, effects } =
    change;
  return (
    <EffectTable
      list={effects}
      title={`${treatment} through ${mediator} to ${outcome}, ${contrast}: ${moderator} ${upperWords} less ${moderator} ${lowerWords}`}
      level={percent(evidence.settings.level)}
    />
  );
}

function EffectTable({
  list,
  title,
  heading = title,
  level,
}: {
  list: readonly NaturalEffect[];
  title: string;
  heading?: string;
  level: string;
}) {
  return (
    <NumberTable
      title={title}
      heading={<Typography variant="h3">{heading}</Typography>}
      columns={[
        "effect",
        "short",
        "estimate",
        "SE",
        `${level} % CI`,
        "p",
        "robust CI",
        simulatedName(list, "BCa CI"),
      ]}
      words={[1]}
      rows={list.filter(isReported).map((e) => ({ key: e.name, cells: cellsOf(e) }))}
      note={withheldNotes(list).join(" ")}
    />
  );
}

const cellsOf = (e: NaturalEffect) => [
  e.words,
  SHORT_NATURAL[e.kind] ?? "",
  e.estimate,
  e.model?.se ?? null,
  limitsCell(e.model?.lower ?? null, e.model?.upper ?? null),
  pCell(e.model?.p ?? null),
  limitsCell(e.robust?.lower ?? null, e.robust?.upper ?? null),
  simulated(e, "bca"),
];
