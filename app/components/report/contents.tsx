import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { PART_NAMES, type PartId, type ReportChoices } from "../../../core";
import { DownIcon, UpIcon } from "../icons";
import { Check } from "../ui/check";
import { IconAction } from "../ui/icon-button";

interface Props {
  choices: ReportChoices;
  /** Parts that have something to say. */
  filled: ReadonlySet<PartId>;
  change: (parts: ReportChoices["parts"]) => void;
}

/** Which parts stand in the report, and in what order. */
export function Contents({ choices, filled, change }: Props) {
  const { parts } = choices;
  const move = (i: number, by: -1 | 1): void => {
    const next = [...parts];
    [next[i], next[i + by]] = [next[i + by]!, next[i]!];
    change(next);
  };
  return (
    <section aria-labelledby="report-contents">
      <Typography variant="h2" id="report-contents" sx={{ fontSize: 17 }}>
        Contents
      </Typography>
      <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {parts.map(({ id, shown }, i) => (
          <Box
            component="li"
            key={id}
            sx={{
              display: "flex",
              alignItems: "center",
              borderBottom: "1px solid var(--hair)",
              "& .MuiFormControlLabel-root": { flex: 1, mr: 0 },
            }}
          >
            <Check
              label={
                <>
                  {PART_NAMES[id]}
                  {!filled.has(id) && <span className="quiet"> · nothing to report</span>}
                </>
              }
              checked={shown}
              onChange={(now) => change(parts.map((p) => (p.id === id ? { id, shown: now } : p)))}
            />
            <IconAction
              name={`Move ${PART_NAMES[id]} up`}
              size="small"
              disabled={i === 0}
              onClick={() => move(i, -1)}
            >
              <UpIcon />
            </IconAction>
            <IconAction
              name={`Move ${PART_NAMES[id]} down`}
              size="small"
              disabled={i === parts.length - 1}
              onClick={() => move(i, 1)}
            >
              <DownIcon />
            </IconAction>
          </Box>
        ))}
      </Box>
    </section>
  );
}
