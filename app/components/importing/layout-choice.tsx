import type { DataLayout, Separator } from "../../../formats";
import { Select } from "../ui/select";
import { Labelled } from "../ui/layout";

const SEPARATOR_WORDS: [Separator, string][] = [
  [",", "comma"],
  [";", "semicolon"],
  ["\t", "tab"],
  ["|", "bar |"],
];
/** Rows that are offered for the names. */
const OFFERED_ROWS = 25;

interface Props {
  layout: DataLayout;
  change: (layout: DataLayout) => void;
  chooseSheet: (sheet: number) => void;
}

/** How a file is laid out: its sheet or separator, and the row of names. */
export function LayoutChoice({ layout, change, chooseSheet }: Props) {
  return (
    <>
      {layout.sheets.length > 0 && (
        <Labelled>
          <span>Sheet</span>
          <Select value={layout.sheet} onChange={(e) => chooseSheet(Number(e.target.value))}>
            {layout.sheets.map((name, i) => (
              <option key={name} value={i}>
                {name}
              </option>
            ))}
          </Select>
        </Labelled>
      )}
      {layout.separator !== null && (
        <Labelled>
          <span>Cells are separated by</span>
          <Select
            value={layout.separator}
            onChange={(e) => change({ ...layout, separator: e.target.value as Separator })}
          >
            {SEPARATOR_WORDS.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </Select>
        </Labelled>
      )}
      <Labelled>
        <span>Names of the columns</span>
        <Select
          value={layout.headerRow}
          onChange={(e) => change({ ...layout, headerRow: Number(e.target.value) })}
        >
          {Array.from({ length: OFFERED_ROWS }, (_, i) => (
            <option key={i + 1} value={i + 1}>
              in row {i + 1}
            </option>
          ))}
          <option value={0}>there are none</option>
        </Select>
      </Labelled>
    </>
  );
}
