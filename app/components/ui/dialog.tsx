import MuiDialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useId, type ReactNode } from "react";

/**
 * A dialog: its title, what is asked, and the buttons below. It fills the window where that is
 * small.
 */
export function Dialog({
  title,
  close,
  actions,
  width = "sm",
  children,
}: {
  title: string;
  close: () => void;
  actions?: ReactNode;
  width?: "xs" | "sm" | "md" | "lg";
  children: ReactNode;
}) {
  const id = useId();
  const small = useMediaQuery("(max-width: 640px), (max-height: 480px)");
  return (
    <MuiDialog
      open
      onClose={close}
      fullWidth
      fullScreen={small}
      maxWidth={width}
      aria-labelledby={id}
    >
      <DialogTitle id={id} component="h2">
        {title}
      </DialogTitle>
      <DialogContent>{children}</DialogContent>
      {actions && <DialogActions>{actions}</DialogActions>}
    </MuiDialog>
  );
}
