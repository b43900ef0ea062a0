import { useState } from "react";
import { TextInput } from "../ui/text-input";

interface Props {
  label: string;
  value: number | null;
  onValue: (value: number | null) => void;
  /** What may be typed; others are marked and not taken over. */
  from: number;
  to: number;
  placeholder?: string;
  width?: number;
}

/** A number to be typed, with a point or a comma; nothing typed means nothing said. */
export function SizeField({
  label,
  value,
  onValue,
  from,
  to,
  placeholder = "?",
  width = 62,
}: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? (value === null ? "" : String(value));
  const number = Number(text.trim().replace(",", ".").replace("\u2212", "-"));
  const isFine = (n: number): boolean => Number.isFinite(n) && n >= from && n <= to;
  return (
    <TextInput
      aria-label={label}
      title={label}
      inputMode="decimal"
      placeholder={placeholder}
      value={text}
      aria-invalid={text.trim() !== "" && !isFine(number)}
      style={{ width, textAlign: "center", padding: "3px 4px", fontWeight: 600 }}
      onChange={(e) => {
        const next = e.target.value;
        setTyped(next);
        const n = Number(next.trim().replace(",", ".").replace("\u2212", "-"));
        if (next.trim() === "") onValue(null);
        else if (isFine(n)) onValue(n);
      }}
      onBlur={() => setTyped(null)}
    />
  );
}
