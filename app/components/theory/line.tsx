import Box from "@mui/material/Box";
import { styled } from "@mui/material/styles";
import type { ReactNode } from "react";
import { CloseIcon } from "../icons";
import { IconAction } from "../ui/icon-button";

const Frame = styled("section")({
  display: "grid",
  gridTemplateColumns: "38px minmax(0, 1fr)",
  position: "relative",
  alignItems: "start",
  padding: "11px 0",
  borderBottom: "1px solid var(--line)",
  "&.minor": { fontSize: 14, color: "var(--quiet)", padding: "7px 0" },
  "& .sentence-remove": { visibility: "hidden", position: "absolute", top: 4, right: -10 },
  "&:hover .sentence-remove, &:focus-within .sentence-remove": { visibility: "visible" },
  "@media (hover: none)": { "& .sentence-remove": { visibility: "visible" } },
});

/** The words of a numbered sentence; fields stand among them, so it is no paragraph. */
export const Words = styled("div")({
  fontFamily: "var(--serif)",
  fontSize: "1.1rem",
  lineHeight: 1.75,
});

interface Props {
  /** What the line is, for those who do not see it. */
  name: string;
  label?: string;
  /** The line of the text it stands for, 1-based. */
  line?: number;
  minor?: boolean;
  remove?: { label: string; act: () => void };
  point?: (on: boolean) => void;
  children: ReactNode;
}

/** One line of the composer: its label, what it says, and a way to take it out. */
export function Line({ name, label, line, minor = false, remove, point, children }: Props) {
  return (
    <Frame
      className={minor ? "minor" : ""}
      aria-label={name}
      data-line={line}
      onMouseEnter={() => point?.(true)}
      onMouseLeave={() => point?.(false)}
    >
      <Box component="span" sx={{ fontFamily: "var(--serif)", color: "var(--quiet)", pt: "2px" }}>
        {label}
      </Box>
      <div>{children}</div>
      {remove && (
        <span className="sentence-remove">
          <IconAction name={remove.label} onClick={remove.act}>
            <CloseIcon />
          </IconAction>
        </span>
      )}
    </Frame>
  );
}
