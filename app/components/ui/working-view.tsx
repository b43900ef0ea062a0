import Box from "@mui/material/Box";
import { styled } from "@mui/material/styles";
import { Fragment, useState } from "react";
import type { Working } from "../../../core";
import { Disclosure } from "./disclosure";
import { Select } from "./select";

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

/**
 * Where a number comes from, for those who ask: formula, the numbers put in, rows, method and
 * source.
 */
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

/** The working of one of several numbers; which one is chosen there. */
export function WorkingOfOne({
  label,
  choices,
  initially,
  make,
}: {
  label: string;
  choices: readonly { value: string; words: string }[];
  initially: string;
  /** The working of a choice; null where there is none. */
  make: (value: string) => Working | null;
}) {
  const [open, setOpen] = useState(false);
  const [value, setValue] = useState(initially);
  const working = open ? make(value) : null;
  return (
    <Disclosure summary="Show the working" open={open} onOpen={setOpen}>
      {open && (
        <>
          <Box sx={{ mb: 1.5, display: "flex", gap: 1, alignItems: "center" }}>
            <span>{label}</span>
            <Select aria-label={label} value={value} onChange={(e) => setValue(e.target.value)}>
              {choices.map((c) => (
                <option key={c.value} value={c.value}>
                  {c.words}
                </option>
              ))}
            </Select>
          </Box>
          {working && <Steps working={working} />}
        </>
      )}
    </Disclosure>
  );
}

/** The lines of a working. */
export function Steps({ working }: { working: Working }) {
  return (
    <div role="group" aria-label={`Working of ${working.title}`}>
      <List>
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
    </div>
  );
}
