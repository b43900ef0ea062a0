import { useState, type KeyboardEvent } from "react";
import { checkedName, StudyProblem, type Variable } from "../../../core";
import { TextInput } from "../ui/text-input";
import { Labelled } from "../ui/layout";

interface Props {
  variable: Variable;
  /** Names of all columns, derived variables and measures. */
  taken: string[];
  rename: (to: string) => void;
}

/**
 * What a column is called in sentences; taken over when it is left or Enter is pressed, everywhere
 * at once.
 */
export function NameField({ variable, taken, rename }: Props) {
  const [text, setText] = useState(variable.name);
  const [problem, setProblem] = useState<string | null>(null);
  const take = (): void => {
    if (text.trim() === variable.name) return setProblem(null);
    try {
      rename(checkedName(text, taken));
    } catch (error) {
      if (!(error instanceof StudyProblem)) throw error;
      setProblem(error.message);
    }
  };
  const onKey = (event: KeyboardEvent): void => {
    if (event.key === "Enter") take();
    if (event.key === "Escape") {
      setText(variable.name);
      setProblem(null);
    }
  };
  return (
    <Labelled>
      <span>Name in sentences</span>
      <TextInput
        value={text}
        aria-invalid={problem !== null}
        onChange={(e) => setText(e.target.value)}
        onBlur={take}
        onKeyDown={onKey}
      />
      {problem && <small role="alert">{problem}</small>}
      {variable.column !== undefined && (
        <small className="quiet">“{variable.column}” in the data.</small>
      )}
    </Labelled>
  );
}
