import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { linesOf, thousands, VERDICT_WORDS } from "../../../core";
import { loadStudy, placeOf, type ShelfEntry } from "../../storage/studies";
import { readAhead } from "../../storage/ahead";
import { exportStudy } from "../export-study";
import { VerdictMark } from "../verdict";

interface Props {
  entry: ShelfEntry;
  copy: () => void;
  remove: () => void;
}

/** A study on the shelf: its question, its size and its verdicts. */
export function StudyCard({ entry: { study, strip, onlyHere }, copy, remove }: Props) {
  const { definition, id } = study;
  const title = definition.title || "Untitled study";
  return (
    <Stack
      sx={{
        height: "100%",
        backgroundColor: "var(--sheet)",
        border: "1px solid var(--line)",
        borderTop: "3px solid var(--petrol)",
        borderRadius: "2px 2px 4px 4px",
        "&:hover": { borderColor: "var(--petrol)" },
      }}
    >
      <Stack
        component={Link}
        to={placeOf(study)}
        prefetch="intent"
        // A hand comes to rest on what it chooses, and a key leads there: what is read meanwhile
        // need not be waited for.
        onPointerEnter={() => void readAhead(study)}
        onFocus={() => void readAhead(study)}
        sx={{
          flex: 1,
          gap: 0.75,
          p: "16px 18px 10px",
          color: "inherit",
          textDecoration: "none",
        }}
      >
        <Typography variant="h3">{title}</Typography>
        <Typography color="textSecondary" sx={{ fontFamily: "var(--serif)", fontStyle: "italic" }}>
          {definition.question || "No question written yet"}
        </Typography>
        <Typography variant="body2" color="textSecondary">
          {study.rows === 0
            ? "no data yet"
            : `${thousands(study.rows)} ${definition.unit}, ${study.columns} columns`}
        </Typography>
        <Strip strip={strip} theory={definition.theory} rows={study.rows} />
      </Stack>
      <Stack
        direction="row"
        sx={{
          alignItems: "center",
          borderTop: "1px solid var(--hair)",
          p: "2px 8px 2px 18px",
          "& .MuiButton-root": { fontSize: 13, px: "6px" },
        }}
      >
        <Typography
          component="time"
          variant="caption"
          color="textSecondary"
          dateTime={new Date(study.updatedAt).toISOString()}
        >
          {dayOf(study.updatedAt)}
          {onlyHere && (
            <span title="Not exported since the last change: a copy on your disk outlives this browser">
              {" "}
              · in this browser only
            </span>
          )}
        </Typography>
        <Box sx={{ flex: 1 }} />
        <Button variant="text" onClick={copy} aria-label={`Duplicate ${title}`}>
          Duplicate
        </Button>
        <Button
          variant="text"
          onClick={() => void exportFromShelf(id)}
          aria-label={`Export ${title}`}
        >
          Export
        </Button>
        <Button variant="text" onClick={remove} aria-label={`Remove ${title}`}>
          Remove
        </Button>
      </Stack>
    </Stack>
  );
}

const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", year: "numeric" });
const dayOf = (time: number): string => DAY.format(time);

async function exportFromShelf(id: string): Promise<void> {
  const loaded = await loadStudy(id);
  if (loaded) exportStudy(loaded.study, loaded.study.definition, loaded.table);
}

function Strip({
  strip,
  theory,
  rows,
}: {
  strip: ShelfEntry["strip"];
  theory: string;
  rows: number;
}) {
  if (!strip || strip.verdicts.length === 0) {
    const count = linesOf(theory, "hypothesis", "moderation").length;
    const words = count === 1 ? "one hypothesis" : `${count} hypotheses`;
    return (
      <Typography variant="body2" color="textSecondary" sx={{ mt: 0.75 }}>
        {count === 0
          ? "no hypotheses yet"
          : `${words}, open to ${rows === 0 ? "plan" : "see the evidence"}`}
      </Typography>
    );
  }
  return (
    <Stack
      component="ul"
      direction="row"
      aria-label="Verdicts of the last run"
      sx={{
        listStyle: "none",
        m: "6px 0 0",
        p: 0,
        flexWrap: "wrap",
        gap: "4px 14px",
        fontSize: 14,
      }}
    >
      {strip.verdicts.slice(0, 10).map(({ label, verdict, sentence, cautions = [] }) => (
        <li
          key={label}
          title={[
            `${label}: ${sentence}: ${VERDICT_WORDS[verdict]}`,
            ...cautions.map(({ message }) => message),
          ].join("\n")}
        >
          <span className="quiet">{label}</span> <VerdictMark verdict={verdict} word={false} />
          {cautions.length > 0 && (
            <Box component="span" aria-hidden sx={{ color: "var(--rust)", fontSize: 12 }}>
              {" "}
              ◆
            </Box>
          )}
        </li>
      ))}
    </Stack>
  );
}
