import type { Complaint } from "../../../core";
import { replaceLine } from "./edit-text";
import { Fault } from "./raw-line";

interface Props {
  text: string;
  complaints: Complaint[];
  change: (text: string) => void;
}

/** The same theory as plain text: what a preregistration can contain. */
export function TextView({ text, complaints, change }: Props) {
  const lines = text.split("\n");
  return (
    <div className="text-view">
      <div className="text-lines">
        <pre aria-hidden className="line-numbers">
          {lines.map((_, i) => `${i + 1}\n`).join("")}
        </pre>
        <textarea
          aria-label="Theory as text"
          spellCheck={false}
          value={text}
          rows={Math.max(12, lines.length + 2)}
          onChange={(e) => change(e.target.value)}
        />
      </div>
      {complaints.map((fault) => (
        <Fault
          key={`${fault.line} ${fault.column} ${fault.message}`}
          fault={fault}
          content={lines[fault.line - 1] ?? ""}
          change={(line) => change(replaceLine(text, fault.line, line))}
        />
      ))}
      <details>
        <summary>How to write it</summary>
        <ul>
          <li>H1: hours raises belonging through confidence then friends</li>
          <li>H2: hours affects belonging through confidence and friends</li>
          <li>H3: hours lowers belonging only through confidence</li>
          <li>also noise to belonging</li>
          <li>H4: support strengthens hours to confidence</li>
          <li>
            H5: support with months alters hours to belonging through confidence on hours to
            confidence
          </li>
          <li>adjust confidence, belonging for age, months</li>
          <li>contrast H1 with H2</li>
          <li>define share as H1 / total hours to belonging</li>
          <li>measure confidence averages conf1, conf2, reversed conf3</li>
        </ul>
        <p className="quiet">
          One sentence a line; names with spaces in quotation marks; # starts a comment.
        </p>
      </details>
    </div>
  );
}
