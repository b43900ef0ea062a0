import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Grid from "@mui/material/Grid";
import Snackbar from "@mui/material/Snackbar";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { memo, useCallback, useEffect, useState } from "react";
import { Link } from "react-router";
import type { Route } from "./+types/shelf";
import { answering, useAsk } from "../actions/asking";
import { fetchDemo, shelfAction, type ShelfOutcome } from "../actions/shelf-action";
import { AboutDialog } from "../components/frame/open-about";
import { LookToggle } from "../components/frame/look-toggle";
import { MemoryNotice, WithoutEncryption } from "../components/frame/storage-notices";
import { ThreadNotice } from "../components/frame/thread-notice";
import { FileIcon } from "../components/icons";
import { DropTarget } from "../components/importing/drop-target";
import { FilePicker } from "../components/importing/file-picker";
import { ImportDialog } from "../components/importing/open-import";
import { Mark } from "../components/mark";
import { StudyCard } from "../components/shelf/study-card";
import { download, fileName } from "../components/download";
import { damagedStudies, remainsOf, type DamagedStudy } from "../storage/damage";
import { ensureDemo, listStudies, type ShelfEntry } from "../storage/studies";
import { useLive } from "../storage/use-live";
import { engine } from "../workers/engine";

const READABLE = ".zip,.csv,.tsv,.txt,.json,.xlsx,.ods,text/csv,application/json";

export async function clientLoader() {
  // Without the demo the shelf still works; it is offered again next time.
  await ensureDemo(fetchDemo).catch(() => undefined);
  return { entries: await listStudies(), damaged: await damagedStudies() };
}
clientLoader.hydrate = true as const;

export const clientAction = async ({ request }: Route.ClientActionArgs) =>
  answering(request, shelfAction);

export const meta: Route.MetaFunction = () => [{ title: "Shelf · Hebel" }];

export default function Shelf({ loaderData }: Route.ComponentProps) {
  const [failed, setFailed] = useState<string | null>(null);
  const ask = useAsk<ShelfOutcome>("shelf");
  const act = useCallback(
    (body: object): void =>
      void ask(body, "/?index").then((outcome) =>
        setFailed(outcome?.ok === false ? (outcome.message ?? "") : null),
      ),
    [ask],
  );
  useLive(
    async () => ({
      value: (await listStudies()).map((e) => [e.study.id, e.study.revision, e.strip]),
    }),
    "shelf",
  );
  useEffect(() => void engine(), []);
  return <ShelfPage {...loaderData} failed={failed} act={act} />;
}

interface PageProps {
  entries: ShelfEntry[];
  damaged: DamagedStudy[];
  failed: string | null;
  act: (body: object) => void;
}

/**
 * The page itself, which need not be drawn again for every move of the router: one is the click
 * that opens a study.
 */
const ShelfPage = memo(function ShelfPage({ entries, damaged, failed, act }: PageProps) {
  const [file, setFile] = useState<File | null>(null);
  const [about, setAbout] = useState(false);
  const [gone, setGone] = useState<string | null>(null);
  return (
    <DropTarget>
      <Head />
      <MemoryNotice />
      <ThreadNotice />
      {failed && (
        <Alert severity="error" sx={{ m: 2 }}>
          {failed}
        </Alert>
      )}
      <Box component="main" sx={{ maxWidth: 1180, mx: "auto", px: { xs: 2, sm: 5 }, py: 3.5 }}>
        <Beginnings pick={setFile} begin={act} />
        <Typography variant="h2" sx={{ mt: 4 }}>
          Your shelf
        </Typography>
        {damaged.map(({ id, title }) => (
          <Alert
            key={id}
            severity="error"
            sx={{ mt: 2 }}
            action={
              <>
                <Button size="small" onClick={() => void exportRemains(id, title)}>
                  Export what is left
                </Button>
                <Button size="small" onClick={() => act({ intent: "remove", id })}>
                  Remove
                </Button>
              </>
            }
          >
            “{title}” is damaged in this browser's storage and cannot be opened.
          </Alert>
        ))}
        {entries.length === 0 && (
          <Typography sx={{ py: 2.5, maxWidth: "56ch" }}>
            Nothing here yet. A study appears here as soon as you begin one.
          </Typography>
        )}
        <Grid container component="ul" spacing={2.25} sx={{ listStyle: "none", p: 0, my: 2 }}>
          {entries.map((entry) => (
            <Grid key={entry.study.id} component="li" size={{ xs: 12, sm: 6, md: 4 }}>
              <StudyCard
                entry={entry}
                copy={() => act({ intent: "copy", id: entry.study.id })}
                remove={() => {
                  act({ intent: "remove", id: entry.study.id });
                  setGone(entry.study.definition.title);
                }}
              />
            </Grid>
          ))}
        </Grid>
        <Typography variant="body2" color="textSecondary">
          Everything stays in this browser until you export it.{" "}
          <Button variant="text" size="small" component={Link} to="/manual">
            Manual
          </Button>
          <Button variant="text" size="small" onClick={() => setAbout(true)}>
            About and licences
          </Button>
        </Typography>
        <WithoutEncryption />
      </Box>
      {file && <ImportDialog file={file} close={() => setFile(null)} />}
      {about && <AboutDialog close={() => setAbout(false)} />}
      <Snackbar
        open={gone !== null}
        autoHideDuration={10_000}
        onClose={() => setGone(null)}
        message={`“${gone}” was removed.`}
        action={
          <Button
            variant="text"
            onClick={() => {
              act({ intent: "restore" });
              setGone(null);
            }}
          >
            Put it back
          </Button>
        }
      />
    </DropTarget>
  );
});

async function exportRemains(id: string, title: string): Promise<void> {
  download(fileName(title, "-remains.json"), await remainsOf(id), "application/json");
}

function Head() {
  return (
    <Stack
      component="header"
      direction="row"
      sx={{
        alignItems: "center",
        gap: 1.75,
        px: { xs: 2, sm: 5 },
        py: 2.25,
        borderBottom: "1px solid var(--line)",
      }}
    >
      <Mark />
      <div>
        <Typography variant="h1">Hebel</Typography>
        <Typography color="textSecondary">From numbered hypotheses to evidence</Typography>
      </div>
      <Box sx={{ flex: 1 }} />
      <LookToggle />
    </Stack>
  );
}

/** Three ways to begin. */
function Beginnings({
  pick,
  begin,
}: {
  pick: (file: File) => void;
  begin: (body: object) => void;
}) {
  return (
    <Grid container component="section" aria-label="Ways to begin" spacing={3}>
      <Way
        title="Your own data"
        words="A spreadsheet, CSV or study file: choose it, drop it anywhere on this page, or paste cells."
      >
        <FilePicker label="File to open" accept={READABLE} variant="contained" pick={pick}>
          <FileIcon /> Open data or a study
        </FilePicker>
      </Way>
      <Way
        title="A theory first"
        words="Declare variables, write numbered hypotheses and plan how many people it takes; bring the data when you have them."
      >
        <Button onClick={() => begin({ intent: "begin" })}>Start an empty study</Button>
      </Way>
      <Way
        title="Look around"
        words="Six made-up studies of a language café, one of them still being planned, to try everything on."
      >
        <Button onClick={() => begin({ intent: "demo" })}>Put the demo studies on the shelf</Button>
      </Way>
    </Grid>
  );
}

function Way({
  title,
  words,
  children,
}: {
  title: string;
  words: string;
  children: React.ReactNode;
}) {
  return (
    <Grid size={{ xs: 12, md: 4 }}>
      <Stack sx={{ alignItems: "flex-start", gap: 1, height: "100%" }}>
        <Typography variant="h3" component="h2">
          {title}
        </Typography>
        <Typography variant="body2" color="textSecondary" sx={{ flex: 1, maxWidth: "44ch" }}>
          {words}
        </Typography>
        {children}
      </Stack>
    </Grid>
  );
}
