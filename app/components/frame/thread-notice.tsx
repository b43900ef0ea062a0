import Alert from "@mui/material/Alert";
import { useSyncExternalStore } from "react";
import { onWithoutWorkers, withoutWorkers } from "../../workers/thread";

/** Where the browser starts no workers everything is slower, and that is said on every page. */
export function ThreadNotice() {
  const alone = useSyncExternalStore(onWithoutWorkers, withoutWorkers, () => false);
  if (!alone) return null;
  return (
    <Alert severity="info" sx={{ m: "16px 24px 0" }}>
      This browser starts no threads for Hebel (an extension or a setting forbids workers, or it is
      short of memory): everything is computed in the page, with the same numbers, slower, and
      typing may stutter meanwhile. Reload to try again.
    </Alert>
  );
}
