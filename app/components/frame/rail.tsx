import Box from "@mui/material/Box";
import { styled } from "@mui/material/styles";
import { memo, useCallback, useEffect, useRef, useState } from "react";
import { Link, NavLink, useLocation } from "react-router";
import { useAnalysis } from "../../analysis/use-analysis";
import type { StudyContext } from "../../analysis/use-study";
import { Mark } from "../mark";
import { SCREENS, stagesOf, STATE_WORDS, type StageState } from "./stages";

/** Below this width the stages stand in a row above the page. */
const AS_ROW = "(max-width: 720px)";
export const NARROW = `@media ${AS_ROW}`;

const Nav = styled("nav")({
  // Words for screen readers alone are placed within it, not beside the page.
  position: "relative",
  gridRow: "1 / -1",
  borderRight: "1px solid var(--line)",
  display: "flex",
  flexDirection: "column",
  paddingTop: 14,
  gap: 8,
  "& ol": { listStyle: "none", margin: 0, padding: 0 },
  [NARROW]: {
    gridRow: "auto",
    flexDirection: "row",
    alignItems: "center",
    borderRight: 0,
    borderBottom: "1px solid var(--line)",
    padding: "4px 8px",
    overflowX: "auto",
    "& ol": { display: "flex" },
  },
  "@media (max-height: 620px)": { paddingTop: 4, gap: 0, overflowY: "auto" },
  "@media print": { display: "none" },
});

const StageLink = styled(NavLink)({
  display: "grid",
  justifyItems: "center",
  gap: 3,
  padding: "9px 2px",
  fontSize: 13,
  color: "var(--quiet)",
  textDecoration: "none",
  borderRight: "3px solid transparent",
  "&.active": { color: "var(--ink)", fontWeight: 600, borderRightColor: "var(--petrol)" },
  "&:hover": { color: "var(--petrol)" },
  [NARROW]: {
    padding: "4px 10px",
    borderRight: 0,
    borderBottom: "3px solid transparent",
    "&.active": { borderBottomColor: "var(--petrol)" },
  },
  "@media (max-height: 620px)": { padding: "5px 2px" },
});

/** The stages of the work, each with its state. */
export const Rail = memo(function Rail({ context }: { context: StudyContext }) {
  const states = useAnalysis(
    context.analysis,
    useCallback((state) => stagesOf(context, state).join(" "), [context]),
  );
  const nav = useRef<HTMLElement>(null);
  const settled = useSettled();
  const { pathname } = useLocation();
  // Where the stages are a row that is wider than the screen, the one that is open comes into view.
  useEffect(() => {
    // Measuring lays the whole page out, and where the stages are a column there is nothing to
    // measure.
    if (!matchMedia(AS_ROW).matches) return;
    const row = nav.current;
    const open = row?.querySelector<HTMLElement>('[aria-current="page"]');
    if (row && open && row.scrollWidth > row.clientWidth)
      row.scrollLeft = open.offsetLeft - (row.clientWidth - open.offsetWidth) / 2;
  }, [pathname]);
  return (
    <Nav aria-label="Stages of the work" ref={nav}>
      <Box
        component={Link}
        to="/"
        aria-label="To the shelf"
        title="To the shelf"
        sx={{ alignSelf: "center", p: "4px 8px" }}
      >
        <Mark />
      </Box>
      <ol>
        {SCREENS.map(([to, name], i) => {
          const state = states.split(" ")[i] as StageState;
          return (
            <li key={to}>
              <StageLink to={to} prefetch={settled ? "render" : "intent"}>
                <StateMark state={state} />
                {name}
                <span className="visually-hidden">({STATE_WORDS[state]})</span>
              </StageLink>
            </li>
          );
        })}
      </ol>
    </Nav>
  );
});

/**
 * So long, milliseconds, after a study was opened the other screens are fetched: not while the
 * first is being drawn.
 */
const SETTLED_AFTER = 1000;

function useSettled(): boolean {
  const [settled, setSettled] = useState(false);
  useEffect(() => {
    const waiting = setTimeout(() => setSettled(true), SETTLED_AFTER);
    return () => clearTimeout(waiting);
  }, []);
  return settled;
}

const MARK_COLOURS: Record<StageState, { fill: string; stroke: string }> = {
  empty: { fill: "none", stroke: "var(--quiet)" },
  ready: { fill: "var(--petrol)", stroke: "var(--petrol)" },
  progress: { fill: "var(--petrol-wash)", stroke: "var(--petrol)" },
  look: { fill: "var(--rust)", stroke: "var(--rust)" },
};

function StateMark({ state }: { state: StageState }) {
  return (
    <svg
      viewBox="0 0 12 12"
      width="12"
      height="12"
      strokeWidth="1.5"
      {...MARK_COLOURS[state]}
      aria-hidden
    >
      {state === "look" ? (
        <path d="M6 0.8 11.2 6 6 11.2 0.8 6Z" />
      ) : (
        <circle cx="6" cy="6" r="4.8" />
      )}
    </svg>
  );
}
