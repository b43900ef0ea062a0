import Box from "@mui/material/Box";
import { styled } from "@mui/material/styles";
import { useEffect, useState, type DragEvent, type ReactNode } from "react";
import { ImportDialog, prepareImport } from "./open-import";

const hasFiles = (event: DragEvent): boolean => event.dataTransfer.types.includes("Files");

const Veil = styled("div")({
  position: "fixed",
  inset: 12,
  border: "2px dashed var(--petrol)",
  background: "color-mix(in srgb, var(--petrol-wash) 85%, transparent)",
  display: "grid",
  placeContent: "center",
  font: "600 1.4rem var(--serif)",
  zIndex: 10,
  pointerEvents: "none",
});

/**
 * Takes a dropped file, or cells pasted from a spreadsheet, anywhere on the page and opens the
 * import.
 */
export function DropTarget({ children }: { children: ReactNode }) {
  const [over, setOver] = useState(false);
  const [file, setFile] = useState<File | null>(null);
  useEffect(prepareImport, []);
  useEffect(() => {
    const onPaste = (event: ClipboardEvent): void => {
      const typing =
        event.target instanceof HTMLElement &&
        // A line within an editor is not itself what is edited.
        event.target.closest("input, textarea, select, [contenteditable]") !== null;
      const pasted = event.clipboardData?.files[0];
      const text = event.clipboardData?.getData("text/plain") ?? "";
      if (typing || event.defaultPrevented || (!pasted && !/\n/.test(text.trim()))) return;
      event.preventDefault();
      setFile(pasted ?? new File([text], "Pasted cells.tsv", { type: "text/plain" }));
    };
    addEventListener("paste", onPaste);
    return () => removeEventListener("paste", onPaste);
  }, []);
  return (
    <Box
      sx={{ minHeight: "100%" }}
      onDragOver={(e) => {
        if (!hasFiles(e)) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={(e) => {
        if (e.currentTarget === e.target) setOver(false);
      }}
      onDrop={(e) => {
        if (!hasFiles(e)) return;
        e.preventDefault();
        setOver(false);
        setFile(e.dataTransfer.files[0] ?? null);
      }}
    >
      {children}
      {over && <Veil>Let go to open the file as a new study</Veil>}
      {file && <ImportDialog file={file} close={() => setFile(null)} />}
    </Box>
  );
}
