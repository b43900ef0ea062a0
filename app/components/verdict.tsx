import { VERDICT_WORDS, type Verdict } from "../../core";
import { styled } from "@mui/material/styles";

const COLOURS: Record<Verdict, string> = {
  supported: "var(--petrol)",
  not_supported: "var(--quiet)",
  opposite: "var(--rust)",
  unsettled: "var(--rust)",
  undirected: "var(--rust)",
  not_testable: "var(--rust)",
  pending: "var(--quiet)",
};

const Mark = styled("span")({
  display: "inline-flex",
  alignItems: "center",
  gap: 5,
  fontWeight: 600,
  fontSize: 14,
  whiteSpace: "nowrap",
  "& svg": { flex: "none", fill: "currentColor" },
  "& .open": { fill: "none", stroke: "currentColor", strokeWidth: 1.6 },
});

/** A verdict: always a shape and a word, never a colour alone. */
export function VerdictMark({ verdict, word = true }: { verdict: Verdict; word?: boolean }) {
  return (
    <Mark style={{ color: COLOURS[verdict] }}>
      <svg
        viewBox="0 0 14 14"
        width="13"
        height="13"
        role={word ? undefined : "img"}
        aria-hidden={word || undefined}
        aria-label={word ? undefined : VERDICT_WORDS[verdict]}
      >
        {verdict === "supported" && <path d="M7 1.5 13 12.5H1Z" />}
        {verdict === "not_supported" && <path className="open" d="M7 2.5 12 11.8H2Z" />}
        {verdict === "opposite" && <path d="M7 12.5 1 1.5H13Z" />}
        {verdict === "unsettled" && <path d="M7 0.5 13.5 7 7 13.5 0.5 7Z" />}
        {verdict === "undirected" && (
          <path className="open" d="M1 4.5h12M10 1.5l3 3-3 3M13 9.5H1M4 6.5l-3 3 3 3" />
        )}
        {verdict === "not_testable" && (
          <path className="open" d="M7 1.5a5.5 5.5 0 1 0 0 11a5.5 5.5 0 1 0 0-11M3.2 3.2l7.6 7.6" />
        )}
        {verdict === "pending" && <circle className="open" cx="7" cy="7" r="5" />}
      </svg>
      {word && <span>{VERDICT_WORDS[verdict]}</span>}
    </Mark>
  );
}
