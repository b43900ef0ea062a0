import { styled } from "@mui/material/styles";
import { writtenVerb, type ModerationVerb, type Verb } from "../../../core";
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

type AnyVerb = Verb | ModerationVerb;

/**
 * The verb of a sentence; choosing another changes what is expected. The plural is for names such
 * as “hours”.
 */
export function VerbChoice<V extends AnyVerb>({
  verb,
  plural,
  verbs,
  choose,
}: {
  verb: V;
  plural: boolean | undefined;
  verbs: readonly V[];
  choose: (said: { verb: V; plural: boolean }) => void;
}) {
  const forms = [false, true].flatMap((many) =>
    verbs.map((each) => ({ verb: each, plural: many })),
  );
  return (
    <Shown>
      <Select
        aria-label="Direction"
        value={writtenVerb(verb, plural)}
        onChange={(e) =>
          choose(forms.find((form) => writtenVerb(form.verb, form.plural) === e.target.value)!)
        }
      >
        {forms.map((form) => {
          const words = writtenVerb(form.verb, form.plural);
          return <option key={words}>{words}</option>;
        })}
      </Select>
    </Shown>
  );
}
