import Button from "@mui/material/Button";
import Snackbar from "@mui/material/Snackbar";
import { useState, useSyncExternalStore } from "react";
import { onUpdate, waitingUpdate } from "../../offline/updates";

/** Offers a newer version of the program; until it is taken the one that is open stays. */
export function UpdateNotice() {
  const update = useSyncExternalStore(onUpdate, waitingUpdate, () => null);
  const [later, setLater] = useState(false);
  return (
    <Snackbar
      open={update !== null && !later}
      message="A newer version of Hebel is ready."
      action={
        <>
          <Button variant="text" onClick={() => update?.take()}>
            Load it now
          </Button>
          <Button variant="text" onClick={() => setLater(true)}>
            Later
          </Button>
        </>
      }
    />
  );
}
