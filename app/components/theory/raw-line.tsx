import type { Complaint } from "../../../core";
import { RemoveButton } from "./sentence";

/** Any other line, as text; faults stand beneath it with a way to mend them. */
export function RawLine({
  content,
  faults,
  change,
}: {
  content: string;
  faults: Complaint[];
  change: (line: string | null) => void;
}) {
  return (
    <section
      className={faults.length > 0 ? "sentence minor faulty" : "sentence minor"}
      aria-label={content}
    >
      <span />
      <div>
        <input
          className="raw-line"
          aria-label="Sentence as text"
          aria-invalid={faults.length > 0}
          value={content}
          onChange={(e) => change(e.target.value)}
        />
        {faults.map((fault) => (
          <Fault key={fault.message} fault={fault} content={content} change={change} />
        ))}
      </div>
      <RemoveButton label="Remove this line" remove={() => change(null)} />
    </section>
  );
}

export function Fault({
  fault,
  content,
  change,
}: {
  fault: Complaint;
  content: string;
  change: (line: string) => void;
}) {
  const mended = fault.suggestion
    ? content.slice(0, fault.column - 1) +
      fault.suggestion +
      content.slice(fault.column - 1 + fault.length)
    : null;
  return (
    <p className="fault">
      ◆ Line {fault.line}, column {fault.column}: {fault.message}{" "}
      {mended !== null && (
        <button type="button" className="button" onClick={() => change(mended)}>
          Write “{fault.suggestion}”
        </button>
      )}
    </p>
  );
}
