import { useState } from "react";
import { exchange, namedIn } from "./edit-text";
import { Line } from "./line";
import type { SentenceProps } from "./sentence";
import { Slot } from "./slot";

/** The wrong variable was chosen: one choice puts the right one into every sentence. */
export function ExchangeRow({
  text,
  statements,
  variables,
  change,
  close,
}: SentenceProps & { close: () => void }) {
  const [from, setFrom] = useState<string | null>(null);
  const named = namedIn(text, statements, variables);
  return (
    <Line
      minor
      name="Another variable everywhere"
      remove={{ label: "Leave the variables as they are", act: close }}
    >
      <p>
        in every sentence{" "}
        <Slot
          label="Variable to replace"
          placeholder="this variable"
          value={from}
          options={named}
          choose={setFrom}
        />{" "}
        becomes{" "}
        <Slot
          label="Variable in its place"
          placeholder="that one"
          value={null}
          options={variables.filter((v) => v !== from)}
          choose={(to) => {
            if (!from) return;
            change(exchange(text, statements, from, to));
            close();
          }}
        />
      </p>
    </Line>
  );
}
