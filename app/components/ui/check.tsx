import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import type { ReactNode } from "react";

/** Yes or no, with its words beside it. */
export function Check({
  label,
  checked,
  disabled = false,
  onChange,
}: {
  label: ReactNode;
  checked: boolean;
  disabled?: boolean;
  onChange: (checked: boolean) => void;
}) {
  return (
    <FormControlLabel
      label={label}
      disabled={disabled}
      control={<Checkbox checked={checked} onChange={(e) => onChange(e.target.checked)} />}
    />
  );
}
