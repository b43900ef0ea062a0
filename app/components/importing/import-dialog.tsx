import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import Stack from "@mui/material/Stack";
import { proxy, transfer } from "comlink";
import { useEffect, useRef, useState } from "react";
import { packTable, percent, type StudyDefinition, type Table, type Variable } from "../../../core";
import type { DataLayout } from "../../../formats";
import type { ImportPreview } from "../../workers/importing";
import { engine } from "../../workers/engine";
import { useAsk } from "../../actions/asking";
import { LayoutChoice } from "./layout-choice";
import { Preview } from "./preview";
import { withShortNames } from "./short-names";
import { Dialog } from "../ui/dialog";
import { Note, ScreenHead } from "../ui/layout";

const MAX_BYTES = 400 * 1024 * 1024;

/** The study whose data are to be replaced. */
export interface Replacing {
  id: string;
  definition: StudyDefinition;
  dataKey: string;
  table: Table;
}

type Stage =
  | { kind: "reading"; share: number }
  | { kind: "failed"; message: string; layout?: DataLayout }
  | {
      kind: "preview";
      layout: DataLayout;
      preview: ImportPreview;
      variables: Variable[];
      asMatrix: boolean;
    }
  | { kind: "misfits"; misfits: string[]; variables: Variable[]; asMatrix: boolean };

/**
 * Opens a file: a study goes straight to the shelf; a table is shown first, with what was guessed,
 * all open to change.
 */
export function ImportDialog({
  file,
  close,
  replacing,
}: {
  file: File;
  close: () => void;
  replacing?: Replacing;
}) {
  const { failed, ...finish } = useFinish(file, close, replacing);
  const { stage: read, setStage, parse, chooseSheet } = useReading(file, finish.open, !replacing);
  const stage: Stage = failed === null ? read : { kind: "failed", message: failed };
  const use = async (variables: Variable[], asMatrix: boolean): Promise<void> => {
    const misfits = replacing ? await misfitsOf(replacing, variables, asMatrix) : [];
    if (misfits.length > 0) setStage({ kind: "misfits", misfits, variables, asMatrix });
    else await finish.use(variables, asMatrix);
  };
  const layoutChoice = (layout: DataLayout) => (
    <LayoutChoice
      layout={layout}
      change={(next) => void parse(next)}
      chooseSheet={(sheet) => void chooseSheet(layout, sheet)}
    />
  );
  return (
    <Dialog
      title={file.name}
      width="lg"
      close={close}
      actions={
        <>
          <Button onClick={close}>{stage.kind === "failed" ? "Close" : "Cancel"}</Button>
          {stage.kind === "preview" && (
            <Button variant="contained" onClick={() => void use(stage.variables, stage.asMatrix)}>
              {replacing ? "Use these data" : "Start a study with these data"}
            </Button>
          )}
          {stage.kind === "misfits" && (
            <Button
              variant="contained"
              onClick={() => void finish.use(stage.variables, stage.asMatrix)}
            >
              Use these data all the same
            </Button>
          )}
        </>
      }
    >
      <Stack spacing={2} sx={{ minWidth: 0 }}>
        {stage.kind === "reading" && <Reading share={stage.share} />}
        {stage.kind === "failed" && (
          <>
            <Note role="alert">{stage.message}</Note>
            {stage.layout && <ScreenHead as="div">{layoutChoice(stage.layout)}</ScreenHead>}
          </>
        )}
        {stage.kind === "preview" && (
          <Preview
            preview={stage.preview}
            variables={stage.variables}
            asMatrix={stage.asMatrix}
            shorten={!replacing}
            layoutChoice={layoutChoice(stage.layout)}
            setVariables={(variables) => setStage({ ...stage, variables })}
            setAsMatrix={(asMatrix) => setStage({ ...stage, asMatrix })}
          />
        )}
        {stage.kind === "misfits" && <Misfits misfits={stage.misfits} />}
      </Stack>
    </Dialog>
  );
}

/** What would no longer fit if the data that were read replaced those of the study. */
async function misfitsOf(
  { definition, dataKey, table }: Replacing,
  variables: Variable[],
  asMatrix: boolean,
): Promise<string[]> {
  if (!(await engine().hasTable(dataKey))) await engine().setTable(dataKey, packTable(table));
  return engine().misfits(definition, variables, asMatrix);
}

/**
 * Reads a file in the worker, anew whenever its layout is chosen differently; only the latest
 * reading counts.
 */
function useReading(file: File, openStudy: () => Promise<void>, shorten: boolean) {
  const [stage, setStage] = useState<Stage>({ kind: "reading", share: 0 });
  const turn = useRef(0);
  const parse = async (layout: DataLayout): Promise<void> => {
    const own = ++turn.current;
    setStage({ kind: "reading", share: 0 });
    const progress = proxy((share: number) => {
      if (turn.current === own)
        setStage((now) => (now.kind === "reading" ? { kind: "reading", share } : now));
    });
    const result = await engine().preview(layout, progress);
    if (turn.current !== own) return;
    if (!result.ok) return setStage({ kind: "failed", message: result.message, layout });
    const preview = result.value;
    setStage({
      kind: "preview",
      layout,
      preview,
      variables: shorten ? withShortNames(preview.variables) : preview.variables,
      asMatrix: preview.matrix !== null,
    });
  };
  const chooseSheet = async (layout: DataLayout, sheet: number): Promise<void> => {
    const chosen = await engine().chooseSheet(layout, sheet);
    if (chosen.ok) await parse(chosen.value);
    else setStage({ kind: "failed", message: chosen.message, layout: { ...layout, sheet } });
  };
  useEffect(() => {
    let current = true;
    void (async () => {
      if (file.size > MAX_BYTES)
        return setStage({
          kind: "failed",
          message: "This file is larger than 400 MB. Export only the columns and rows you need.",
        });
      const bytes = new Uint8Array(await file.arrayBuffer());
      const opened = await engine().openFile(transfer(bytes, [bytes.buffer]));
      if (!current) return;
      if (!opened.ok) return setStage({ kind: "failed", message: opened.message });
      if (opened.value.kind === "study") return void (await openStudy());
      await parse(opened.value.layout);
    })();
    return () => {
      current = false;
    };
    // The file decides everything; the helpers are made anew at every render.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [file]);
  return { stage, setStage, parse, chooseSheet };
}

function Reading({ share }: { share: number }) {
  return (
    <div aria-busy="true">
      <p>Reading the file … {share > 0 && `${percent(Math.round(100 * share) / 100)} %`}</p>
      <LinearProgress variant="determinate" aria-label="Read so far" value={100 * share} />
    </div>
  );
}

/** What would break, before anything has been changed. */
function Misfits({ misfits }: { misfits: string[] }) {
  return (
    <Note role="alert">
      <p>Nothing has been changed yet. With these data the following would no longer fit:</p>
      <ul>
        {misfits.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
      <p>Using them can be undone.</p>
    </Note>
  );
}

/** Puts what the worker has read on the shelf, or into a study, through the route's action. */
function useFinish(file: File, close: () => void, replacing?: Replacing) {
  const ask = useAsk<{ ok: boolean; message?: string }>();
  const [failed, setFailed] = useState<string | null>(null);
  const send = async (body: object, action: string): Promise<void> => {
    const outcome = await ask(body, action);
    if (outcome?.ok === false) setFailed(outcome.message ?? "");
    else close();
  };
  return {
    failed,
    open: (): Promise<void> => send({ intent: "open" }, "/?index"),
    use: (variables: Variable[], asMatrix: boolean): Promise<void> => {
      if (replacing)
        return send({ intent: "replace", variables, asMatrix }, `/study/${replacing.id}`);
      const title = file.name.replace(/\.[^.]+$/, "").replace(/[_-]+/g, " ");
      return send(
        {
          intent: "import",
          title: title.charAt(0).toUpperCase() + title.slice(1),
          variables,
          asMatrix,
        },
        "/?index",
      );
    },
  };
}
