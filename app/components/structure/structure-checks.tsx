import { styled } from "@mui/material/styles";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import type { StructureSection } from "../../../core";
import type { StudyContext } from "../../analysis/use-study";
import { Disclosure } from "../ui/disclosure";
import { Note } from "../ui/layout";
import { ChangesView } from "./changes-view";
import { MeasurementView } from "./measurement-view";
import { ResidualTable } from "./residual-table";
import { FitTable } from "./structure-tables";
import { Words } from "./structure-view";
import { useTryChange } from "./use-try-change";

const Part = styled("section")({
  borderTop: "1px solid var(--ink)",
  paddingTop: 10,
  display: "grid",
  gap: 10,
  gridTemplateColumns: "minmax(0, 1fr)",
});

/** What a model of means and covariances rests on: measurement first, then fit and what would change it. */
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
      {tried && (
        <Note role="status">
          Tried: {tried}. The run before it is kept; <Link to="../compare">Compare</Link> puts every
          number that moved side by side. This is a change after the fact, and the log says so.
        </Note>
      )}
      {section.measurement.length > 0 && (
        <Part aria-labelledby="checks-measurement">
          <Typography variant="h2" id="checks-measurement">
            Measurement
          </Typography>
          <MeasurementView section={section} leaveOut={leaveOut} />
        </Part>
      )}
      {section.fit && (
        <Part aria-labelledby="checks-fit">
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
        </Part>
      )}
      {section.fit && (
        <Part aria-labelledby="checks-changes">
          <Typography variant="h2" id="checks-changes">
            What would change the fit
          </Typography>
          <ChangesView section={section} apply={apply} />
        </Part>
      )}
    </>
  );
}
