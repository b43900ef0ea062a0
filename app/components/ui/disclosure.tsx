import Accordion from "@mui/material/Accordion";
import AccordionDetails from "@mui/material/AccordionDetails";
import AccordionSummary from "@mui/material/AccordionSummary";
import { useId, type ReactNode } from "react";

/** What is there for those who ask: a line of words that opens what stands below it. */
export function Disclosure({
  summary,
  open,
  initiallyOpen = false,
  onOpen,
  children,
}: {
  summary: ReactNode;
  open?: boolean;
  initiallyOpen?: boolean;
  onOpen?: (open: boolean) => void;
  children: ReactNode;
}) {
  const id = useId();
  return (
    <Accordion
      defaultExpanded={initiallyOpen}
      {...(open === undefined ? {} : { expanded: open })}
      {...(onOpen ? { onChange: (_: unknown, now: boolean) => onOpen(now) } : {})}
      slotProps={{
        transition: { timeout: 120 },
        heading: { component: "div" },
      }}
    >
      <AccordionSummary
        id={id}
        aria-controls={`${id}-more`}
        sx={{
          "&::before": {
            // A picture, not a word: readers of screens need not hear it.
            content: ['"▸"', '"▸" / ""'],
            width: 16,
            transition: "transform .12s",
            transformOrigin: "5px 50%",
          },
          "&.Mui-expanded::before": { transform: "rotate(90deg)" },
        }}
      >
        {summary}
      </AccordionSummary>
      <AccordionDetails id={`${id}-more`}>{children}</AccordionDetails>
    </Accordion>
  );
}
