import { Dialog } from "../ui/dialog";
import { Glossary } from "./glossary-list";

/** The glossary over the page that a term was met on; opens at that term. */
export function GlossaryDialog({ at = "", close }: { at?: string; close: () => void }) {
  return (
    <Dialog title="Glossary" width="sm" close={close}>
      <Glossary at={at} />
    </Dialog>
  );
}
