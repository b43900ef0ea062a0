import IconButton, { type IconButtonProps } from "@mui/material/IconButton";
import Tooltip from "@mui/material/Tooltip";
import type { ReactNode } from "react";

interface Props extends Omit<IconButtonProps, "children"> {
  /** What it does; said to screen readers and, with the keys, when pointed at. */
  name: string;
  keys?: string;
  children: ReactNode;
}

/** A button that is only a picture; its name is one hover away. */
export function IconAction({ name, keys, children, ...rest }: Props) {
  return (
    <Tooltip title={keys ? `${name} (${keys})` : name}>
      <span>
        <IconButton aria-label={name} {...rest}>
          {children}
        </IconButton>
      </span>
    </Tooltip>
  );
}
