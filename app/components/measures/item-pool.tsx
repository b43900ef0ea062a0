import Button from "@mui/material/Button";
import { styled } from "@mui/material/styles";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { ItemFamily } from "../../../core";
import { PlusIcon } from "../icons";
import { ITEM_TYPE } from "./measure-card";
import { NewMeasureDialog } from "./new-measure-dialog";

interface Props {
  /** Likely batteries of which no item is in a measure yet. */
  families: ItemFamily[];
  /** Numeric columns in no measure. */
  free: string[];
  /** Factors that may be items of a factor of second order. */
  factors: string[];
  /** Names that are in use. */
  taken: string[];
  make: (name: string, items: string[]) => void;
}

/**
 * What is not in a measure yet: likely batteries first, then every column, to be dragged onto a
 * measure.
 */
export function ItemPool({ families, free, factors, taken, make }: Props) {
  const [making, setMaking] = useState(false);
  return (
    <Pool aria-label="Columns in no measure">
      {families.length > 0 && (
        <>
          <Typography variant="h2">These look like batteries</Typography>
          <Families>
            {families.map(({ stem, items }) => (
              <li key={stem}>
                <p>
                  <strong>{stem}</strong> <span className="quiet">{items.length} items</span>
                </p>
                <p className="quiet">{items.join(", ")}</p>
                <Button sx={{ mt: 0.5 }} onClick={() => make(stem, items)}>
                  <PlusIcon /> Make a measure
                </Button>
              </li>
            ))}
          </Families>
        </>
      )}
      <Typography variant="h2">Columns in no measure</Typography>
      <p className="quiet">Drag one onto a measure, or add it there.</p>
      <Columns>
        {free.map((name) => (
          <li key={name} draggable onDragStart={(e) => e.dataTransfer.setData(ITEM_TYPE, name)}>
            {name}
          </li>
        ))}
      </Columns>
      <Button disabled={free.length + factors.length === 0} onClick={() => setMaking(true)}>
        <PlusIcon /> New measure
      </Button>
      {making && (
        <NewMeasureDialog {...{ free, factors, taken, make }} close={() => setMaking(false)} />
      )}
    </Pool>
  );
}

const Pool = styled("aside")({
  borderRight: "1px solid var(--line)",
  padding: "18px 20px",
  display: "grid",
  gridTemplateColumns: "minmax(0, 1fr)",
  gap: 10,
  alignContent: "start",
  justifyItems: "start",
});

const Families = styled("ul")({
  listStyle: "none",
  margin: "0 0 10px",
  padding: 0,
  display: "grid",
  gap: 10,
  fontSize: 14,
  "& li": { borderLeft: "3px solid var(--petrol)", paddingLeft: 10 },
});

const Columns = styled("ul")({
  listStyle: "none",
  margin: 0,
  padding: 0,
  display: "flex",
  flexWrap: "wrap",
  gap: 6,
  fontSize: 14,
  "& li": {
    padding: "2px 9px",
    border: "1px solid var(--line)",
    backgroundColor: "var(--sheet)",
    borderRadius: 2,
    cursor: "grab",
  },
});
