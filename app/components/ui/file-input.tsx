import type { Ref } from "react";

interface Props {
  ref: Ref<HTMLInputElement>;
  label: string;
  accept: string;
  pick: (file: File) => void;
}

/** The browser's own file field, out of sight; choosing the same file twice counts twice. */
export function FileInput({ ref, label, accept, pick }: Props) {
  return (
    <input
      ref={ref}
      type="file"
      className="visually-hidden"
      tabIndex={-1}
      aria-label={label}
      accept={accept}
      onChange={(e) => {
        const file = e.target.files?.[0];
        if (file) pick(file);
        e.target.value = "";
      }}
    />
  );
}
