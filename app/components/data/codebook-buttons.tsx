import { Snackbar } from "@mui/material";
import { useState } from "react";
import { applyCodebook, codebookCsv, decodeText, FormatProblem } from "../../../formats";
import type { StudyContext } from "../../analysis/use-study";
import { download, fileName } from "../download";
import { FilePicker } from "../importing/file-picker";

/** What is known of the variables, out to a CSV and back in. */
export function CodebookButtons({ context }: { context: StudyContext }) {
  const { dataset, definition, edit } = context;
  const [message, setMessage] = useState<string | null>(null);
  const read = async (file: File): Promise<void> => {
    try {
      const { variables, notes, changed } = applyCodebook(decodeText(new Uint8Array(await file.arrayBuffer())), dataset.variables);
      if (changed > 0) edit({ variables }, "codebook", `from ${file.name}`);
      setMessage([`${changed} ${changed === 1 ? "variable" : "variables"} changed by ${file.name}.`, ...notes].join(" "));
    } catch (error) {
      if (!(error instanceof FormatProblem)) throw error;
      setMessage(error.message);
    }
  };
  return (
    <>
      <FilePicker label="Codebook file" accept=".csv,.tsv,.txt" className="button" pick={(file) => void read(file)}>
        Read a codebook
      </FilePicker>
      <button
        type="button"
        className="button"
        onClick={() => download(fileName(definition.title, "-codebook.csv"), codebookCsv(dataset.variables), "text/csv")}
      >
        Codebook
      </button>
      <Snackbar open={message !== null} autoHideDuration={12_000} onClose={() => setMessage(null)} message={message} />
    </>
  );
}
