import { styled } from "@mui/material/styles";
import { Select } from "../ui/select";

const Shown = styled("span")({
  "& .MuiInputBase-root": { font: "inherit", fontStyle: "italic", background: "none" },
  "& .MuiOutlinedInput-notchedOutline": { border: "0 !important" },
  "& .MuiNativeSelect-icon": { display: "none" },
  "& select.MuiNativeSelect-select": {
    padding: "0 !important",
    minWidth: 0,
    minHeight: 0,
    height: "auto",
    fieldSizing: "content",
    lineHeight: 1.3,
    cursor: "pointer",
  },
  "& select:hover": { backgroundColor: "var(--petrol-wash)" },
});

/** The verb of a sentence; choosing another changes what is expected. */
export function VerbChoice<V extends string>({
  verb,
  verbs,
  choose,
}: {
  verb: V;
  verbs: readonly V[];
  choose: (verb: V) => void;
}) {
  return (
    <Shown>
      <Select aria-label="Direction" value={verb} onChange={(e) => choose(e.target.value as V)}>
        {verbs.map((each) => (
          <option key={each}>{each}</option>
        ))}
      </Select>
    </Shown>
  );
}
