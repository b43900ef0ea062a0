import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import {
  deviations,
  registrationDocument,
  registrationOf,
  type Registration,
  type StudyDefinition,
} from "../../../core";
import { download, fileName } from "../download";
import { Row } from "../ui/layout";

interface Props {
  definition: StudyDefinition;
  /** Lays the study down as the plan, or takes the plan away. */
  register: (plan: Registration | undefined) => void;
}

/** The plan of the study as it was laid down, and what differs from it by now. */
export function Plan({ definition, register }: Props) {
  const { registered } = definition;
  const off = registered ? deviations(registered, definition) : [];
  return (
    <section aria-labelledby="report-plan">
      <Typography variant="h2" id="report-plan" sx={{ fontSize: 17, mb: 0.75 }}>
        Preregistration
      </Typography>
      {!registered && (
        <>
          <p className="quiet" style={{ marginTop: 0 }}>
            Lay down hypotheses, measures, exclusions and settings as they stand; the report then
            says what differs from that plan.
          </p>
          <Button
            variant="outlined"
            onClick={() => register(registrationOf(definition, new Date().toISOString()))}
          >
            Lay down the plan
          </Button>
        </>
      )}
      {registered && (
        <>
          <p style={{ marginTop: 0 }}>
            Laid down on {registered.when.slice(0, 10)};{" "}
            {off.length === 0 ? "nothing differs from it." : "what differs now:"}
          </p>
          {off.length > 0 && (
            <Box component="ul" sx={{ pl: 2.25, my: 0.5, overflowWrap: "anywhere" }}>
              {off.map((what) => (
                <li key={what}>{what}</li>
              ))}
            </Box>
          )}
          <Row>
            <Button
              variant="outlined"
              onClick={() => void savePlan("docx", definition.title, registered)}
            >
              Plan as Word document
            </Button>
            <Button
              variant="text"
              onClick={() => void savePlan("md", definition.title, registered)}
            >
              as Markdown
            </Button>
            <Button variant="text" onClick={() => register(undefined)}>
              Take it away
            </Button>
          </Row>
        </>
      )}
    </section>
  );
}

async function savePlan(format: "docx" | "md", title: string, plan: Registration): Promise<void> {
  const write = await import("../../../formats/report");
  const document = registrationDocument(title, plan);
  const content =
    format === "docx" ? await write.docxReport(document) : write.markdownReport(document);
  download(
    fileName(`${title} plan`, `.${format}`),
    new Blob([content as BlobPart]),
    format === "docx"
      ? "application/vnd.openxmlformats-officedocument.wordprocessingml.document"
      : "text/markdown",
  );
}
