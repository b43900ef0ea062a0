import { useState, type DragEvent, type ReactNode } from "react";
import { ImportDialog } from "./import-dialog";
import "./drop-target.css";

const hasFiles = (event: DragEvent): boolean => event.dataTransfer.types.includes("Files");

/** Takes a dropped file anywhere on the page and opens the import. */
export function DropTarget({ children }: { children: ReactNode }) {
  const [over, setOver] = useState(false);
  const [file, setFile] = useState<File | null>(null);
  return (
    <div
      className="drop-target"
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
      {over && <div className="drop-veil">Let go to open the file as a new study</div>}
      {file && <ImportDialog file={file} close={() => setFile(null)} />}
    </div>
  );
}
