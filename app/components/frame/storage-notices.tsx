import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useEffect, useState, useSyncExternalStore, type ReactNode } from "react";
import type { StudyContext } from "../../analysis/use-study";
import { keepingOf, onKeeping, type Keeping } from "../../storage/open";
import { exportStudy } from "../export-study";
import { copyText } from "../ui/clipboard";
import { Row } from "../ui/layout";

const PLACE = { m: "16px 24px 0" } as const;

const MEMORY_WORDS = {
  "no storage":
    "This browser keeps nothing here (a private window, or storage is forbidden): studies live until this tab is closed. Export what you want to keep.",
  "no answer":
    "The storage of this browser does not answer: the studies in it cannot be shown, and what you do here lives until this tab is closed. Export what you want to keep, then reload, or start the browser anew.",
  "later version":
    "The studies in this browser were written by a newer version of Hebel; they are untouched, and this version cannot open them. Reload to get the newer version. What you do here meanwhile lives until this tab is closed: export it.",
} as const;

const OVERTAKEN_WORDS = {
  "later version":
    "A newer version of Hebel, in another tab, has taken over the studies of this browser. Nothing is written from here any more: export what is open, then reload.",
  deleted:
    "The storage of this browser was cleared while this tab was open. What is open is only here now: export it, then reload.",
} as const;

/** As long as nobody knows: what the server draws. */
const AT_FIRST: Keeping = { kind: "browser" };

/**
 * Where nothing is kept, that is said on every page.
 * @param action what can be done about it here
 */
export function MemoryNotice({ action }: { action?: ReactNode }) {
  const keeping = useSyncExternalStore(onKeeping, keepingOf, () => AT_FIRST);
  if (keeping.kind === "browser") return null;
  return (
    <Alert severity="warning" sx={PLACE} action={action}>
      {keeping.kind === "memory" ? MEMORY_WORDS[keeping.reason] : OVERTAKEN_WORDS[keeping.reason]}
    </Alert>
  );
}

/** What a page that is served without encryption cannot do, said once. */
export function WithoutEncryption() {
  // The server does not know how it is reached.
  const [plain, setPlain] = useState(false);
  useEffect(() => setPlain(!isSecureContext), []);
  return plain ? (
    <p className="quiet">
      Served without encryption (http): everything works, but this browser cannot keep the program
      for times without a network.
    </p>
  ) : null;
}

/** What could not be written, and what another tab has changed at the same moment. */
export function StorageNotices({ context }: { context: StudyContext }) {
  const { writer, study, definition, raw, edit } = context;
  const { problem, lost } = useSyncExternalStore(
    writer.subscribe,
    writer.snapshot,
    writer.snapshot,
  );
  return (
    <>
      <MemoryNotice
        action={
          <Button size="small" onClick={() => exportStudy(study, definition, raw)}>
            Export the study
          </Button>
        }
      />
      {problem && (
        <Alert
          severity="error"
          sx={PLACE}
          action={
            <Row>
              <Button size="small" onClick={() => exportStudy(study, definition, raw)}>
                Export the study
              </Button>
              <Button size="small" onClick={writer.retry}>
                Try again
              </Button>
            </Row>
          }
        >
          {problem}
        </Alert>
      )}
      {lost && (
        <Alert
          severity="warning"
          sx={PLACE}
          onClose={writer.dismiss}
          action={
            <Row>
              <Button
                size="small"
                onClick={() => {
                  edit(lost, "mine instead of another tab's");
                  writer.dismiss();
                }}
              >
                Use mine
              </Button>
              <Button size="small" onClick={() => void copyText(textOf(lost))}>
                Copy mine
              </Button>
              <Button size="small" onClick={writer.dismiss}>
                Keep theirs
              </Button>
            </Row>
          }
        >
          Another tab changed the same part of this study at the same moment ({namesOf(lost)}); its
          version stands, and yours is kept here.
        </Alert>
      )}
    </>
  );
}

const NAMES: Record<string, string> = {
  theory: "the same sentences",
  settings: "the analysis settings",
  variables: "the variables",
  derived: "the derived variables",
  corrections: "the corrections",
  filters: "the filters",
  screening: "the screening sets",
  title: "the title",
  question: "the question",
  unit: "the unit",
  log: "the log",
};

const namesOf = (lost: object): string =>
  Object.keys(lost)
    .map((key) => NAMES[key] ?? key)
    .join(", ");

const textOf = (lost: object): string =>
  Object.values(lost)
    .map((value) => (typeof value === "string" ? value : JSON.stringify(value, null, 2)))
    .join("\n\n");
