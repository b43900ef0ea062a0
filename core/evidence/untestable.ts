import type { Quantity } from "../effects";
import { isBootstrap, MOST_MISSING } from "../inference";
import type { Prepared } from "../preparation";
import { percent } from "../wording/numbers";
import type { BootstrapAll } from "./effects";
import { heldReason } from "./held";
import { perfectReason } from "./perfect-fit";

/**
 * Why nothing can be decided about quantities, in a sentence: no estimate, resamples that mostly or
 * often failed, an outcome that is explained without rest; null where they can be tested.
 */
export function untestable(
  prepared: Prepared,
  boot: BootstrapAll | null,
  quantities: readonly Quantity[],
): string | null {
  const at = (q: Quantity): number => prepared.quantities.findIndex((known) => known.id === q.id);
  const held = quantities.map((q) => heldReason(prepared, q));
  if (held.length > 0 && held.every((reason) => reason !== null)) return held[0]!;
  const missing = quantities.filter((q) => !Number.isFinite(prepared.estimates[at(q)]!));
  if (missing.length > 0)
    return `There is no estimate of ${missing.map((q) => q.label).join(" and ")}: its equation, or a step of its path, could not be solved with these data.`;
  return (
    lossReason(prepared, boot, quantities.map(at)) ??
    quantities.map((q) => perfectReason(prepared, q)).find((reason) => reason !== null) ??
    null
  );
}

/** Resamples that were lost: too many of them leave no sample of what other samples would give. */
function lossReason(
  { study, quantities }: Prepared,
  boot: BootstrapAll | null,
  places: number[],
): string | null {
  if (!boot || !isBootstrap(study.settings.interval)) return null;
  const { done, failed } = boot.run;
  if (failed > MOST_MISSING * done)
    return `${percent(failed / done)} % of the bootstrap samples (${failed} of ${done}) could not be fitted. Those that could are no sample of what other data would give, so there are no limits and nothing is decided; fewer terms, more people or another interval may help.`;
  for (const place of places) {
    const summary = boot.effects[place];
    const used = summary?.used ?? 0;
    const lost = summary ? summary.missing : done - failed;
    if (lost > MOST_MISSING * (used + lost))
      return `There was no value of ${quantities[place]!.label} in ${percent(lost / (used + lost))} % of the bootstrap samples, so there are no limits and nothing is decided.`;
  }
  return null;
}
