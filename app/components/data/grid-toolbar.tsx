import Button from "@mui/material/Button";
import Popover from "@mui/material/Popover";
import Stack from "@mui/material/Stack";
import { useState } from "react";
import { findCell, thousands, type Dataset } from "../../../core";
import type { GridView } from "./grid-view";
import { Check } from "../ui/check";
import { TextInput } from "../ui/text-input";
import { Spacer, Wrong } from "../ui/layout";
import { Bar } from "./parts";

interface Props {
  dataset: Dataset;
  view: GridView;
  /** Leaves the rows that fit the condition out of analyses. */
  leaveOut: (condition: string) => void;
}

/** Find, go to, show only some rows or columns: looking around, without changing anything. */
export function GridToolbar({ dataset, view, leaveOut }: Props) {
  const [find, setFind] = useState("");
  const [missed, setMissed] = useState(false);
  const hasLabels = dataset.variables.some((v) => v.labels && Object.keys(v.labels).length > 0);
  const next = (): void => {
    const place = findCell(dataset, view.order, view.names, find, view.active);
    setMissed(place === null && find.trim() !== "");
    if (place) view.setActive(place);
  };
  const goTo = (text: string): void => {
    const at = view.order.indexOf(Number(text) - 1);
    if (at >= 0) view.setActive({ row: at, column: view.active?.column ?? 0 });
  };
  return (
    <Bar role="search" aria-label="Look around in the data">
      <TextInput
        style={{ width: 190 }}
        aria-label="Find in the cells"
        placeholder="Find a text, Enter for the next"
        value={find}
        aria-invalid={missed}
        onChange={(e) => {
          setFind(e.target.value);
          setMissed(false);
        }}
        onKeyDown={(e) => e.key === "Enter" && next()}
      />
      <TextInput
        style={{ width: 54 }}
        aria-label="Go to row"
        placeholder="Row"
        inputMode="numeric"
        onKeyDown={(e) => e.key === "Enter" && goTo(e.currentTarget.value)}
      />
      <TextInput
        style={{ width: 280 }}
        aria-label="Show only rows where"
        placeholder="Show only rows where … (hours > 3)"
        value={view.condition}
        aria-invalid={view.problem !== null}
        onChange={(e) => view.setCondition(e.target.value)}
      />
      {view.condition.trim() !== "" && !view.problem && (
        <>
          <span className="quiet" role="status">
            {thousands(view.order.length)} {view.order.length === 1 ? "row" : "rows"}
          </span>
          <Button disabled={view.order.length === 0} onClick={() => leaveOut(view.condition)}>
            Leave these out of analyses
          </Button>
        </>
      )}
      <Spacer />
      {missed && <Wrong role="status">“{find}” is in no cell shown.</Wrong>}
      {view.problem && <Wrong role="status">{view.problem}</Wrong>}
      {hasLabels && (
        <Check
          label="labels instead of codes"
          checked={view.labels}
          onChange={(labels) => view.setLabels(labels)}
        />
      )}
      <ColumnChoice dataset={dataset} view={view} />
    </Bar>
  );
}

function ColumnChoice({ dataset, view }: { dataset: Dataset; view: GridView }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const names = dataset.table.columns.map((c) => c.name);
  const toggle = (name: string): void => {
    const hidden = new Set(view.hidden);
    if (!hidden.delete(name)) hidden.add(name);
    view.setHidden(hidden);
  };
  return (
    <>
      <Button aria-haspopup="dialog" onClick={(e) => setAnchor(e.currentTarget)}>
        Columns{view.hidden.size > 0 && ` (${names.length - view.hidden.size} of ${names.length})`}
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
      >
        <Stack
          role="group"
          aria-label="Columns to show"
          sx={{ p: "12px 16px", maxHeight: "50vh", overflow: "auto" }}
        >
          <div>
            <Button variant="text" onClick={() => view.setHidden(new Set())}>
              Show all
            </Button>
            <Button variant="text" onClick={() => view.setHidden(new Set(names))}>
              Hide all
            </Button>
          </div>
          {names.map((name) => (
            <Check
              key={name}
              label={name}
              checked={!view.hidden.has(name)}
              onChange={() => toggle(name)}
            />
          ))}
        </Stack>
      </Popover>
    </>
  );
}
