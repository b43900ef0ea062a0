import { useEffect } from "react";
import { data, Outlet } from "react-router";
import type { Route } from "./+types/study";
import { useStudyState } from "../analysis/use-study";
import { CommandPalette } from "../components/command-palette";
import { DropTarget } from "../components/importing/drop-target";
import { Fault } from "../components/fault";
import { Rail } from "../components/rail";
import { TopBar } from "../components/top-bar";
import { unpackTable } from "../../core";
import { database } from "../storage/database";
import {
  changeStudy,
  clearPending,
  historyDepth,
  recoverPending,
  replaceData,
  loadStudy,
  stepHistory,
} from "../storage/studies";
import { useLive } from "../storage/use-live";
import { engine } from "../workers/engine";
import "./study.css";

let recovered: string | null = null;

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  // Once per visit: later the note belongs to what is being typed in this tab.
  if (recovered !== params.id) await recoverPending(params.id);
  recovered = params.id;
  const loaded = await loadStudy(params.id);
  if (!loaded)
    throw data(
      "This study is not on the shelf of this browser. It may have been removed, or it lives in another browser.",
      {
        status: 404,
      },
    );
  return { ...loaded, history: await historyDepth(params.id) };
}
clientLoader.hydrate = true as const;

export async function clientAction({ params, request }: Route.ClientActionArgs) {
  const body = await request.json();
  if (body.intent === "change") {
    await changeStudy(params.id, body.patch, body.kind, body.why);
    clearPending(params.id, body.patch);
  }
  if (body.intent === "replace")
    await replaceData(
      params.id,
      unpackTable(await engine().takeTable(body.asMatrix === true)),
      body.variables,
    );
  if (body.intent === "undo" || body.intent === "redo") await stepHistory(params.id, body.intent);
  return { ok: true };
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: loaderData ? `${loaderData.study.definition.title} · Hebel` : "Hebel" },
];

export default function Study({ loaderData }: Route.ComponentProps) {
  return <StudyFrame key={loaderData.study.id} {...loaderData} />;
}

function StudyFrame({ study, table, history }: Route.ComponentProps["loaderData"]) {
  const context = useStudyState(study, table);
  useLive(async () => (await database.studies.get(study.id))?.revision, study.id);
  useEffect(() => {
    document.title = `${context.definition.title || "Untitled study"} · Hebel`;
  }, [context.definition.title]);
  return (
    <DropTarget>
      <div className="frame">
        <Rail context={context} />
        <TopBar context={context} history={history} />
        <main className="frame-main" id="main">
          <Fault context={context} />
          <Outlet context={context} />
        </main>
        <CommandPalette context={context} />
      </div>
    </DropTarget>
  );
}
