import Box from "@mui/material/Box";
import type { Evidence, ResponseSection } from "../../../core";
import { ModelTable } from "./model-table";
import { ChangeTable, NaturalEffects } from "./natural-effects";

/** Responses by their models, and what of a treatment goes through a mediator. */
export function ResponseView({
  section,
  evidence,
}: {
  section: ResponseSection;
  evidence: Evidence;
}) {
  return (
    <Box sx={{ display: "grid", gap: 3, mt: 4, gridTemplateColumns: "minmax(0, 1fr)" }}>
      {section.natural.map((natural) => (
        <NaturalEffects
          key={`${natural.contrast} ${natural.mediator} ${natural.outcome} ${natural.at?.value}`}
          natural={natural}
          assumptions={section.assumptions}
          evidence={evidence}
        />
      ))}
      {section.changes.map((change) => (
        <ChangeTable
          key={`${change.contrast} ${change.upper} ${change.lower}`}
          change={change}
          evidence={evidence}
        />
      ))}
      {section.models.map((model) => (
        <ModelTable key={model.outcome} model={model} evidence={evidence} />
      ))}
    </Box>
  );
}
