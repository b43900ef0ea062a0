import Box from "@mui/material/Box";
import { cautionsTold, type HypothesisEvidence } from "../../core";

/** What has to be known of a decision, where it stands. */
export function Cautions({ hypothesis }: { hypothesis: HypothesisEvidence }) {
  const { cautions, label } = hypothesis;
  if (cautions.length === 0) return null;
  return (
    <Box
      component="ul"
      aria-label={`To be known of ${label}`}
      sx={{ listStyle: "none", m: 0, p: 0, color: "var(--rust)", display: "grid", gap: 0.5 }}
    >
      {cautions.map(({ code, message }) => (
        <Box component="li" key={`${code} ${message}`} sx={{ maxWidth: "75ch" }}>
          ◆ {message}
        </Box>
      ))}
    </Box>
  );
}

/** Beside a verdict of which something has to be known: how much, and on hovering what. */
export function CautionMark({
  hypothesis,
}: {
  hypothesis: Pick<HypothesisEvidence, "label" | "cautions">;
}) {
  const { cautions } = hypothesis;
  if (cautions.length === 0) return null;
  const words = cautions.length === 1 ? "1 caution" : `${cautions.length} cautions`;
  return (
    <Box
      component="span"
      title={cautionsTold([hypothesis]).join("\n")}
      sx={{ color: "var(--rust)", fontSize: 12, whiteSpace: "nowrap" }}
    >
      <span aria-hidden>◆ </span>
      {words}
    </Box>
  );
}
