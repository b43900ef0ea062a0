import InputBase from "@mui/material/InputBase";
import OutlinedInput from "@mui/material/OutlinedInput";
import type { ComponentProps } from "react";

type Handler<E> = React.EventHandler<React.SyntheticEvent<E>>;

interface Props extends Omit<ComponentProps<"input">, "size" | "color" | "ref"> {
  /** Without a frame, for text that reads as part of the page. */
  bare?: boolean;
  size?: number;
}

/**
 * A line to be typed into. Takes what an `input` takes; where the label stands above it, use Entry
 * of field.tsx.
 */
export function TextInput({ bare = false, className, ...native }: Props) {
  const Shown = bare ? InputBase : OutlinedInput;
  return (
    <Shown
      {...(className ? { className } : {})}
      error={native["aria-invalid"] === true || native["aria-invalid"] === "true"}
      inputProps={native as ComponentProps<"input"> & { onChange?: Handler<HTMLInputElement> }}
    />
  );
}
