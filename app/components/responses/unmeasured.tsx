import Typography from "@mui/material/Typography";
import {
  percent,
  type Evidence,
  type NaturalEffectsEvidence,
  type ResponseSection,
} from "../../../core";
import { limitsCell } from "../structure/cells";
import { NumberTable } from "../ui/number-table";

/** E-values of one treatment's effects. */
export function UnmeasuredTable({
  natural,
  level,
  place,
}: {
  natural: NaturalEffectsEvidence;
  level: string;
  place: string;
}) {
  return (
    <NumberTable
      title={`Unmeasured causes: ${place}`}
      columns={["effect", "ratio", `${level} % CI`, "E-value", "E-value of the limit"]}
      rows={natural.unmeasured.map((u) => ({
        key: u.effect,
        cells: [
          natural.effects.difference?.find((e) => e.name === u.effect)?.words ?? u.effect,
          u.ratio,
          limitsCell(u.lower, u.upper),
          u.eValue,
          u.eValueOfLimit,
        ],
      }))}
      note="The least ratio by which something that was left out has to be related to both mediator and outcome (of the total effect: to treatment and outcome), beyond what is held, to make the effect nothing (VanderWeele & Ding 2017). Differences of means are turned into ratios by exp(0.91 d)."
    />
  );
}

/** What a reader of the checks is told of everything that was left out, by treatment. */
export function UnmeasuredTables({
  section,
  evidence,
}: {
  section: ResponseSection;
  evidence: Evidence;
}) {
  const whole = section.natural.filter((n) => n.at === null && n.unmeasured.length > 0);
  if (whole.length === 0) return null;
  return (
    <section aria-labelledby="unmeasured">
      <Typography variant="h2" id="unmeasured">
        If something was left out
      </Typography>
      {whole.map((natural) => (
        <UnmeasuredTable
          key={`${natural.contrast} ${natural.outcome}`}
          natural={natural}
          level={percent(evidence.settings.level)}
          place={`${natural.outcome}, ${natural.contrast}`}
        />
      ))}
    </section>
  );
}
