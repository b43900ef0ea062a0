import FormControl from "@mui/material/FormControl";
import FormHelperText from "@mui/material/FormHelperText";
import FormLabel from "@mui/material/FormLabel";
import NativeSelect from "@mui/material/NativeSelect";
import OutlinedInput, { type OutlinedInputProps } from "@mui/material/OutlinedInput";
import type { SxProps } from "@mui/material/styles";
import { useId, type ReactNode } from "react";

interface Labelled {
  /** The name of the field; above it, or for screen readers alone where `hidden`. */
  label: string;
  hidden?: boolean | undefined;
  help?: ReactNode;
  /** What is wrong with the entry; said instead of the help. */
  problem?: string | null | undefined;
  sx?: SxProps;
}

/** A field with its label above and its help below, tied together for those who do not see it. */
function Frame({
  label,
  hidden,
  help,
  problem,
  sx,
  children,
}: Labelled & { children: (ids: { id: string; describedBy: string | undefined }) => ReactNode }) {
  const id = useId();
  const said = problem ?? help;
  return (
    <FormControl error={Boolean(problem)} sx={{ minWidth: 0, ...sx }} fullWidth={!hidden}>
      <FormLabel htmlFor={id} className={hidden ? "visually-hidden" : ""} sx={{ mb: "3px" }}>
        {label}
      </FormLabel>
      {children({ id, describedBy: said ? `${id}-help` : undefined })}
      {said && (
        <FormHelperText id={`${id}-help`} role={problem ? "alert" : undefined}>
          {said}
        </FormHelperText>
      )}
    </FormControl>
  );
}

export interface Option {
  value: string;
  words: string;
  disabled?: boolean;
}

interface ChoiceProps extends Labelled {
  value: string;
  options: readonly (Option | readonly [value: string, words: string])[];
  disabled?: boolean;
  onChange: (value: string) => void;
  className?: string;
}

/**
 * One of a list, by the browser's own list: it opens at once, can be typed into, and is known to
 * every screen reader.
 */
export function Choice({ value, options, onChange, disabled, className, ...rest }: ChoiceProps) {
  return (
    <Frame {...rest}>
      {({ id, describedBy }) => (
        <NativeSelect
          input={<OutlinedInput />}
          {...(className ? { className } : {})}
          inputProps={{ id, "aria-describedby": describedBy }}
          value={value}
          disabled={disabled ?? false}
          onChange={(e) => onChange(e.target.value)}
        >
          {options.map((option) => {
            const one = isPair(option) ? { value: option[0], words: option[1] } : option;
            return (
              <option
                key={one.value}
                value={one.value}
                disabled={"disabled" in one && one.disabled}
              >
                {one.words}
              </option>
            );
          })}
        </NativeSelect>
      )}
    </Frame>
  );
}

const isPair = (option: ChoiceProps["options"][number]): option is readonly [string, string] =>
  Array.isArray(option);

interface EntryProps extends Labelled, Omit<OutlinedInputProps, "label" | "onChange" | "sx"> {
  value: string;
  onChange: (value: string) => void;
}

/** A line, or several, to be typed into. */
export function Entry({
  label,
  hidden,
  help,
  problem,
  sx,
  onChange,
  inputProps,
  ...rest
}: EntryProps) {
  return (
    <Frame {...{ label, hidden, help, problem, ...(sx ? { sx } : {}) }}>
      {({ id, describedBy }) => (
        <OutlinedInput
          {...rest}
          id={id}
          error={Boolean(problem)}
          inputProps={{ ...inputProps, "aria-describedby": describedBy }}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </Frame>
  );
}
