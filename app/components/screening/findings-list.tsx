import Button from "@mui/material/Button";
import type { DataEvidence, Finding, Remedy } from "../../../core";

interface Props {
  data: DataEvidence;
  apply: (remedy: Remedy) => void;
  show: (finding: Finding) => void;
}

/** What was found, each in a sentence with what can be done about it. */
export function FindingsList({ data, apply, show }: Props) {
  const look = data.findings.filter((f) => f.weight === "look");
  const notes = data.findings.filter((f) => f.weight === "note");
  if (data.findings.length === 0)
    return <p className="serif">Nothing in these data stands in the way of an analysis.</p>;
  return (
    <>
      {look.length > 0 && (
        <ul className="findings" aria-label="Deserves a decision">
          {look.map((f) => (
            <Entry key={f.id} finding={f} apply={apply} show={show} />
          ))}
        </ul>
      )}
      {notes.length > 0 && (
        <details open={look.length < 4}>
          <summary className="quiet">
            {notes.length === 1 ? "One more thing" : `${notes.length} more things`} good to know
          </summary>
          <ul className="findings" aria-label="Good to know">
            {notes.map((f) => (
              <Entry key={f.id} finding={f} apply={apply} show={show} />
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

function Entry({
  finding,
  apply,
  show,
}: {
  finding: Finding;
  apply: Props["apply"];
  show: Props["show"];
}) {
  return (
    <li>
      <span className="finding-mark" aria-hidden>
        {finding.weight === "look" ? "◆" : "·"}
      </span>
      <div>
        <p>{finding.message}</p>
        <p className="finding-remedies">
          {finding.remedies.map((remedy) => (
            <Button key={remedy.words} onClick={() => apply(remedy)}>
              {remedy.words}
            </Button>
          ))}
          {finding.rows.length > 0 && (
            <Button variant="text" onClick={() => show(finding)}>
              Show in the data
            </Button>
          )}
        </p>
      </div>
    </li>
  );
}
