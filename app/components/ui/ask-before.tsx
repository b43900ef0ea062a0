import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Dialog } from "./dialog";

interface Props {
  /** What is about to go, as in “the measure confidence”. */
  what: string;
  /** What needs it, one in a line. */
  uses: readonly string[];
  remove: () => void;
  close: () => void;
}

/** Asks before something goes that others need, and names them. */
export function AskBeforeRemoval({ what, uses, remove, close }: Props) {
  return (
    <Dialog
      title={`Remove ${what}?`}
      close={close}
      actions={
        <>
          <Button onClick={close}>Keep it</Button>
          <Button
            variant="outlined"
            onClick={() => {
              close();
              remove();
            }}
          >
            Remove it all the same
          </Button>
        </>
      }
    >
      <Typography>
        {uses.length === 1 ? "This needs it" : `These ${uses.length} need it`}, and what cannot be
        read without it is left out until it is mended. Undo brings everything back.
      </Typography>
      <ul style={{ fontFamily: "var(--serif)", paddingLeft: 20 }}>
        {uses.map((use) => (
          <li key={use}>{use}</li>
        ))}
      </ul>
    </Dialog>
  );
}
