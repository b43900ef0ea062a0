import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import {
  percent,
  responseInteractionWorking,
  type Evidence,
  type ResponseSection,
} from "../../../core";
import { NumberTable } from "../ui/number-table";
import { limitsCell, pCell } from "../structure/cells";
import { EffectsOver, movedEffects } from "./effects-over";
import { LinkProducts } from "./link-products";
import { ModelTable } from "./model-table";
import { Assumptions, ChangeTable, NaturalEffects } from "./natural-effects";

interface Props {
  section: ResponseSection;
  evidence: Evidence;
}

/** What of a treatment goes through a mediator, in sentences, pictures and numbers. */
export function TreatmentView({ section, evidence }: Props) {
  if (section.natural.length === 0) return null;
  return (
    <Box sx={{ display: "grid", gap: 3, mt: 4, gridTemplateColumns: "minmax(0, 1fr)" }}>
      {movedEffects(section.natural).map((moved) => (
        <EffectsOver
          key={`${moved.contrast} ${moved.mediator} ${moved.outcome} ${moved.moderator}`}
          moved={moved}
          evidence={evidence}
        />
      ))}
      {section.natural.map((natural) => (
        <NaturalEffects
          key={`${natural.contrast} ${natural.mediator} ${natural.outcome} ${natural.at?.name} ${natural.at?.value}`}
          natural={natural}
          evidence={evidence}
        />
      ))}
      <Assumptions assumptions={section.assumptions} />
      {section.changes.map((change) => (
        <ChangeTable
          key={`${change.contrast} ${change.outcome} ${change.moderator} ${change.upper} ${change.lower}`}
          change={change}
          evidence={evidence}
        />
      ))}
      <LinkProducts products={section.products} evidence={evidence} />
    </Box>
  );
}

/** Responses by their models. */
export function ModelsView({ section, evidence }: Props) {
  return (
    <Box sx={{ display: "grid", gap: 3, mt: 4, gridTemplateColumns: "minmax(0, 1fr)" }}>
      {section.models.map((model) => (
        <ModelTable key={model.outcome} model={model} evidence={evidence} />
      ))}
      {section.interactions.length > 0 && (
        <NumberTable
          title="Interactions on the scale of the response"
          heading={<Typography variant="h2">Interactions on the scale of the response</Typography>}
          columns={[
            "interaction",
            "average",
            "SE",
            `${percent(evidence.settings.level)} % CI`,
            "p",
            "least",
            "largest",
          ]}
          rows={section.interactions.map((i) => ({
            key: `${i.outcome} ${i.columns.join()}`,
            working: () => responseInteractionWorking(i, evidence.settings.level),
            cells: [
              `${i.columns.join(" × ")} on ${i.outcome}`,
              i.average,
              i.model.se,
              limitsCell(i.model.lower, i.model.upper),
              pCell(i.model.p),
              i.minimum,
              i.maximum,
            ],
          }))}
          note="How much the change of the mean response with one column changes with the other, row by row and on average, covariates as they are (Ai & Norton 2003); sign, size and significance can differ from those of the product's coefficient."
        />
      )}
    </Box>
  );
}
