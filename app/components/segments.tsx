interface Props<T extends string> {
  label: string;
  value: T;
  /** Keys with the words on their buttons. */
  choices: readonly (readonly [T, string])[];
  choose: (value: T) => void;
}

/** A choice of one among few, all in sight. */
export function Segments<T extends string>({ label, value, choices, choose }: Props<T>) {
  return (
    <div className="segments" role="group" aria-label={label}>
      {choices.map(([key, words]) => (
        <button key={key} type="button" aria-pressed={value === key} onClick={() => choose(key)}>
          {words}
        </button>
      ))}
    </div>
  );
}
