import Typography from "@mui/material/Typography";
import type { Evidence, NaturalEffectsEvidence, ResponseSection } from "../../../core";
import { EValueTable } from "../checks/e-values";

/** E-values of one treatment's effects. */
export function UnmeasuredTable({
  natural,
  level,
  place,
  headed = false,
}: {
  natural: NaturalEffectsEvidence;
  level: number;
  place: string;
  /** Where several stand beneath each other, each says what it is about. */
  headed?: boolean;
}) {
  return (
    <EValueTable
      title={`Unmeasured causes: ${place}`}
      {...(headed ? { heading: <Typography variant="h3">{place}</Typography> } : {})}
      level={level}
      rows={natural.unmeasured.map((u) => ({
        ...u,
        key: u.effect,
        effect: natural.effects.difference?.find((e) => e.name === u.effect)?.words ?? u.effect,
      }))}
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
          headed
          key={`${natural.contrast} ${natural.outcome}`}
          natural={natural}
          level={evidence.settings.level}
          place={`${natural.outcome}, ${natural.contrast}`}
        />
      ))}
    </section>
  );
}
