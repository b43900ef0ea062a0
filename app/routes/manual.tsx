import Box from "@mui/material/Box";
import Link from "@mui/material/Link";
import { styled } from "@mui/material/styles";
import { useSyncExternalStore } from "react";
import Markdown from "react-markdown";
import { Link as RouterLink, useLocation } from "react-router";
import type { Route } from "./+types/manual";
import { CHAPTERS } from "../components/manual/chapters";
import { Mark } from "../components/mark";
import { Glossary } from "../components/frame/glossary-list";

const Text = styled("article")({
  maxWidth: "72ch",
  fontFamily: "var(--serif)",
  fontSize: 17,
  lineHeight: 1.6,
  "& h1": { fontSize: 32, fontWeight: 600, margin: "0 0 18px" },
  "& h2": { fontSize: 22, fontWeight: 600, margin: "32px 0 8px" },
  "& p, & ul, & ol": { margin: "0 0 14px" },
  "& li": { marginBottom: 6 },
  "& pre": {
    fontFamily: "var(--sans)",
    fontSize: 15,
    lineHeight: 1.7,
    background: "var(--sheet)",
    border: "1px solid var(--line)",
    padding: "12px 18px",
    whiteSpace: "pre-wrap",
  },
  "& code": { fontFamily: "var(--sans)", fontSize: "0.92em", color: "var(--petrol)" },
  "& blockquote": {
    margin: "0 0 14px",
    paddingLeft: 16,
    borderLeft: "3px solid var(--petrol)",
    fontVariantNumeric: "tabular-nums",
  },
});

export const meta: Route.MetaFunction = () => [{ title: "Manual · Hebel" }];

/** The manual: a worked example for each design, and the glossary as its last chapter. */
export default function Manual() {
  const chapter = useChapter();
  const shown = CHAPTERS.find(({ id }) => id === chapter);
  return (
    <Box sx={{ maxWidth: 1120, mx: "auto", px: { xs: 2, sm: 5 }, py: 3.5 }}>
      <Box component="header" sx={{ display: "flex", alignItems: "center", gap: 1.5, mb: 4 }}>
        <Box component={RouterLink} to="/" aria-label="To the shelf" title="To the shelf">
          <Mark />
        </Box>
        <Box sx={{ fontFamily: "var(--serif)", fontSize: 20 }}>Manual</Box>
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: { md: "210px minmax(0, 1fr)" }, gap: 5 }}>
        <Box component="nav" aria-label="Chapters">
          <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0, display: "grid", gap: 1 }}>
            {[...CHAPTERS, { id: "glossary", title: "Glossary" }].map(({ id, title }) => (
              <li key={id}>
                <Link
                  component={RouterLink}
                  to={`#${id}`}
                  aria-current={id === chapter ? "page" : undefined}
                  sx={{
                    color: id === chapter ? "var(--ink)" : "var(--petrol)",
                    fontWeight: id === chapter ? 600 : 400,
                    textDecoration: "none",
                    "&:hover": { textDecoration: "underline" },
                  }}
                >
                  {title}
                </Link>
              </li>
            ))}
          </Box>
        </Box>
        <main>
          {chapter === "glossary" ? (
            <Text>
              <h1>Glossary</h1>
              <Glossary />
            </Text>
          ) : (
            <Text>
              {shown ? (
                <Markdown>{shown.text}</Markdown>
              ) : (
                <p>The manual has no chapter of this name; all of them stand in the list.</p>
              )}
            </Text>
          )}
        </main>
      </Box>
    </Box>
  );
}

/**
 * The chapter that the address names after its #. The server never sees that, so it takes over once
 * the page is alive.
 */
function useChapter(): string {
  const { hash } = useLocation();
  const alive = useSyncExternalStore(
    () => () => undefined,
    () => true,
    () => false,
  );
  return (alive && hash.slice(1)) || CHAPTERS[0]!.id;
}
