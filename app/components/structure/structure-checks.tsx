import Typography from "@mui/material/Typography";
import type { StructureSection } from "../../../core";
import type { StudyContext } from "../../analysis/use-study";
import { Disclosure } from "../ui/disclosure";
import { ChangesView } from "./changes-view";
import { MeasurementView } from "./measurement-view";
import { OrderedView } from "./ordered-view";
import { ResidualTable } from "./residual-table";
import { CheckPart, Tried } from "./check-part";
import { FitTable } from "./structure-tables";
import { Words } from "./structure-view";
import { useTryChange } from "./use-try-change";

/**
 * What a model of means and covariances rests on: measurement first, then fit and what would change
 * it.
 */
export function StructureChecks({
  context,
  section,
}: {
  context: StudyContext;
  section: StructureSection;
}) {
  const { tried, apply, leaveOut } = useTryChange(context);
  return (
    <>
      {tried && <Tried change={tried} />}
      {section.measurement.length > 0 && (
        <CheckPart aria-labelledby="checks-measurement">
          <Typography variant="h2" id="checks-measurement">
            Measurement
          </Typography>
          <MeasurementView section={section} leaveOut={leaveOut} />
          <OrderedView section={section} />
        </CheckPart>
      )}
      {section.fit && (
        <CheckPart aria-labelledby="checks-fit">
          <Typography variant="h2" id="checks-fit">
            Fit
          </Typography>
          <Words words={section.fitWords} />
          <Disclosure summary="All indices of fit">
            <FitTable section={section} />
          </Disclosure>
          <Disclosure summary="Residual correlations">
            <ResidualTable section={section} />
          </Disclosure>
        </CheckPart>
      )}
      {section.fit && (
        <CheckPart aria-labelledby="checks-changes">
          <Typography variant="h2" id="checks-changes">
            What would change the fit
          </Typography>
          <ChangesView section={section} apply={apply} />
        </CheckPart>
      )}
    </>
  );
}
