import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { Dialog } from "../ui/dialog";
import { Entry } from "../ui/field";

interface Props {
  free: string[];
  /** Factors that may be items of a factor of second order. */
  factors: string[];
  taken: string[];
  make: (name: string, items: string[]) => void;
  close: () => void;
}

/** A measure begins with its name and its items; nothing is put in that was not chosen. */
export function NewMeasureDialog({ free, factors, taken, make, close }: Props) {
  const [name, setName] = useState("");
  const [items, setItems] = useState<string[]>([]);
  const wanted = name.trim();
  const problem = taken.includes(wanted)
    ? `“${wanted}” is the name of another column or measure.`
    : wanted.includes('"')
      ? "A name cannot hold quotation marks."
      : null;
  const ready = wanted !== "" && problem === null && items.length > 0;
  const keep = (): void => {
    if (!ready) return;
    make(wanted, items);
    close();
  };
  return (
    <Dialog
      title="New measure"
      close={close}
      actions={
        <>
          <Button onClick={close}>Cancel</Button>
          <Button variant="contained" disabled={!ready} onClick={keep}>
            Make the measure
          </Button>
        </>
      }
    >
      <Stack spacing={2}>
        <Entry label="Name" value={name} problem={problem} onChange={setName} />
        <Autocomplete
          multiple
          disableCloseOnSelect
          size="small"
          options={[...free, ...factors]}
          groupBy={(name) => (factors.includes(name) ? "Factors" : "Columns")}
          value={items}
          onChange={(_, chosen) => setItems(chosen)}
          renderInput={(params) => (
            <TextField
              {...params}
              label="Items"
              helperText={
                items.some((name) => factors.includes(name))
                  ? "A factor among its items: the measure becomes a factor of second order."
                  : undefined
              }
            />
          )}
        />
      </Stack>
    </Dialog>
  );
}
