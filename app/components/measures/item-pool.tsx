import Button from "@mui/material/Button";
import type { ItemFamily } from "../../../core";
import { PlusIcon } from "../icons";
import { ITEM_TYPE } from "./measure-card";

interface Props {
  /** Likely batteries of which no item is in a measure yet. */
  families: ItemFamily[];
  /** Numeric columns in no measure. */
  free: string[];
  make: (name: string, items: string[]) => void;
}

/** What is not in a measure yet: likely batteries first, then every column, to be dragged onto a measure. */
export function ItemPool({ families, free, make }: Props) {
  return (
    <aside className="pool" aria-label="Columns in no measure">
      {families.length > 0 && (
        <>
          <h2>These look like batteries</h2>
          <ul className="families">
            {families.map(({ stem, items }) => (
              <li key={stem}>
                <p>
                  <strong>{stem}</strong> <span className="quiet">{items.length} items</span>
                </p>
                <p className="quiet">{items.join(", ")}</p>
                <Button onClick={() => make(stem, items)}>
                  <PlusIcon /> Make a measure
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
      <h2>Columns in no measure</h2>
      <p className="quiet">Drag one onto a measure, or add it there.</p>
      <ul className="pool-items">
        {free.map((name) => (
          <li key={name} draggable onDragStart={(e) => e.dataTransfer.setData(ITEM_TYPE, name)}>
            {name}
          </li>
        ))}
      </ul>
      <Button disabled={free.length === 0} onClick={() => make("measure", free.slice(0, 1))}>
        <PlusIcon /> Empty measure
      </Button>
    </aside>
  );
}
