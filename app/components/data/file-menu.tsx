import Button from "@mui/material/Button";
import Popover from "@mui/material/Popover";
import Snackbar from "@mui/material/Snackbar";
import Stack from "@mui/material/Stack";
import { useState } from "react";
import { applyCodebook, codebookCsv, decodeText, FormatProblem } from "../../../formats";
import type { StudyContext } from "../../analysis/use-study";
import { download, fileName } from "../download";
import { FilePicker } from "../importing/file-picker";

interface Props {
  context: StudyContext;
  /** Takes a file with newer data. */
  replace: (file: File) => void;
}

/** Newer data, and what is known of the variables, out to a CSV and back in. */
export function FileMenu({ context, replace }: Props) {
  const { dataset, definition, edit } = context;
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [message, setMessage] = useState<string | null>(null);
  const close = (): void => setAnchor(null);
  const read = async (file: File): Promise<void> => {
    close();
    try {
      const { variables, notes, changed } = applyCodebook(
        decodeText(new Uint8Array(await file.arrayBuffer())),
        dataset.variables,
      );
      if (changed > 0) edit({ variables }, "codebook", `from ${file.name}`);
      setMessage(
        [
          `${changed} ${changed === 1 ? "variable" : "variables"} changed by ${file.name}.`,
          ...notes,
        ].join(" "),
      );
    } catch (error) {
      if (!(error instanceof FormatProblem)) throw error;
      setMessage(error.message);
    }
  };
  return (
    <>
      <Button aria-haspopup="dialog" onClick={(e) => setAnchor(e.currentTarget)}>
        Files
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={close}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        keepMounted
      >
        <Stack
          role="group"
          aria-label="Files"
          sx={{ p: 1, "& .MuiButton-root": { justifyContent: "flex-start" } }}
        >
          <FilePicker
            label="File with newer data"
            accept=".csv,.tsv,.txt,.json,.xlsx,.ods"
            variant="text"
            pick={(file) => {
              close();
              replace(file);
            }}
          >
            Replace the data by a newer file
          </FilePicker>
          <FilePicker
            label="Codebook file"
            accept=".csv,.tsv,.txt"
            variant="text"
            pick={(file) => void read(file)}
          >
            Read a codebook (CSV)
          </FilePicker>
          <Button
            variant="text"
            onClick={() => {
              close();
              download(
                fileName(definition.title, "-codebook.csv"),
                codebookCsv(dataset.variables),
                "text/csv",
              );
            }}
          >
            Export the codebook (CSV)
          </Button>
        </Stack>
      </Popover>
      <Snackbar
        open={message !== null}
        autoHideDuration={12_000}
        onClose={() => setMessage(null)}
        message={message}
      />
    </>
  );
}
