import Button from "@mui/material/Button";
import ButtonBase from "@mui/material/ButtonBase";
import Popover from "@mui/material/Popover";
import { styled } from "@mui/material/styles";
import { use, useRef, useState } from "react";
import { Picker } from "../ui/picker";
import { VariableDetails } from "./variable-details";

interface Props {
  value: string | null;
  options: string[];
  placeholder: string;
  label: string;
  choose: (name: string) => void;
  /** Offered beneath the list, when the part of the sentence can be left out. */
  remove?: () => void;
  /** What the slot is called where another part of the sentence hands the focus on to it. */
  place?: string;
}

const Place = styled(ButtonBase)({
  font: "inherit",
  color: "inherit",
  verticalAlign: "baseline",
  padding: "0 1px",
  lineHeight: 1.25,
  fontWeight: 600,
  borderRadius: 0,
  borderBottom: "2px solid var(--petrol)",
  "&:hover": { backgroundColor: "var(--petrol-wash)" },
  "&.empty": {
    fontWeight: 400,
    fontSize: "0.92em",
    color: "var(--quiet)",
    borderBottom: "1.5px dotted var(--quiet)",
  },
});

/** One place in a sentence: reads as underlined text, opens a list of the study's variables to type into. */
export function Slot({ value, options, placeholder, label, choose, remove, place }: Props) {
  const details = use(VariableDetails);
  const button = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState(false);
  const close = (): void => setOpen(false);
  /** Back to where one was, unless the choice has led elsewhere. */
  const restore = (): void => {
    if (document.activeElement === document.body) button.current?.focus();
  };
  return (
    <>
      <Place
        ref={button}
        className={value ? "" : "empty"}
        aria-label={`${label}: ${value ?? "choose"}`}
        aria-haspopup="listbox"
        data-place={place}
        onClick={() => setOpen(true)}
      >
        {value ?? placeholder}
      </Place>
      <Popover
        open={open}
        anchorEl={button.current}
        onClose={close}
        disableRestoreFocus
        transitionDuration={0}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        slotProps={{
          paper: { sx: { width: 340, maxWidth: "94vw" } },
          // Once it is gone, and the field that had the focus with it.
          transition: { onExited: () => setTimeout(restore) },
        }}
      >
        <Picker
          label={label}
          placeholder={value ? `${value}, or type another` : `${label}: type a name`}
          options={options.map((name) => ({ value: name, detail: details.get(name) }))}
          current={value}
          nothing="No variable of this study has these letters."
          choose={(name) => {
            choose(name);
            close();
          }}
        />
        {remove && (
          <Button
            variant="text"
            sx={{ m: "4px 6px" }}
            onClick={() => {
              close();
              remove();
            }}
          >
            Leave this out
          </Button>
        )}
      </Popover>
    </>
  );
}
