import Button from "@mui/material/Button";
import { styled } from "@mui/material/styles";
import type { DataEvidence, Finding, Remedy } from "../../../core";
import { Disclosure } from "../ui/disclosure";

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
        <Findings aria-label="Deserves a decision">
          {look.map((f) => (
            <Entry key={f.id} finding={f} apply={apply} show={show} />
          ))}
        </Findings>
      )}
      {notes.length > 0 && (
        <Disclosure
          initiallyOpen={look.length < 4}
          summary={`${notes.length === 1 ? "One more thing" : `${notes.length} more things`} good to know`}
        >
          <Findings aria-label="Good to know">
            {notes.map((f) => (
              <Entry key={f.id} finding={f} apply={apply} show={show} />
            ))}
          </Findings>
        </Disclosure>
      )}
    </>
  );
}

const Findings = styled("ul")({
  listStyle: "none",
  margin: 0,
  padding: 0,
  borderTop: "1px solid var(--hair)",
  "& > li": {
    display: "grid",
    gridTemplateColumns: "18px minmax(0, 1fr)",
    padding: "8px 0",
    borderBottom: "1px solid var(--hair)",
  },
  "& > li > div": {
    display: "flex",
    flexWrap: "wrap",
    gap: "6px 18px",
    alignItems: "flex-start",
    justifyContent: "space-between",
  },
  "& p": { flex: "1 1 320px", maxWidth: "84ch" },
  "& .mark": { color: "var(--rust)" },
  "& .remedies": {
    display: "flex",
    flexWrap: "wrap",
    justifyContent: "flex-end",
    gap: 6,
    maxWidth: 330,
  },
});

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
      <span className="mark" aria-hidden>
        {finding.weight === "look" ? "◆" : "·"}
      </span>
      <div>
        <p>{finding.message}</p>
        <div className="remedies">
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
        </div>
      </div>
    </li>
  );
}
