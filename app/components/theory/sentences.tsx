import Box from "@mui/material/Box";
import { Fragment, useEffect, useRef, useState, type ReactNode } from "react";
import type { Statement } from "../../../core";
import { scaleOf } from "../interval-bar";
import { AdjustLine } from "./adjust-line";
import { replaceLine } from "./edit-text";
import { HypothesisLine } from "./hypothesis-line";
import { MeasureLine } from "./measure-line";
import { ModerationLine } from "./moderation-line";
import { AddRow, NewHypothesis } from "./new-sentences";
import { RawLine } from "./raw-line";
import { ResponseLine } from "./response-line";
import type { SentenceProps } from "./sentence";
import { CovaryLine, GroupsLine, HoldLine } from "./structure-line";

/** The theory as sentences with slots, in the order of the text. */
export function Sentences(props: SentenceProps) {
  const { text, statements, complaints } = props;
  const { frame, goOn } = useGoOn();
  const scale = scaleOf(
    props.evidence?.hypotheses.flatMap((h) => (h.claim ? [h.claim] : [])) ?? [],
  );
  return (
    <Box ref={frame} sx={{ mt: 1.5, borderTop: "1px solid var(--line)" }}>
      {text.split("\n").map((content, i) => {
        const line = i + 1;
        const statement = statements.find((s) => s.line === line);
        const faults = complaints.filter((c) => c.line === line);
        if (content.trim() === "") return null;
        const key = `${line}`;
        if (statement?.kind === "hypothesis" && faults.length === 0)
          return <HypothesisLine key={key} {...props} statement={statement} scale={scale} />;
        if (statement?.kind === "moderation" && faults.length === 0)
          return <ModerationLine key={key} {...props} statement={statement} scale={scale} />;
        if (statement?.kind === "measure" && faults.length === 0)
          return <MeasureLine key={key} measure={statement} />;
        if (statement?.kind === "adjust" && faults.length === 0)
          return <AdjustLine key={key} {...props} statement={statement} />;
        const minor = faults.length === 0 && statement ? minorLine(props, statement) : null;
        if (minor) return <Fragment key={key}>{minor}</Fragment>;
        return (
          <RawLine
            key={key}
            content={content}
            line={line}
            faults={faults}
            change={(next) => props.change(replaceLine(text, line, next))}
          />
        );
      })}
      <NewHypothesis {...props} goOn={goOn} />
      <AddRow {...props} />
    </Box>
  );
}

/** Lines beside the hypotheses that have slots of their own; null for those that stand as text. */
function minorLine(props: SentenceProps, statement: Statement): ReactNode {
  switch (statement.kind) {
    case "covary":
      return <CovaryLine {...props} statement={statement} />;
    case "hold":
      return <HoldLine {...props} statement={statement} />;
    case "groups":
      return <GroupsLine {...props} statement={statement} />;
    case "model":
      return <ResponseLine {...props} statement={statement} />;
    default:
      return null;
  }
}

/** Hands the focus on to a place of a line once that line is on screen. */
function useGoOn() {
  const frame = useRef<HTMLDivElement>(null);
  const [wanted, setWanted] = useState<{ line: number; place: string } | null>(null);
  useEffect(() => {
    if (!wanted) return;
    const timer = setTimeout(() => {
      const at = `[data-line="${wanted.line}"] [data-place="${wanted.place}"]`;
      frame.current?.querySelector<HTMLElement>(at)?.focus();
      setWanted(null);
    });
    return () => clearTimeout(timer);
  }, [wanted]);
  return { frame, goOn: (line: number, place: string) => setWanted({ line, place }) };
}
