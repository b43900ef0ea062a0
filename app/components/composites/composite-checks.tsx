import Typography from "@mui/material/Typography";
import { compositeMeasurementWorking, studiesOf, type CompositeSection } from "../../../core";
import type { StudyContext } from "../../analysis/use-study";
import { CheckPart, Tried } from "../structure/check-part";
import { Words } from "../structure/structure-view";
import { useTryChange } from "../structure/use-try-change";
import { Disclosure } from "../ui/disclosure";
import { WorkingView } from "../ui/working-view";
import { CrossLoadings } from "./cross-loadings";
import { DiscrepancyTable, ExactFitTable } from "./fit-tables";
import { ConstructTable, ItemTable, PairTable } from "./measurement-tables";
import { compositeShortcomings } from "./shortcomings";

/** What a composite model rests on: its measurement first, then its fit. */
export function CompositeChecks({
  context,
  section,
}: {
  context: StudyContext;
  section: CompositeSection;
}) {
  const { tried, leaveOut } = useTryChange(context);
  const { groups, fitWords } = section;
  const level = context.definition.settings.level;
  return (
    <>
      {tried && <Tried change={tried} />}
      <CheckPart aria-labelledby="checks-measurement">
        <Typography variant="h2" id="checks-measurement">
          Measurement
        </Typography>
        {groups.map((group) => {
          const where = groups.length > 1 ? `, ${group.group}` : "";
          const short = compositeShortcomings(group);
          return (
            <div key={group.group} style={{ display: "grid", gap: 16, minWidth: 0 }}>
              <Typography sx={{ fontFamily: "var(--serif)", maxWidth: "80ch" }}>
                {short.length === 0
                  ? `Nothing in the measurement${where} falls short of common guidance.`
                  : `${groups.length > 1 ? `${group.group}: ` : ""}${short.join(" ")}`}
              </Typography>
              <ConstructTable group={group} where={where} />
              <ItemTable group={group} where={where} level={level} leaveOut={leaveOut} />
              {group.htmt.length > 0 && <PairTable group={group} where={where} level={level} />}
              <WorkingView
                working={compositeMeasurementWorking(group)}
                summary={`Show the working of reliability and ratios${where}`}
              />
              <Disclosure summary={`Cross-loadings${where}`}>
                <CrossLoadings group={group} where={where} />
              </Disclosure>
            </div>
          );
        })}
      </CheckPart>
      <CheckPart aria-labelledby="checks-fit">
        <Typography variant="h2" id="checks-fit">
          Fit
        </Typography>
        <Words words={fitWords} />
        <DiscrepancyTable section={section} />
        {studiesOf(section).map(
          ({ group, exactFit }) =>
            exactFit && (
              <ExactFitTable key={group} study={exactFit} where={group && `, ${group}`} />
            ),
        )}
      </CheckPart>
    </>
  );
}
