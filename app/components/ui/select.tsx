import NativeSelect, { type NativeSelectProps } from "@mui/material/NativeSelect";
import OutlinedInput from "@mui/material/OutlinedInput";
import type { ComponentProps } from "react";

/**
 * One of a list, by the browser's own list: it opens at once, can be typed into, and is known to
 * every screen reader. Takes what a `select` takes; where the label stands above it, use Choice of
 * field.tsx.
 */
export function Select({ className, value, onChange, ...native }: ComponentProps<"select">) {
  const props: Partial<NativeSelectProps> = {
    ...(className ? { className } : {}),
    ...(onChange ? { onChange: onChange as NativeSelectProps["onChange"] } : {}),
    inputProps: native as NativeSelectProps["inputProps"],
  };
  return <NativeSelect input={<OutlinedInput />} value={value ?? ""} {...props} />;
}
