import Button from "@mui/material/Button";
import ButtonBase from "@mui/material/ButtonBase";
import Popover from "@mui/material/Popover";
import { styled } from "@mui/material/styles";
import { use, useRef, useState, type KeyboardEvent } from "react";
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
  /** Without it the sentence is not whole: a choice made elsewhere in the line leads here next. */
  needed?: boolean;
}

const Place = styled(ButtonBase)({
  font: "inherit",
  color: "inherit",
  verticalAlign: "baseline",
  padding: "0 1px",
  textAlign: "left",
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

/** So long, milliseconds, a sentence may take to be written, and so often one looks. */
const WRITTEN_WITHIN = 600;
const LOOK_EVERY = 40;

/**
 * After a choice in a line: on to what the sentence still needs, else to the name chosen, which may
 * stand in a slot of its own by then; unless the focus has gone somewhere else meanwhile.
 * @param from the slot that was chosen in, and its list
 */
function goOnIn(
  line: HTMLElement,
  name: string,
  from: readonly (Element | null | undefined)[],
  left = WRITTEN_WITHIN / LOOK_EVERY,
): void {
  setTimeout(() => {
    const { activeElement } = document;
    if (activeElement !== document.body && !from.some((place) => place?.contains(activeElement)))
      return;
    const now = line.isConnected
      ? line
      : document.querySelector<HTMLElement>(`section[data-line="${line.dataset.line}"]`);
    const slots = [...(now?.querySelectorAll<HTMLElement>("[aria-haspopup=listbox]") ?? [])];
    const own = slots.find((slot) => slot.textContent === name);
    if (own) (slots.find((slot) => slot.matches("[data-needed].empty")) ?? own).focus();
    else if (left > 1) goOnIn(line, name, from, left - 1);
  }, LOOK_EVERY);
}

/**
 * One place in a sentence: reads as underlined text, opens a list of the study's variables to type
 * into.
 */
export function Slot({
  value,
  options,
  placeholder,
  label,
  choose,
  remove,
  place,
  needed = false,
}: Props) {
  const details = use(VariableDetails);
  const button = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState(false);
  /**
   * Back to where one was, unless the choice has led elsewhere; once the list is gone, and the
   * field that had the focus with it.
   */
  const close = (): void => {
    setOpen(false);
    setTimeout(() => {
      if (document.activeElement === document.body) button.current?.focus();
    });
  };
  /** A letter typed on the slot is the first of a name. */
  const typeInto = ({ key, ctrlKey, metaKey, altKey }: KeyboardEvent): void => {
    if (key.length === 1 && key !== " " && !ctrlKey && !metaKey && !altKey) setOpen(true);
  };
  return (
    <>
      <Place
        ref={button}
        className={value ? "" : "empty"}
        aria-label={`${label}: ${value ?? "choose"}`}
        aria-haspopup="listbox"
        data-place={place}
        data-needed={needed || undefined}
        onClick={() => setOpen(true)}
        onKeyDown={typeInto}
      >
        {value ?? placeholder}
      </Place>
      {/* A theory has many slots: none carries a list before it is opened. */}
      {open && (
        <Popover
          open
          anchorEl={button.current}
          onClose={close}
          disableRestoreFocus
          transitionDuration={0}
          anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
          slotProps={{ paper: { sx: { width: 340, maxWidth: "94vw" } } }}
        >
          <Picker
            label={label}
            placeholder={value ? `${value}, or type another` : `${label}: type a name`}
            options={options.map((name) => ({ value: name, detail: details.get(name) }))}
            current={value}
            nothing="No variable of this study has these letters."
            choose={(name) => {
              const slot = button.current;
              const line = slot?.closest("section");
              const list = document.activeElement?.closest(".MuiPopover-root");
              choose(name);
              close();
              if (line) goOnIn(line, name, [slot, list]);
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
      )}
    </>
  );
}
