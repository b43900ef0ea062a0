import Button from "@mui/material/Button";
import { styled } from "@mui/material/styles";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { AnswerBattery, ItemFamily } from "../../../core";
import { PlusIcon } from "../icons";
import { ITEM_TYPE } from "./measure-card";
import { NewMeasureDialog } from "./new-measure-dialog";

/** From so many items on a battery may be several measures. */
const SEVERAL = 6;

interface Props {
  /** Likely batteries of which no item is in a measure yet. */
  families: ItemFamily[];
  /** Neighbours that are answered on one scale, whatever they are called. */
  alike: AnswerBattery[];
  /** Asks which items belong together: of such a battery, by its first item, or of all for "". */
  explore: ((which: string) => void) | null;
  /** Numeric columns in no measure. */
  free: string[];
  /** Factors that may be items of a factor of second order. */
  factors: string[];
  /** Names that are in use. */
  taken: string[];
  hasMeasures: boolean;
  make: (name: string, items: string[]) => void;
}

/**
 * What is not in a measure yet: likely batteries first, then every column, to be dragged onto a
 * measure.
 */
export function ItemPool({
  families,
  alike,
  explore,
  free,
  factors,
  taken,
  hasMeasures,
  make,
}: Props) {
  const [making, setMaking] = useState(false);
  return (
    <Pool aria-label="Columns in no measure">
      <Button disabled={free.length + factors.length === 0} onClick={() => setMaking(true)}>
        <PlusIcon /> New measure
      </Button>
      {explore && free.length >= 3 && (
        <Button variant="text" onClick={() => explore("")}>
          Which items belong together?
        </Button>
      )}
      {families.length > 0 && (
        <>
          <Typography variant="h2">These look like batteries</Typography>
          <Families>
            {families.map(({ stem, items }) => (
              <li key={stem}>
                <p>
                  <strong>{stem}</strong> <span className="quiet">{items.length} items</span>
                </p>
                <p className="quiet">
                  {items.length > 8 ? `${items[0]} … ${items.at(-1)}` : items.join(", ")}
                </p>
                <Button sx={{ mt: 0.5 }} onClick={() => make(stem, items)}>
                  <PlusIcon /> Make a measure
                </Button>
                {explore && items.length >= SEVERAL && (
                  <Button variant="text" sx={{ mt: 0.5 }} onClick={() => explore(items[0]!)}>
                    How many factors?
                  </Button>
                )}
              </li>
            ))}
          </Families>
        </>
      )}
      {explore && alike.length > 0 && (
        <>
          <Typography variant="h2">Answered on one scale</Typography>
          <Families>
            {alike.map(({ items, low, high }) => (
              <li key={items[0]}>
                <p>
                  <strong>{items.length} columns</strong>{" "}
                  <span className="quiet">
                    {low} to {high}
                  </span>
                </p>
                <p className="quiet">
                  {items[0]} … {items.at(-1)}
                </p>
                <Button sx={{ mt: 0.5 }} onClick={() => explore(items[0]!)}>
                  How many factors?
                </Button>
              </li>
            ))}
          </Families>
        </>
      )}
      <Typography variant="h2">Columns in no measure</Typography>
      {free.length === 0 ? (
        <p className="quiet">Every numeric column is in a measure.</p>
      ) : (
        hasMeasures && <p className="quiet">Drag one onto a measure, or add it there.</p>
      )}
      <Columns>
        {free.map((name) => (
          <li key={name} draggable onDragStart={(e) => e.dataTransfer.setData(ITEM_TYPE, name)}>
            {name}
          </li>
        ))}
      </Columns>
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
