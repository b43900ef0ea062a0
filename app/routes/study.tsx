import Box from "@mui/material/Box";
import { styled } from "@mui/material/styles";
import { useCallback, useEffect, useRef, useState, type ReactNode } from "react";
import { data, useLocation, type ShouldRevalidateFunctionArgs } from "react-router";
import type { Route } from "./+types/study";
import { leftOutTold, provisionalTold, type Evidence } from "../../core";
import { answering } from "../actions/asking";
import { studyAction } from "../actions/study-action";
import type { Analysis, AnalysisState } from "../analysis/analysis";
import { useForScreens } from "../analysis/for-screens";
import { useAnalysis } from "../analysis/use-analysis";
import { useStudyState, type StudyContext } from "../analysis/use-study";
import { useTell } from "../analysis/use-tell";
import { useShortcuts } from "../commands/registry";
import { AboutDialog } from "../components/frame/open-about";
import { Announcer } from "../components/frame/announcer";
import { CommandPalette } from "../components/frame/command-palette";
import { GlossaryDialog } from "../components/frame/glossary-dialog";
import { Fault, LeftOutNotice } from "../components/frame/fault";
import { NARROW, Rail } from "../components/frame/rail";
import { ScreenOrWait } from "../components/frame/needs-rows";
import { SettingsDialog } from "../components/frame/settings-dialog";
import { useStudyCommands } from "../components/frame/study-commands";
import { StorageNotices } from "../components/frame/storage-notices";
import { ThreadNotice } from "../components/frame/thread-notice";
import { TopBar } from "../components/frame/top-bar";
import { LeftOutOfNumbers } from "../components/ui/left-out";
import { NumbersOfBefore } from "../components/ui/numbers-of-before";
import { GlossaryOpener } from "../components/ui/term";
import { DropTarget } from "../components/importing/drop-target";
import { database, TAB, type StoredStudy } from "../storage/database";
import { evidenceKey, findEvidence } from "../storage/results";
import { dataKeyOf, historyDepth, loadStudy, recoverPending } from "../storage/studies";
import { keepingOf } from "../storage/open";
import { useLive } from "../storage/use-live";

let recovered: string | null = null;
/** The study that is open in this tab; its running analysis knows more than what is kept. */
let open: string | null = null;

/** Evidence kept of the study as it stands, so that the first thing drawn is complete. */
const knownOf = (study: StoredStudy): Promise<Evidence | null> =>
  findEvidence(evidenceKey(study.definition, dataKeyOf(study))).catch(() => null);

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  // Once per visit: later the note belongs to what is being typed in this tab.
  if (recovered !== params.id) await recoverPending(params.id);
  recovered = params.id;
  const loaded = await loadStudy(params.id);
  if (!loaded)
    throw data(
      "This study is not on the shelf of this browser. It may have been removed, or it lives in another browser.",
      { status: 404 },
    );
  const [history, known] = await Promise.all([
    historyDepth(params.id),
    open === params.id ? null : knownOf(loaded.study),
  ]);
  return { ...loaded, history, known };
}
clientLoader.hydrate = true as const;

export const clientAction = async ({ params, request }: Route.ClientActionArgs) =>
  answering(request, (body) => studyAction(params.id, body));

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: loaderData ? `${loaderData.study.definition.title} · Hebel` : "Hebel" },
];

const Frame = styled("div")({
  display: "grid",
  gridTemplate: "auto minmax(0, 1fr) / 88px minmax(0, 1fr)",
  height: "100vh",
  [NARROW]: { gridTemplate: "auto auto minmax(0, 1fr) / minmax(0, 1fr)" },
  "@media print": { display: "block", height: "auto" },
});

/**
 * The page itself; it takes the focus when another screen opens, so that keys scroll it and readers
 * begin there.
 */
const Page = styled("main")({
  overflow: "auto",
  minWidth: 0,
  position: "relative",
  "@media print": { overflow: "visible" },
});

/** Where nothing can be read any more, what is open stays as it is. */
export const shouldRevalidate = ({ defaultShouldRevalidate }: ShouldRevalidateFunctionArgs) =>
  defaultShouldRevalidate && keepingOf().kind !== "overtaken";

export default function Study({ loaderData }: Route.ComponentProps) {
  return <StudyFrame key={loaderData.study.id} {...loaderData} />;
}

function StudyFrame({ study, table, history, known }: Route.ComponentProps["loaderData"]) {
  const context = useStudyState(study, table, known);
  const forScreens = useForScreens(context);
  const [dialog, setOpen] = useState<"settings" | "palette" | "glossary" | "about" | null>(null);
  const step = useHistory(context);
  const openSettings = useCallback(() => setOpen("settings"), []);
  const [term, setTerm] = useState("");
  const openGlossary = useCallback((at = "") => {
    setTerm(at);
    setOpen("glossary");
  }, []);
  const openAbout = useCallback(() => setOpen("about"), []);
  const openPalette = useCallback(() => setOpen("palette"), []);
  const togglePalette = useCallback(
    () => setOpen((was) => (was === "palette" ? null : "palette")),
    [],
  );
  const close = (): void => setOpen(null);
  useStudyCommands(forScreens, { step, openSettings, openGlossary, openAbout, togglePalette });
  useShortcuts();
  useLive(async () => {
    const stored = await database.studies.get(study.id);
    return { value: stored?.revision ?? null, own: stored?.origin === TAB };
  }, study.id);
  useEffect(() => {
    open = study.id;
    return () => {
      open = null;
    };
  }, [study.id]);
  useEffect(() => {
    document.title = `${context.definition.title || "Untitled study"} · Hebel`;
  }, [context.definition.title]);
  const page = usePageFocus();
  return (
    <DropTarget>
      <SkipLink />
      <Frame>
        <Rail context={forScreens} />
        <TopBar
          head={context}
          context={forScreens}
          {...{ history, step, openSettings, openGlossary, openPalette }}
        />
        <Page id="main" ref={page} tabIndex={-1}>
          <StorageNotices context={context} />
          <ThreadNotice />
          <Fault context={context} />
          <LeftOutNotice analysis={context.analysis} />
          <GlossaryOpener value={openGlossary}>
            <Current analysis={context.analysis}>
              <ScreenOrWait context={forScreens} />
            </Current>
          </GlossaryOpener>
        </Page>
      </Frame>
      <Announcer analysis={context.analysis} />
      {dialog === "palette" && <CommandPalette close={close} />}
      {dialog === "glossary" && <GlossaryDialog at={term} close={close} />}
      {dialog === "about" && <AboutDialog close={close} />}
      {dialog === "settings" && <SettingsDialog context={context} close={close} />}
    </DropTarget>
  );
}

/** Screens of numbers alone, which are dimmed as long as they are of before. */
const OF_NUMBERS = new Set(["evidence", "probe", "checks", "compare", "report"]);
const leftOutWords = ({ evidence }: AnalysisState): string =>
  evidence ? [...leftOutTold(evidence), ...provisionalTold(evidence)].join(" ") : "";
const isBefore = ({ before }: AnalysisState): boolean => before;

/** Marks numbers that are those of the study as it was before. */
function Current({ analysis, children }: { analysis: Analysis; children: ReactNode }) {
  const before = useAnalysis(analysis, isBefore);
  const screen = useLocation().pathname.split("/").at(-1)!;
  const dimmed = before && OF_NUMBERS.has(screen);
  const leftOut = useAnalysis(analysis, leftOutWords);
  return (
    <NumbersOfBefore value={before}>
      <LeftOutOfNumbers value={OF_NUMBERS.has(screen) ? leftOut : ""}>
        <Box
          aria-busy={before}
          sx={{ display: "contents", "& > *": dimmed ? { opacity: 0.6 } : undefined }}
        >
          {children}
        </Box>
      </LeftOutOfNumbers>
    </NumbersOfBefore>
  );
}

function useHistory(context: StudyContext): (way: "undo" | "redo") => void {
  const { flush } = context.writer;
  const tell = useTell(context, "history");
  return useCallback((intent) => void flush().then(() => tell({ intent })), [flush, tell]);
}

/** Gives the focus to the page when another screen opens, unless something on it has taken it. */
function usePageFocus() {
  const page = useRef<HTMLElement>(null);
  const { pathname } = useLocation();
  useEffect(() => {
    // The page begins where it is: scrolling to it would lay everything out twice.
    if (!page.current?.contains(document.activeElement))
      page.current?.focus({ preventScroll: true });
  }, [pathname]);
  return page;
}

function SkipLink() {
  return (
    <Box
      component="a"
      href="#main"
      sx={{
        position: "absolute",
        left: 8,
        top: -60,
        zIndex: 10,
        px: 2,
        py: 1,
        backgroundColor: "var(--sheet)",
        border: "1px solid var(--line)",
        "&:focus": { top: 8 },
      }}
    >
      Skip to the page
    </Box>
  );
}
