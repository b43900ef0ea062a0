import Box from "@mui/material/Box";
import { styled } from "@mui/material/styles";
import { Fragment, useState } from "react";
import type { Working } from "../../../core";
import { Disclosure } from "../ui/disclosure";

const List = styled("dl")({
  display: "grid",
  gridTemplateColumns: "fit-content(34%) minmax(0, 1fr)",
  gap: "8px 14px",
  margin: 0,
  fontSize: 14,
  "& dt": { color: "var(--quiet)", maxWidth: "32ch" },
  "& dd": { margin: 0, overflowWrap: "anywhere" },
  "@media (max-width: 640px)": { gridTemplateColumns: "minmax(0, 1fr)" },
});

/** Where a number comes from, for those who ask: formula, the numbers put in, rows, method and source. */
export function WorkingView({
  working,
  summary = "Show the working",
}: {
  working: Working;
  summary?: string;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Disclosure summary={summary} open={open} onOpen={setOpen}>
      {open && <Steps working={working} />}
    </Disclosure>
  );
}

/** The lines of a working. */
export function Steps({ working }: { working: Working }) {
  return (
    <List aria-label={`Working of ${working.title}`}>
      {working.steps.map((step) => (
        <Fragment key={step.what}>
          <dt>{step.what}</dt>
          <dd>
            {step.formula && (
              <Box sx={{ fontFamily: "var(--serif)", fontStyle: "italic" }}>{step.formula}</Box>
            )}
            <Box sx={{ fontVariantNumeric: "tabular-nums" }}>{step.numbers}</Box>
            {step.source && <Box className="quiet">{step.source}</Box>}
          </dd>
        </Fragment>
      ))}
      <dt>Rows</dt>
      <dd>{working.rows}</dd>
    </List>
  );
}
