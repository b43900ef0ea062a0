import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";

interface Props<T extends string> {
  label: string;
  value: T;
  /** Keys with the words on their buttons. */
  choices: readonly (readonly [T, string])[];
  choose: (value: T) => void;
}

/** A choice of one among few, all in sight. */
export function Segments<T extends string>({ label, value, choices, choose }: Props<T>) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      aria-label={label}
      value={value}
      onChange={(_, next: T | null) => next !== null && choose(next)}
    >
      {choices.map(([key, words]) => (
        <ToggleButton key={key} value={key}>
          {words}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
