import { Autocomplete, Popover, TextField } from "@mui/material";
import { useState } from "react";

interface Props {
  value: string | null;
  options: string[];
  placeholder: string;
  label: string;
  choose: (name: string) => void;
  /** Offered as the first entry, when the part of the sentence can be left out. */
  remove?: () => void;
}

/** One place in a sentence: reads as underlined text, opens a type-ahead over the study's variables. */
export function Slot({ value, options, placeholder, label, choose, remove }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const close = (): void => setAnchor(null);
  return (
    <>
      <button
        type="button"
        className={value ? "slot" : "slot empty"}
        aria-label={`${label}: ${value ?? "choose"}`}
        aria-haspopup="listbox"
        onClick={(e) => setAnchor(e.currentTarget)}
      >
        {value ?? placeholder}
      </button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={close}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
      >
        <div className="slot-picker">
          <Autocomplete
            options={options}
            value={value}
            open
            size="small"
            autoHighlight
            disableClearable={false}
            onChange={(_, chosen, reason) => {
              if (reason === "selectOption" && chosen) choose(chosen);
              close();
            }}
            onClose={(_, reason) => reason === "escape" && close()}
            slotProps={{ listbox: { sx: { maxHeight: 260 } } }}
            sx={{ width: 260 }}
            // The picker was opened to be typed into.
            // eslint-disable-next-line jsx-a11y/no-autofocus
            renderInput={(params) => <TextField {...params} autoFocus label={label} />}
          />
          {remove && (
            <button
              type="button"
              className="button bare"
              onClick={() => {
                close();
                remove();
              }}
            >
              Leave this out
            </button>
          )}
        </div>
      </Popover>
    </>
  );
}
