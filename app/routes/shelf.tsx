import { Snackbar } from "@mui/material";
import { useEffect, useState } from "react";
import { Link, redirect, useFetcher } from "react-router";
import type { Route } from "./+types/shelf";
import { readStudy, writeStudy } from "../../formats";
import { linesOf, thousands, unpackTable } from "../../core";
import { DropTarget } from "../components/importing/drop-target";
import { download, fileName } from "../components/download";
import { FilePicker } from "../components/importing/file-picker";
import { FileIcon } from "../components/icons";
import { ImportDialog } from "../components/importing/import-dialog";
import { Mark } from "../components/mark";
import { ThemeToggle } from "../components/top-bar";
import { VERDICT_WORDS, VerdictMark } from "../components/verdict";
import {
  addStudy,
  ensureDemo,
  listStudies,
  loadStudy,
  removeStudy,
  restoreStudy,
  studyOfTable,
  type RemovedStudy,
  type ShelfEntry,
} from "../storage/studies";
import { useLive } from "../storage/use-live";
import { engine } from "../workers/engine";
import type { LoadedStudy } from "../../formats";
import "./shelf.css";

async function fetchDemo(about: "mediation" | "moderation"): Promise<LoadedStudy> {
  const response = await fetch(`/demo.hebel.json?about=${about}`);
  if (!response.ok) throw new Error("The demo study could not be fetched.");
  return readStudy(await response.text());
}

export async function clientLoader() {
  // Without the demo the shelf still works; it is offered again next time.
  await ensureDemo(fetchDemo).catch(() => undefined);
  return { entries: await listStudies() };
}
clientLoader.hydrate = true as const;

let removed: RemovedStudy | null = null;

export async function clientAction({ request }: Route.ClientActionArgs) {
  const { intent, id, title, variables, asMatrix } = await request.json();
  if (intent === "open") {
    const { definition, table } = await engine().takeStudy();
    return redirect(`/study/${await addStudy({ definition, table: unpackTable(table) })}`);
  }
  if (intent === "import") {
    const table = unpackTable(await engine().takeTable(asMatrix === true));
    const described = table.moments
      ? table.columns.map(({ name }) => ({ name, level: "continuous" as const }))
      : variables;
    return redirect(`/study/${await addStudy(studyOfTable(title, table, described))}/data`);
  }
  if (intent === "demo")
    for (const about of ["moderation", "mediation"] as const)
      await addStudy(await fetchDemo(about));
  if (intent === "copy") {
    const loaded = await loadStudy(id);
    if (!loaded) return { ok: false };
    const { definition } = loaded.study;
    await addStudy({
      definition: { ...definition, title: `${definition.title} (copy)` },
      table: loaded.table,
    });
  }
  if (intent === "remove") removed = await removeStudy(id);
  if (intent === "restore" && removed) {
    await restoreStudy(removed);
    removed = null;
  }
  return { ok: true };
}

export const meta: Route.MetaFunction = () => [{ title: "Shelf · Hebel" }];

export default function Shelf({ loaderData }: Route.ComponentProps) {
  const [file, setFile] = useState<File | null>(null);
  const [gone, setGone] = useState<string | null>(null);
  const fetcher = useFetcher({ key: "shelf" });
  const act = (body: object): void =>
    void fetcher.submit(JSON.stringify(body), {
      method: "post",
      action: "/?index",
      encType: "application/json",
    });
  useLive(
    async () => (await listStudies()).map((e) => [e.study.id, e.study.revision, e.strip]),
    "shelf",
  );
  useEffect(() => void engine(), []);
  return (
    <DropTarget>
      <header className="shelf-head">
        <Mark />
        <div>
          <h1>Hebel</h1>
          <p className="quiet">From numbered hypotheses to evidence</p>
        </div>
        <span className="spacer" />
        <ThemeToggle />
        <FilePicker
          label="File to open"
          accept=".csv,.tsv,.txt,.json,.xlsx,.ods,text/csv,application/json"
          className="button main"
          pick={setFile}
        >
          <FileIcon /> Open data or a study
        </FilePicker>
      </header>
      <main className="shelf">
        <h2>Your shelf</h2>
        {loaderData.entries.length === 0 && <EmptyShelf />}
        <ul className="cards">
          {loaderData.entries.map((entry) => (
            <Card
              key={entry.study.id}
              entry={entry}
              copy={() => act({ intent: "copy", id: entry.study.id })}
              remove={() => {
                act({ intent: "remove", id: entry.study.id });
                setGone(entry.study.definition.title);
              }}
            />
          ))}
        </ul>
        <p className="quiet shelf-foot">
          Drop a spreadsheet, a CSV or a study file anywhere on this page, or paste cells from a
          spreadsheet. Everything stays in this browser until you export it.{" "}
          <button type="button" className="button bare" onClick={() => act({ intent: "demo" })}>
            Put fresh copies of the demo studies on the shelf
          </button>
        </p>
      </main>
      {file && <ImportDialog file={file} close={() => setFile(null)} />}
      <Snackbar
        open={gone !== null}
        autoHideDuration={10_000}
        onClose={() => setGone(null)}
        message={`“${gone}” was removed.`}
        action={
          <button
            type="button"
            className="button bare snack-action"
            onClick={() => {
              act({ intent: "restore" });
              setGone(null);
            }}
          >
            Put it back
          </button>
        }
      />
    </DropTarget>
  );
}

function EmptyShelf() {
  return (
    <p className="serif shelf-empty">
      Nothing here yet. Open a spreadsheet (XLSX, ODS or CSV) with one row for each person and a row
      of column names, or paste its cells here.
    </p>
  );
}

function Card({
  entry: { study, strip },
  copy,
  remove,
}: {
  entry: ShelfEntry;
  copy: () => void;
  remove: () => void;
}) {
  const { definition, id } = study;
  const exportStudy = async (): Promise<void> => {
    const loaded = await loadStudy(id);
    if (loaded)
      download(
        fileName(definition.title, ".hebel.json"),
        writeStudy({ definition, table: loaded.table }),
        "application/json",
      );
  };
  return (
    <li className="card">
      <Link to={`/study/${id}`} prefetch="intent" className="card-link">
        <h3>{definition.title || "Untitled study"}</h3>
        <p className="card-question serif">{definition.question || "No question written yet"}</p>
        <p className="quiet">
          {thousands(study.rows)} {definition.unit}, {study.columns} columns
        </p>
        <Strip strip={strip} theory={definition.theory} />
      </Link>
      <div className="card-foot">
        <time className="quiet" dateTime={new Date(study.updatedAt).toISOString()}>
          {new Date(study.updatedAt).toLocaleDateString("en-GB", {
            day: "numeric",
            month: "long",
            year: "numeric",
          })}
        </time>
        <span className="spacer" />
        <button
          type="button"
          className="button bare"
          onClick={copy}
          aria-label={`Duplicate ${definition.title}`}
        >
          Duplicate
        </button>
        <button
          type="button"
          className="button bare"
          onClick={() => void exportStudy()}
          aria-label={`Export ${definition.title}`}
        >
          Export
        </button>
        <button
          type="button"
          className="button bare"
          onClick={remove}
          aria-label={`Remove ${definition.title}`}
        >
          Remove
        </button>
      </div>
    </li>
  );
}

function Strip({ strip, theory }: { strip: ShelfEntry["strip"]; theory: string }) {
  if (!strip || strip.verdicts.length === 0) {
    const count = linesOf(theory, "hypothesis", "moderation").length;
    const words = count === 1 ? "one hypothesis" : `${count} hypotheses`;
    return (
      <p className="card-strip quiet">
        {count === 0 ? "no hypotheses yet" : `${words}, open to see the evidence`}
      </p>
    );
  }
  return (
    <ul className="card-strip" aria-label="Verdicts of the last run">
      {strip.verdicts.slice(0, 10).map(({ label, verdict, sentence }) => (
        <li key={label} title={`${label}: ${sentence}: ${VERDICT_WORDS[verdict]}`}>
          <span className="quiet">{label}</span> <VerdictMark verdict={verdict} word={false} />
        </li>
      ))}
    </ul>
  );
}
