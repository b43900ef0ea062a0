import type { Evidence, NameRef } from "../../../core";
import { Slot } from "./slot";

interface Props {
  variable: NameRef;
  evidence: Evidence | null;
  choose: (variable: NameRef) => void;
}

/**
 * Which two levels of a categorical variable a sentence compares; nothing for a variable without
 * levels.
 */
export function Comparison({ variable, evidence, choose }: Props) {
  const levels = evidence?.codings.find((c) => c.variable === variable.name)?.levels ?? [];
  const { compared, ...plain } = variable;
  if (levels.length === 0 && !compared) return null;
  const pairs = levels.flatMap((upper) =>
    levels.filter((lower) => lower !== upper).map((lower) => ({ upper, lower })),
  );
  const wordsOf = ({ upper, lower }: { upper: string; lower: string }): string =>
    `${upper} against ${lower}`;
  return (
    <span style={{ fontSize: "0.86em" }}>
      {" ("}
      <Slot
        label="Levels compared"
        placeholder="all levels"
        value={compared ? wordsOf(compared) : null}
        options={pairs.map(wordsOf)}
        choose={(words) =>
          choose({ ...plain, compared: pairs.find((pair) => wordsOf(pair) === words)! })
        }
        remove={() => choose(plain)}
      />
      {")"}
    </span>
  );
}
