import Box from "@mui/material/Box";
import { useState } from "react";
import { own, levelsInOrder, type TextColumn, type Variable } from "../../../core";
import { TextInput } from "../ui/text-input";
import { Disclosure } from "../ui/disclosure";
import { Labelled } from "../ui/layout";
import { Group } from "./parts";

export interface FieldProps {
  variable: Variable;
  change: (patch: Partial<Variable>) => void;
}

export function MissingCodes({ variable, change }: FieldProps) {
  const [text, setText] = useState((variable.missing ?? []).join(", "));
  return (
    <Labelled>
      <span>Codes for missing values</span>
      <TextInput
        value={text}
        placeholder="-99, NA"
        onChange={(e) => {
          setText(e.target.value);
          change({
            missing: e.target.value
              .split(",")
              .map((t) => t.trim())
              .filter((t) => t !== ""),
          });
        }}
      />
      <small className="quiet">An empty cell is always missing.</small>
    </Labelled>
  );
}

function Limit({
  which,
  value,
  set,
}: {
  which: "lowest" | "highest";
  value: string;
  set: (text: string) => void;
}) {
  const label = `${which === "lowest" ? "Lowest" : "Highest"} value that can occur`;
  return (
    <TextInput
      aria-label={label}
      inputMode="decimal"
      placeholder={which}
      value={value}
      onChange={(e) => set(e.target.value)}
    />
  );
}

/**
 * Lowest and highest value that can occur: the limits for reversing, and what counts as a range
 * error.
 */
export function Range({ variable, change }: FieldProps) {
  const [low, setLow] = useState(variable.range ? String(variable.range[0]) : "");
  const [high, setHigh] = useState(variable.range ? String(variable.range[1]) : "");
  const set = (from: string, to: string): void => {
    const [a, b] = [Number(from), Number(to)];
    if (from.trim() === "" && to.trim() === "") change({ range: undefined });
    else if (from.trim() !== "" && to.trim() !== "" && a < b) change({ range: [a, b] });
  };
  return (
    <Group role="group" aria-label="Values that can occur">
      <span>Values that can occur</span>
      <Box component="span" sx={{ display: "flex", alignItems: "center", gap: 1 }}>
        <Limit
          which="lowest"
          value={low}
          set={(text) => {
            setLow(text);
            set(text, high);
          }}
        />
        to
        <Limit
          which="highest"
          value={high}
          set={(text) => {
            setHigh(text);
            set(low, text);
          }}
        />
      </Box>
      {low.trim() !== "" && high.trim() !== "" && !(Number(low) < Number(high)) && (
        <small role="alert">
          The lowest must be a number below the highest; until then nothing is changed.
        </small>
      )}
    </Group>
  );
}

/** At most so many values can be labelled one by one. */
const MOST_LABELS = 12;

export function ValueLabels({ variable, column, change }: FieldProps & { column: TextColumn }) {
  const values = levelsInOrder(column, variable);
  if (variable.level === "identifier" || values.length === 0 || values.length > MOST_LABELS)
    return null;
  const set = (code: string, label: string): void => {
    const labels = Object.fromEntries(
      Object.entries({ ...variable.labels, [code]: label }).filter(
        ([, text]) => text.trim() !== "",
      ),
    );
    change({ labels: Object.keys(labels).length > 0 ? labels : undefined });
  };
  return (
    <Disclosure summary="Labels of the answers" initiallyOpen={variable.labels !== undefined}>
      {values.map((code) => (
        <Box
          component="label"
          key={code}
          sx={{
            display: "grid",
            gridTemplateColumns: "48px 1fr",
            alignItems: "center",
            gap: 1,
            mt: 0.5,
          }}
        >
          <Box component="span" sx={{ textAlign: "right", fontSize: 14 }}>
            {code}
          </Box>
          <TextInput
            aria-label={`Label of ${code}`}
            defaultValue={own(variable.labels, code) ?? ""}
            onChange={(e) => set(code, e.target.value)}
          />
        </Box>
      ))}
    </Disclosure>
  );
}
