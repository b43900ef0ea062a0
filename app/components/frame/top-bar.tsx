import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { memo } from "react";
import { Link } from "react-router";
import { engines, INTERVAL_WORDS, percent, thousands, type Evidence } from "../../../core";
import type { AnalysisState } from "../../analysis/analysis";
import { useAnalysis } from "../../analysis/use-analysis";
import type { StudyContext } from "../../analysis/use-study";
import { BookIcon, RedoIcon, UndoIcon } from "../icons";
import { IconAction } from "../ui/icon-button";
import { TextInput } from "../ui/text-input";
import { LookToggle } from "./look-toggle";

interface Props {
  /** The study as the screens get it: letters of the title come a moment later. */
  context: StudyContext;
  history: { undo: number; redo: number };
  step: (way: "undo" | "redo") => void;
  openSettings: () => void;
  openGlossary: () => void;
  openPalette: () => void;
}

const sampleSize = ({ evidence }: AnalysisState) => evidence?.sample.n;

/** Study, sample and run: what a reader must know before any number. */
export function TopBar({ head, ...tools }: Props & { head: StudyContext }) {
  return (
    <Stack
      component="header"
      direction="row"
      sx={{
        alignItems: "center",
        flexWrap: "wrap",
        gap: "6px 10px",
        minHeight: 54,
        px: { xs: 1.5, sm: 3 },
        py: "8px",
        borderBottom: "1px solid var(--line)",
        position: "relative",
        "& > button, & > a, & > span": { whiteSpace: "nowrap", flexShrink: 0, maxWidth: "100%" },
        // On a narrow screen what is chosen takes two lines rather than leaving the page.
        "& > button": { whiteSpace: { xs: "normal", sm: "nowrap" } },
        "@media print": { display: "none" },
      }}
    >
      <TitleAndQuestion context={head} />
      <Tools {...tools} />
    </Stack>
  );
}

/** All but what is typed in the head: not drawn again with every letter. */
const Tools = memo(function Tools(props: Props) {
  const { context, history, step, openSettings, openGlossary, openPalette } = props;
  const { definition, study, analysis } = context;
  const n = useAnalysis(analysis, sampleSize);
  return (
    <>
      <span>
        <IconAction
          name="Undo"
          keys="Ctrl Z"
          disabled={history.undo === 0}
          onClick={() => step("undo")}
        >
          <UndoIcon />
        </IconAction>
        <IconAction
          name="Redo"
          keys="Ctrl Shift Z"
          disabled={history.redo === 0}
          onClick={() => step("redo")}
        >
          <RedoIcon />
        </IconAction>
      </span>
      <Button
        component={Link}
        to="data"
        title={
          n == null
            ? "Rows that no filter leaves out"
            : "Rows with an answer on every variable of the theory"
        }
      >
        {study.rows === 0 ? (
          <span>no data yet</span>
        ) : (
          <span>
            <strong>{n ?? context.dataset.included.length}</strong> of {study.rows}{" "}
            {definition.unit}
          </span>
        )}
      </Button>
      <Run context={context} openSettings={openSettings} />
      <IconAction name="Glossary" onClick={() => openGlossary()}>
        <BookIcon />
      </IconAction>
      <LookToggle />
      <Button
        onClick={openPalette}
        aria-label="Commands, Ctrl K"
        sx={{ display: { xs: "none", sm: "inline-flex" } }}
      >
        Ctrl K
      </Button>
      <Progress context={context} />
    </>
  );
});

function TitleAndQuestion({ context: { definition, edit } }: { context: StudyContext }) {
  return (
    <Stack
      sx={{
        flex: "1 1 200px",
        minWidth: 0,
        // The question stands beneath the title: beside it, long names of engines left it no room.
        my: "-4px",
        "& .MuiInputBase-root": { fontFamily: "var(--serif)", minWidth: 0 },
        "& input": { p: "0 4px", textOverflow: "ellipsis" },
        "& input:hover": { backgroundColor: "var(--hair)" },
      }}
    >
      <Box
        sx={{
          minWidth: "6ch",
          overflow: "hidden",
          ml: "-4px",
          "& .MuiInputBase-root": { fontSize: "1.25rem", fontWeight: 600, maxWidth: "100%" },
          "& input": { fieldSizing: "content", maxWidth: "100%", minWidth: "4ch" },
        }}
      >
        <TextInput
          bare
          aria-label="Title of the study"
          value={definition.title}
          onChange={(e) => edit({ title: e.target.value }, "title")}
        />
      </Box>
      <Box
        sx={{
          minWidth: 0,
          ml: "-4px",
          "& .MuiInputBase-root": {
            width: "100%",
            fontSize: "0.95rem",
            fontStyle: "italic",
            color: "var(--quiet)",
          },
          "@media (max-width: 640px)": { display: "none" },
        }}
      >
        <TextInput
          bare
          aria-label="Research question"
          placeholder="What is the question?"
          value={definition.question}
          onChange={(e) => edit({ question: e.target.value }, "question")}
        />
      </Box>
    </Stack>
  );
}

/** What is estimated from its items, in words. */
function latentWords({ latent }: Evidence): string {
  const of = (form: "reflects" | "combines", one: string, several: string): string[] => {
    const names = latent.filter((l) => l.form === form).map((l) => l.name);
    return names.length === 0 ? [] : [`${names.join(", ")} ${names.length === 1 ? one : several}`];
  };
  return [
    ...of("reflects", "is a latent variable", "are latent variables"),
    ...of("combines", "is a composite", "are composites"),
  ].join(" and ");
}

function Run({ context, openSettings }: Pick<Props, "context" | "openSettings">) {
  const { settings } = context.definition;
  const { status, before, done, requested, secondsLeft, evidence } = useAnalysis(context.analysis);
  // The usual way of estimating needs no word; another one does, and why it is used.
  // Where the chosen interval is not offered, the one that stands in.
  const withheld = evidence?.withheldIntervals ?? {};
  const used =
    evidence && settings.interval in withheld ? evidence.settings.interval : settings.interval;
  const other = evidence && evidence.estimator.id !== engines()[0]!.id ? evidence : null;
  const estimator = other?.estimator.label ?? null;
  const why =
    other &&
    (other.latent.length > 0
      ? `By ${estimator}, because ${latentWords(other)}. The settings say how.`
      : settings.engine === other.estimator.id
        ? `By ${estimator}, as the settings say.`
        : `By ${estimator}, because of what the theory says beside its hypotheses.`);
  return (
    <>
      {status === "estimating" && before && (
        <Typography
          component="span"
          variant="body2"
          role="status"
          title="What stands here is of the study as it was before; new estimates are on their way"
          sx={{ color: "var(--rust)" }}
        >
          numbers of before …
        </Typography>
      )}
      {status === "resampling" && done < requested && (
        <Typography component="span" variant="body2" color="textSecondary">
          {thousands(done)} of {thousands(requested)}
          {secondsLeft !== null && `, ${secondsLeft} s left`}{" "}
          <Button variant="text" onClick={context.analysis.stop}>
            Stop
          </Button>
        </Typography>
      )}
      {status === "stopped" && (
        <Typography component="span" variant="body2" color="textSecondary">
          stopped at {thousands(done)}{" "}
          <Button variant="text" onClick={context.analysis.resume}>
            Go on
          </Button>
        </Typography>
      )}
      {status === "trying" && (
        <Typography
          component="span"
          variant="body2"
          color="textSecondary"
          role="status"
          title="Fewer samples while you try, as the settings say; the report draws all of them"
        >
          {thousands(done)} while trying{" "}
          <Button variant="text" onClick={context.analysis.resume}>
            Draw all
          </Button>
        </Typography>
      )}
      <Button
        onClick={openSettings}
        aria-haspopup="dialog"
        aria-label="Analysis settings"
        title={why ?? undefined}
      >
        <span>
          {estimator && <>{estimator} · </>}
          {context.raw.moments ? (
            <>nothing resampled · {percent(settings.level)} %</>
          ) : (
            <>
              <strong>{thousands(settings.replications)}</strong> bootstrap samples ·{" "}
              {INTERVAL_WORDS[used]} {percent(settings.level)} %
              <Box component="span" sx={{ "@media (max-width: 1320px)": { display: "none" } }}>
                {" "}
                · seed {settings.seed}
              </Box>
            </>
          )}
        </span>
      </Button>
    </>
  );
}

function Progress({ context }: { context: StudyContext }) {
  const { status, before, done, requested } = useAnalysis(context.analysis);
  const anew = status === "estimating" && before;
  if (!anew && (status !== "resampling" || requested === 0)) return null;
  return (
    <LinearProgress
      variant={anew ? "indeterminate" : "determinate"}
      aria-label={anew ? "New estimates" : "Bootstrap samples"}
      {...(anew ? {} : { value: (100 * done) / requested })}
      sx={{ position: "absolute", left: 0, right: 0, bottom: -2 }}
    />
  );
}
